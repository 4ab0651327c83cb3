/** The Assembly: clips laid against a song by mouse and keys, heard, undone, and one file of all. */
import { writeFile } from 'node:fs/promises';
import { expect, type Page, test } from '@playwright/test';
import type { CutView } from '../web/data/views';
import { pick } from './pick';
import { bring, bringFiles, facts, newProject, parked } from './project';

const saved = (page: Page) => expect(page.locator('[data-kept="saved"]')).toBeVisible();
/** Places of the lowest row, as the server has them: where, how long, from which frame. */
async function places(page: Page, project: string): Promise<string[]> {
  const view = (await (await page.request.get(`/api/projects/${project}/cut`)).json()) as CutView;
  return view.document.rows[0]!.places.map((p) => `${p.at}+${p.frames}<${p.in}`);
}

test('a cut is made against a song, and becomes one file with its sound', async ({ page }) => {
  const project = await newProject(page, 'Cut');
  await bring(page, 'floor-tom', 'gulls');
  await bringFiles(page, 'demo/sounds/harbour-static.flac');
  await page.goto(`/p/${project}/assembly`);
  await expect(page.getByText(/Nothing stands here yet/)).toBeVisible();
  await page.getByRole('button', { name: 'lay in at the playhead' }).click();
  const clips = page.getByRole('list', { name: 'Clips' });
  await clips.getByRole('button', { name: 'floor-tom' }).click();
  await clips.getByRole('button', { name: 'gulls' }).click({ modifiers: ['Control'] });
  await page.getByRole('button', { name: 'at the end' }).click();
  await expect.poll(() => places(page, project)).toEqual(['0+75<0', '75+80<0']);
  await parked(page);

  // The second one's beginning is dragged to the left, over the first: they overlap.
  const lines = page.getByRole('list', { name: 'The page of music' });
  const second = lines.locator('[data-place="place-2"]').first();
  await second.click();
  await page.keyboard.press('Shift+ArrowLeft');
  await page.keyboard.press('Shift+ArrowLeft');
  await expect.poll(() => places(page, project)).toEqual(['0+75<0', '73+80<0']);
  const box = (await second.boundingBox())!;
  await page.mouse.move(box.x + 20, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x - 40, box.y + box.height / 2, { steps: 4 });
  await page.mouse.up();
  await saved(page);
  const [, dragged] = await places(page, project);
  expect(Number(dragged!.split('+')[0])).toBeLessThan(70);
  // A drag is one step back.
  await page.keyboard.press('Control+z');
  await expect.poll(() => places(page, project)).toEqual(['0+75<0', '73+80<0']);

  // A split at the playhead, and away with the tail; then a mix over what is left.
  await page.keyboard.press('Home');
  for (let i = 0; i < 60; i++) await page.keyboard.press('ArrowRight');
  await page.keyboard.press('Escape');
  await page.keyboard.press('s');
  await expect.poll(() => places(page, project)).toEqual(['0+60<0', '60+15<60', '73+80<0']);
  await lines.locator('[data-place="place-3"]').first().click();
  await page.keyboard.press('Delete');
  await expect.poll(() => places(page, project)).toEqual(['0+60<0', '73+80<0']);
  await page.getByRole('button', { name: 'close the gap' }).click();
  await expect.poll(() => places(page, project)).toEqual(['0+60<0', '60+80<0']);
  await second.click();
  const panel = page.getByRole('group', { name: 'Place of gulls' });
  await pick(panel.getByLabel('transition'), 'wipe');
  // Gulls has no frame before its first: the one that goes gives its half, and that is said.
  await expect(page.getByRole('alert')).toContainText('the footage lacks 6 before what comes');
  await expect(panel.getByText('over 6 frames')).toBeVisible();
  await page.getByRole('button', { name: 'close', exact: true }).click();
  await parked(page);

  // It is played in time with what is heard.
  await page.keyboard.press('Home');
  await page.keyboard.press('Space');
  await expect(page.getByText(/of 25 pictures a second/)).toBeVisible();
  await expect(page.getByTestId('time')).toHaveText(/0:0[2-9]/, { timeout: 30_000 });
  await page.keyboard.press('Space');

  // A version is kept, and opened again.
  await page.getByRole('button', { name: 'keep a version' }).click();
  await page.getByLabel('Name of the version').fill('rough');
  await page.keyboard.press('Enter');
  await expect(page.getByLabel('Versions of the cut')).toBeVisible();
  await page.keyboard.press('Control+a');
  await page.keyboard.press('Delete');
  await expect.poll(() => places(page, project)).toEqual([]);
  await pick(page.getByLabel('Versions of the cut'), { label: '1 · rough' });
  await expect.poll(() => places(page, project)).toEqual(['0+66<0', '60+80<0']);

  // The song is cut short, so that the file is as long as the pictures.
  await page.request.get(`/api/projects/${project}/cut`).then(async (r) => {
    const { document, revision } = (await r.json()) as CutView;
    const sounds = document.sounds.map((s) => ({ ...s, samples: 4 * 48_000 }));
    const put = await page.request.put(`/api/projects/${project}/cut`, {
      data: { document: { ...document, sounds }, revision },
    });
    expect(put.status()).toBe(200);
  });
  await page.getByRole('link', { name: 'render …' }).click();
  await page.waitForURL(/kiln\?cut/);
  await expect(page.getByText(/5\.6 s at 25 frames a second/)).toBeVisible();
  await page.getByRole('radio', { name: /FFV1/ }).check();
  await page.getByLabel('Width').fill('160');
  await page.getByLabel('Height').fill('90');
  await page.getByRole('button', { name: 'Render the cut' }).click();
  const item = page.locator('[data-clip="Cut"][data-state="done"]');
  await expect(item).toBeVisible({ timeout: 120_000 });
  const href = (await item.getByRole('link', { name: 'download' }).getAttribute('href'))!;
  const file = test.info().outputPath('cut.mkv');
  await writeFile(file, await (await page.request.get(href)).body());
  const { streams } = await facts(file);
  expect(streams.map((s) => [s.codec_type, s.codec_name])).toEqual([
    ['video', 'ffv1'],
    ['audio', 'flac'],
  ]);
  expect(streams[0]).toMatchObject({ nb_read_packets: '140', width: 160, height: 90 });
});

test('two people change a cut: both are shown, and nothing is lost', async ({ page, context }) => {
  const project = await newProject(page, 'Two cutters');
  await bring(page, 'gulls');
  await page.goto(`/p/${project}/assembly`);
  const clips = page.getByRole('list', { name: 'Clips' });
  await clips.getByRole('button', { name: 'gulls' }).dblclick();
  await expect.poll(() => places(page, project)).toEqual(['0+80<0']);
  const other = await context.newPage();
  await other.goto(`/p/${project}/assembly`);
  await expect(other.locator('[data-place="place-1"]').first()).toBeVisible();
  // What others do is shown at once where nothing of one's own is open.
  await page.locator('[data-place="place-1"]').first().click();
  await page.keyboard.press('Shift+ArrowRight');
  await expect(
    other.getByRole('button', { name: 'gulls, 80 frames from 1' }).first(),
  ).toBeVisible();
  // Without the server edits are kept here; the other goes on meanwhile.
  await page.route('**/cut', (r) => (r.request().method() === 'PUT' ? r.abort() : r.continue()));
  await page.keyboard.press('Shift+ArrowRight');
  await expect(page.locator('[data-kept="kept here"]')).toBeVisible();
  await other.locator('[data-place="place-1"]').first().click();
  await other.keyboard.press('Shift+ArrowLeft');
  await expect.poll(() => places(other, project)).toEqual(['0+80<0']);
  await page.unroute('**/cut');
  await expect(page.getByText(/Somebody else has changed the cut/)).toBeVisible();
  await page.getByRole('button', { name: 'keep mine' }).click();
  await expect.poll(() => places(page, project)).toEqual(['2+80<0']);
});
