import { expect, test } from '@playwright/test';
import { pick } from './pick';
import { newProject, toRushes } from './project';

test('a song is brought in on Rushes, heard, counted in bars, taken away and put back', async ({
  page,
}) => {
  const project = await newProject(page, 'Heard');
  await toRushes(page);
  await page.getByLabel('Files').setInputFiles('demo/sounds/harbour-static.flac');
  const play = page.getByRole('button', { name: 'Play harbour-static' });
  await expect(play).toBeVisible({ timeout: 60_000 });
  await expect(page.getByText(/0:24\.0 · stereo · 48 kHz · flac · −19\.7 LUFS/)).toBeVisible();

  // Its own clock leads, from where it was clicked.
  const along = page.getByRole('slider', { name: 'Where harbour-static is heard' });
  const box = (await along.boundingBox())!;
  await page.mouse.click(box.x + box.width / 2, box.y + box.height / 2);
  await expect(along).toHaveAttribute('aria-valuenow', '12');
  await play.click();
  await expect(along).toHaveAttribute('aria-valuenow', '13', { timeout: 20_000 });
  await page.getByRole('button', { name: 'Pause harbour-static' }).click();

  // Found at twice their number, with the eighths.
  const beats = page.getByRole('group', { name: 'Beats of harbour-static' });
  await expect(beats).toContainText('200.0 beats a minute');
  await pick(beats.getByLabel('counted'), 'half');
  await expect(beats).toContainText('100.0 beats a minute');
  const said = async (): Promise<unknown> => {
    const view = await page.request.get(`/api/projects/${project}`);
    return ((await view.json()) as { sounds: { said: object }[] }).sounds[0]?.said;
  };
  await expect.poll(said).toMatchObject({ counted: 'half', begins: 0 });
  await along.focus();
  await page.keyboard.press('Home');
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('b');
  await expect.poll(said).toMatchObject({ counted: 'half', begins: 2 });

  await page.getByRole('button', { name: 'Take the sound harbour-static away' }).click();
  await expect(play).toBeHidden();
  await page.getByRole('button', { name: 'put it back' }).click();
  await expect(play).toBeVisible();
  await expect(beats).toContainText('100.0 beats a minute');
});
