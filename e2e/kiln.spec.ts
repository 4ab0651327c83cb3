/**
 * The Kiln: clips as stills under their looks, rendered, and played on the page beside the
 * original.
 */
import { expect, type Page, test } from '@playwright/test';
import { bring, newProject } from './project';

const playable = (page: Page) =>
  page
    .getByLabel(/as it was rendered/)
    .evaluate(
      (v) =>
        (v as unknown as { videoWidth: number; readyState: number; duration: number }).videoWidth,
    );

test('a rendered file plays on the page, and one key shows what it was', async ({ page }) => {
  const project = await newProject(page, 'Played');
  await bring(page, 'gulls', 'kelp');
  await page.goto(`/p/${project}/kiln`);
  const clips = page.getByRole('list', { name: 'Clips to render' });
  await expect(clips.locator('img')).toHaveCount(2, { timeout: 60_000 });
  await clips.getByRole('checkbox', { name: 'kelp' }).click();
  await expect(clips.getByRole('checkbox', { name: 'kelp' })).not.toBeChecked();
  await page.getByRole('radio', { name: /FFV1/ }).check();
  await page.getByLabel('Width').fill('160');
  await page.getByLabel('Height').fill('90');
  await page.getByRole('button', { name: 'Render 1 clip' }).click();
  const item = page.locator('[data-clip="gulls"][data-state="done"]');
  await expect(item).toBeVisible({ timeout: 120_000 });
  await item.getByRole('button', { name: 'play' }).click();
  // Browsers cannot read FFV1, so a copy made from it is played.
  await expect.poll(() => playable(page), { timeout: 60_000 }).toBe(160);
  const before = page.getByLabel('gulls as it was shot');
  await expect(before).toBeHidden();
  await page.keyboard.press('b');
  await expect(before).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(page.getByLabel(/as it was rendered/)).toHaveCount(0);
  // The last order is offered again.
  await page.reload();
  await expect(page.getByRole('radio', { name: /FFV1/ })).toBeChecked();
  await expect(page.getByLabel('Width')).toHaveValue('160');
  // Range requests of players are answered with parts of the file.
  const { deliveries } = (await (
    await page.request.get(`/api/projects/${project}/deliveries`)
  ).json()) as {
    deliveries: { items: { id: string }[] }[];
  };
  const file = `/api/items/${deliveries[0]!.items[0]!.id}/file`;
  const part = await page.request.get(file, { headers: { range: 'bytes=0-3' } });
  expect([part.status(), (await part.body()).toString('hex')]).toEqual([206, '1a45dfa3']);
  expect((await page.request.get(file, { headers: { range: 'bytes=999999999-' } })).status()).toBe(
    416,
  );
});

test('pictures in an archive play as a film; the copy says how far it is, and closing stops it', async ({
  page,
}) => {
  const project = await newProject(page, 'Pictures played');
  await bring(page, 'kelp');
  await page.goto(`/p/${project}/kiln`);
  await page.getByRole('radio', { name: /PNG/ }).check();
  await page.getByLabel('Width').fill('640');
  await page.getByLabel('Height').fill('360');
  await page.getByRole('button', { name: 'Render 1 clip' }).click();
  const item = page.locator('[data-clip="kelp"][data-state="done"]');
  await expect(item).toBeVisible({ timeout: 120_000 });
  await item.getByRole('button', { name: 'play' }).click();
  await expect(page.getByRole('progressbar', { name: 'Copy to play' })).toBeVisible();
  await page.keyboard.press('Escape');
  await item.getByRole('button', { name: 'play' }).click();
  await expect.poll(() => playable(page), { timeout: 60_000 }).toBe(640);
  // All of its 80 frames at 25 a second.
  const seconds = await page
    .getByLabel(/as it was rendered/)
    .evaluate((v) => (v as unknown as { duration: number }).duration);
  expect(seconds).toBeCloseTo(80 / 25, 1);
});
