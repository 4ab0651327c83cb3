/**
 * Frames baked by workers: the Bench finds them, and the Kiln uses them instead of rendering again.
 */
import { expect, type Page, test } from '@playwright/test';
import { readdir, stat, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { deflateRawSync } from 'node:zlib';
import { pick } from './pick';
import { bring, delivered, digestOf, newProject, parked, putOn } from './project';
import { brightLook, goTo } from './time';

const panel = (page: Page) => page.getByRole('button', { name: /^(bake|\d+ %)$/ });
const theirs = (page: Page) => page.getByRole('region', { name: 'Baked by workers' });

/** A small project with a clip of 80 frames. */
async function smallProject(page: Page, name: string): Promise<string> {
  const id = await newProject(page, name, { width: 480, height: 270 });
  await bring(page, 'kelp');
  return id;
}

/** Opens a clip under a look on the Bench, with a loop over its first five frames. */
async function loopOfFive(page: Page, project: string, look: string): Promise<void> {
  await page.goto(`/p/${project}/bench?look=${look}`);
  await parked(page);
  await goTo(page, 4);
  await page.keyboard.press(']');
  await panel(page).click();
}

test('what workers bake for the Bench is the exact picture, found and not computed', async ({
  page,
}) => {
  const project = await newProject(page, 'Baked by workers');
  await bring(page, 'kelp');
  await loopOfFive(page, project, await brightLook(page, 'Ahead'));
  const computed = await digestOf(page, 'hero');
  await pick(theirs(page).getByLabel('Workers bake'), 'page');
  await theirs(page).getByRole('button', { name: 'have them baked' }).click();
  await expect(theirs(page).getByText('5/5 of the Bench')).toBeVisible({ timeout: 60_000 });
  await expect(page.locator('[data-at-hand="baked"]')).toHaveAttribute('title', 'baked: 0 to 4');
  await page.reload();
  await parked(page);
  await expect(page.locator('[data-at-hand="baked"]')).toHaveAttribute('title', 'baked: 0 to 4');
  const fetched = page.waitForResponse((r) => r.url().includes('/api/baked/simd'));
  await goTo(page, 4);
  expect((await fetched).status()).toBe(200);
  expect(await digestOf(page, 'hero')).toBe(computed);
  // Another look has other frames, so none of its are baked.
  await page.getByLabel('light on').click();
  await expect(page.locator('[data-at-hand="baked"]')).toHaveCount(0);
});

/** The baked files, newest first. */
async function bakedFiles(): Promise<string[]> {
  const root = join(process.env['WABISABI_DATA']!, 'baked');
  const names = await readdir(root, { recursive: true, withFileTypes: true }).catch(() => []);
  return names.filter((n) => n.isFile()).map((n) => join(n.parentPath, n.name));
}

test('a render takes what workers baked for it, the same to the bit; a broken file is computed again', async ({
  page,
}) => {
  const project = await smallProject(page, 'Baked for the Kiln');
  const look = await brightLook(page, 'Taken');
  const [clip] = await putOn(page, project, look, { in: 0, out: 29 });
  const rendered = () => delivered(page, project, clip!, [480, 270]);
  const computed = await rendered();
  expect(computed).toHaveLength(30);

  const before = new Set(await bakedFiles());
  await loopOfFive(page, project, look);
  await pick(theirs(page).getByLabel('Workers bake'), 'gbrp16le');
  await theirs(page).getByRole('button', { name: 'have them baked' }).click();
  await expect(theirs(page).getByText('5/5 of 480×270')).toBeVisible({ timeout: 60_000 });
  // The time strip shows which frames are baked.
  await expect(page.locator('[data-at-hand="kiln"]')).toHaveAttribute(
    'title',
    'baked for the Kiln: 0 to 4',
  );
  const files = (await bakedFiles()).filter((f) => !before.has(f));
  expect(files).toHaveLength(5);
  expect(await rendered()).toEqual(computed);

  // One file is replaced by black and comes out black, so the render does use it. Another is
  // truncated.
  await writeFile(files[0]!, deflateRawSync(Buffer.alloc(480 * 270 * 6)));
  await writeFile(files[1]!, Buffer.alloc(Math.floor((await stat(files[1]!)).size / 2)));
  const mixed = await rendered();
  expect(mixed.filter((h, i) => h !== computed[i])).toHaveLength(1);
  expect(mixed.slice(5)).toEqual(computed.slice(5));

  await theirs(page).getByRole('button', { name: 'take theirs away' }).click();
  await expect.poll(async () => (await bakedFiles()).length).toBe(0);
  expect(await rendered()).toEqual(computed);
});

test('workers stop baking when they are told to, and go on from where they were', async ({
  page,
}) => {
  const project = await smallProject(page, 'Stopped');
  await page.goto(`/p/${project}/bench?look=${await brightLook(page, 'Stops')}`);
  await parked(page);
  await panel(page).click();
  await pick(theirs(page).getByLabel('Workers bake'), 'gbrp16le');
  await theirs(page).getByRole('button', { name: 'have them baked' }).click();
  await expect(theirs(page).getByRole('progressbar')).toHaveAttribute('value', /[1-9]/, {
    timeout: 60_000,
  });
  await theirs(page).getByRole('button', { name: 'stop workers' }).click();
  const again = theirs(page).getByRole('button', { name: 'have them baked' });
  await expect(again).toBeVisible();
  const some = (await bakedFiles()).length;
  expect(some).toBeGreaterThan(0);
  expect(some).toBeLessThan(80);
  await again.click();
  await expect(theirs(page).getByText('80/80 of 480×270')).toBeVisible({ timeout: 120_000 });
  await theirs(page).getByRole('button', { name: 'take theirs away' }).click();
});
