import { expect, type Page, test } from '@playwright/test';
import { writeFile } from 'node:fs/promises';
import {
  bring,
  digestOf,
  digestOfPicture,
  hero,
  newestOf,
  newLook,
  newProject,
  parked,
  rendered,
  settled,
  toRushes,
} from './project';
import { pick, type } from './pick';

const PLATE = (file: string): string => `demo/plates/${file}`;

/**
 * Imports plates beside the existing clips, waits for their statistics, and uses them as plates.
 */
async function bringPlates(page: Page, ...files: string[]): Promise<void> {
  await page.getByLabel('Files').setInputFiles(files.map(PLATE));
  for (const file of files) {
    const name = file.replace(/\.\w+$/, '');
    await expect(page.getByRole('button', { name: new RegExp(name) })).toBeVisible({
      timeout: 60_000,
    });
    await page.getByRole('button', { name: new RegExp(name) }).click();
    // The page shows the change immediately, but after the click returns.
    await page.getByRole('radio', { name: 'a plate' }).click();
    await expect(page.getByRole('radio', { name: 'a plate' })).toBeChecked();
    await expect(page.getByRole('heading', { name: /^Plates/ })).toBeVisible();
    const project = /\/p\/([0-9a-f-]+)\//.exec(page.url())![1]!;
    const plates = async () =>
      (
        (await (await page.request.get(`/api/projects/${project}`)).json()) as {
          plates: { name: string }[];
        }
      ).plates.map((c) => c.name);
    await expect.poll(plates).toContain(name);
  }
}

test('a plate is tried over a clip on Rushes: its black lifts nothing, and can be set and put back', async ({
  page,
}) => {
  await newProject(page, 'Dust');
  await bring(page, 'gulls');
  await toRushes(page);
  await bringPlates(page, 'dust-bright.mp4');
  const shelf = page.getByRole('region', { name: 'Plate over a clip' });
  await expect(shelf.locator('canvas[data-view="hero"][data-serial]')).toBeVisible({
    timeout: 60_000,
  });
  await expect(shelf.getByLabel('Blend mode')).toHaveAttribute('data-value', 'screen');
  const black = shelf.getByRole('textbox', { name: 'Black point, typed' });
  await expect(black).toBeVisible({ timeout: 60_000 });
  const found = await settled(page, 'hero');
  // With the black of the file the whole picture is lifted.
  await type(black, '0');
  await expect.poll(() => digestOf(page, 'hero')).not.toBe(found);
  const lightness = () =>
    hero(page).evaluate((c: HTMLCanvasElement) => {
      const copy = new OffscreenCanvas(c.width, c.height).getContext('2d')!;
      copy.drawImage(c, 0, 0);
      const { data } = copy.getImageData(0, 0, c.width, c.height);
      let sum = 0;
      for (let i = 0; i < data.length; i += 4) sum += data[i + 1]!;
      return sum / (data.length / 4);
    });
  await settled(page, 'hero');
  const lifted = await lightness();
  await page.getByRole('button', { name: 'as found' }).click();
  await expect.poll(() => digestOf(page, 'hero')).toBe(found);
  expect(lifted - (await lightness())).toBeGreaterThan(0.5);
  // With the black subtracted only its marks change the picture: the clip keeps its brightness.
  const under = await lightness();
  await type(shelf.getByRole('textbox', { name: 'Opacity, typed' }), '0');
  await expect.poll(() => digestOf(page, 'hero')).not.toBe(found);
  expect(Math.abs((await lightness()) - under)).toBeLessThan(0.3);
});

test('a layer is put into the hole of a plate, and the terminal renders the plate the same', async ({
  page,
}) => {
  const project = await newProject(page, 'Set');
  await bring(page, 'gulls');
  await toRushes(page);
  await bringPlates(page, 'television.png', 'dust-bright.mp4');
  const look = await newLook(page, 'On a screen');
  await page.goto(`/p/${project}/bench?look=${look}`);
  await parked(page);
  const layers = page.locator('li[data-layer]');
  await pick(page.getByLabel('Add a layer from'), 'clip');
  await pick(page.getByLabel('Add a layer from'), 'footage');
  await expect(layers).toHaveCount(2);
  await pick(page.getByRole('combobox', { name: 'Second footage of gulls' }), {
    label: 'television (plate)',
  });
  await parked(page);
  const before = await settled(page, 'hero');
  const clip = layers.nth(1);
  await clip.getByRole('button', { name: '+ placement' }).click();
  await clip.getByRole('button', { name: 'into the hole of television' }).click();
  // The hole is found by the engine: only then is the layer changed.
  await expect(page.getByRole('button', { name: /undo .* into the hole/ })).toBeVisible();
  await expect.poll(() => digestOf(page, 'hero')).not.toBe(before);
  await page.keyboard.press('v');
  await expect(page.getByTestId('version')).toHaveText('v2');
  const { layers: saved } = (await newestOf(page, look)) as {
    layers: { placement?: Record<string, { value: unknown }> }[];
  };
  // The opening as drawn in the plate, in fractions of a 16:9 picture.
  const truth = {
    'upper-left': [-0.585, 0.292],
    'upper-right': [0.35, 0.308],
    'lower-right': [0.346, -0.318],
    'lower-left': [-0.58, -0.292],
  };
  for (const [corner, [x, y]] of Object.entries(truth)) {
    const [across, down] = saved[0]!.placement![corner]!.value as [number, number];
    expect(Math.abs(across - (0.5 + (x! * 9) / 16))).toBeLessThan(0.006);
    expect(Math.abs(down - (0.5 - y!))).toBeLessThan(0.008);
  }

  // The dust plate instead, laid over: the page and the command line find the same black.
  await page.keyboard.press('Control+z');
  await pick(layers.first().getByLabel('Blend'), 'screen');
  await pick(page.getByRole('combobox', { name: 'Second footage of gulls' }), {
    label: 'dust-bright (plate)',
  });
  await page.keyboard.press('v');
  await expect(page.getByTestId('version')).toHaveText('v3');
  await parked(page);
  const [frame, shown] = [
    (await hero(page).getAttribute('data-frame'))!,
    await settled(page, 'hero'),
  ];
  const file = test.info().outputPath('dust.json');
  await writeFile(file, JSON.stringify(await newestOf(page, look)));
  const out = test.info().outputPath('frames');
  await rendered(
    file,
    'gulls',
    out,
    '--plate',
    `second=${PLATE('dust-bright.mp4')}`,
    '--frames',
    frame,
    '--size',
    '960x540',
    '--depth',
    '8',
  );
  expect(await digestOfPicture(`${out}/${frame.padStart(6, '0')}.png`)).toBe(shown);
});
