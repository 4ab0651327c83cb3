import { expect, test } from '@playwright/test';
import { pick, type, unfold } from './pick';
import { bring, digestOf, hero, newProject, parked, settled, shippedLook } from './project';

test('a film’s stock is chosen over its curves and this clip’s tones, and taken back', async ({
  page,
}) => {
  const project = await newProject(page, 'On film');
  await bring(page, 'gulls');
  const look = await shippedLook(page, 'ferrous');
  await page.goto(`/p/${project}/bench?look=${look}`);
  await parked(page);
  const before = await settled(page, 'hero');
  const layer = page.locator('[data-layer="film"]');
  await unfold(layer);
  await layer.getByRole('button', { name: 'Film response', exact: true }).click();
  await expect(
    page.getByRole('img', {
      name: /Film response: red layer, green layer, blue layer, on the screen/,
    }),
  ).toBeVisible();
  await pick(layer.getByRole('combobox', { name: 'Stock', exact: true }), 'monochrome');
  await expect(
    page.getByRole('img', { name: /Film response: density, on the screen/ }),
  ).toBeVisible();
  await expect.poll(() => digestOf(page, 'hero')).not.toBe(before);
  await settled(page, 'hero');
  // One layer of silver: what is shown has no colour.
  const spread = await hero(page).evaluate((c: HTMLCanvasElement) => {
    const copy = new OffscreenCanvas(c.width, c.height).getContext('2d')!;
    copy.drawImage(c, 0, 0);
    const { data } = copy.getImageData(0, 0, c.width, c.height);
    let most = 0;
    for (let i = 0; i < data.length; i += 4)
      most = Math.max(
        most,
        Math.abs(data[i]! - data[i + 1]!),
        Math.abs(data[i + 1]! - data[i + 2]!),
      );
    return most;
  });
  // Printer points tint it a little; a colour film would be tinted far more.
  expect(spread).toBeLessThan(40);
  await page.keyboard.press('Control+z');
  await expect.poll(() => digestOf(page, 'hero')).toBe(before);
});

test('a look ages along the video: tried on the tiles, taken as trims, undone', async ({
  page,
}) => {
  const project = await newProject(page, 'Ageing');
  await bring(page, 'gulls', 'kelp', 'floor-tom');
  const document = JSON.parse(
    await (await import('node:fs/promises')).readFile('core/look/shipped/third-dub.json', 'utf8'),
  ) as object;
  const { versionId } = (await (
    await page.request.post('/api/looks', { data: { document } })
  ).json()) as { versionId: string };
  type Seen = { id: string; name: string; trims: Record<string, Record<string, number>> };
  const clips = async () =>
    ((await (await page.request.get(`/api/projects/${project}`)).json()) as { clips: Seen[] })
      .clips;
  const edits = (await clips()).map((c) => ({
    clip: c.id,
    was: { version: null },
    to: { version: versionId },
  }));
  expect(
    (
      await page.request.post(`/api/projects/${project}/clips`, { data: { clips: edits } })
    ).status(),
  ).toBe(200);
  await page.goto(`/p/${project}/wall`);
  await page.getByRole('button', { name: 'dials', exact: true }).click();
  await page.getByRole('button', { name: /age along the video/ }).click();
  await pick(page.getByLabel('Dial that drifts'), 'noise');
  const first = page.getByLabel('Noise at the first clip, typed'),
    last = page.getByLabel('Noise at the last clip, typed');
  await type(first, '10');
  await type(last, '90');
  await page.getByRole('button', { name: 'trim 3 clips' }).click();
  const noise = async () =>
    (await clips()).map((c) => Object.values(c.trims)[0]?.['noise'] ?? null);
  await expect.poll(noise).toEqual([10, 50, 90]);
  await page.keyboard.press('Control+z');
  await expect.poll(noise).toEqual([null, null, null]);
});
