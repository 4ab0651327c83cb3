import { expect, test } from '@playwright/test';
import { writeFile } from 'node:fs/promises';
import {
  bring,
  digestOf,
  digestOfPicture,
  FOOTAGE,
  hero,
  newestOf,
  newLook,
  newProject,
  parked,
  rendered,
  settled,
} from './project';
import { pick } from './pick';

test('from an empty stack, other footage shines through a figure, as the command line renders it', async ({
  page,
}) => {
  const project = await newProject(page, 'Through');
  await bring(page, 'gulls', 'kelp');
  const look = await newLook(page, 'Window');
  await page.goto(`/p/${project}/bench?look=${look}`);
  await parked(page);
  const layers = page.locator('li[data-layer]');
  // The figure, near black on white.
  await pick(page.getByLabel('Add a layer from'), 'clip');
  await pick(layers.first().getByLabel(/Add a step to/), 'levels');
  await layers.first().getByRole('textbox', { name: 'White, typed', exact: true }).fill('0.6');
  await page.keyboard.press('Enter');
  // Other footage on top: the look asks for it with a pin, the clip chooses it.
  await pick(page.getByLabel('Add a layer from'), 'footage');
  await expect(layers).toHaveCount(2);
  await pick(layers.first().getByLabel('Blend'), 'screen');
  await expect(page.locator('[data-pin="second"]')).toBeVisible();
  const alone = await settled(page, 'hero');
  await pick(page.getByRole('combobox', { name: 'Second footage of gulls' }), { label: 'kelp' });
  await expect.poll(() => digestOf(page, 'hero')).not.toBe(alone);
  await parked(page);
  const [frame, shown] = [
    (await hero(page).getAttribute('data-frame'))!,
    await settled(page, 'hero'),
  ];
  // Undo and redo, in order with the look's other edits.
  await page.keyboard.press('Control+z');
  await expect.poll(() => digestOf(page, 'hero')).not.toBe(shown);
  await page.keyboard.press('Control+Shift+z');
  await expect.poll(() => digestOf(page, 'hero')).toBe(shown);
  // The same pixels from a terminal.
  await page.keyboard.press('v');
  await expect(page.getByTestId('version')).toHaveText('v2');
  const file = test.info().outputPath('window.json');
  await writeFile(file, JSON.stringify(await newestOf(page, look)));
  const out = test.info().outputPath('frames');
  await rendered(
    file,
    'gulls',
    out,
    '--pin',
    `second=${FOOTAGE('kelp')}`,
    '--frames',
    frame,
    '--size',
    '960x540',
    '--depth',
    '8',
  );
  expect(await digestOfPicture(`${out}/${frame.padStart(6, '0')}.png`)).toBe(shown);
});

test('a path is drawn, moved by hand and by keys alone, seen as a tint, and undone', async ({
  page,
}) => {
  const project = await newProject(page, 'Paths');
  await bring(page, 'skyline');
  const look = await newLook(page, 'Cut');
  await page.goto(`/p/${project}/bench?look=${look}`);
  await parked(page);
  await pick(page.getByLabel('Add a layer from'), 'below');
  const layer = page.locator('li[data-layer]').first();
  await pick(layer.getByLabel(/Add a step to/), 'invert');
  await pick(layer.getByLabel('Add a matte to layer'), 'path');
  const all = await settled(page, 'hero');
  await layer.getByRole('button', { name: 'draw', exact: true }).click();
  const box = (await hero(page).boundingBox())!;
  for (const [x, y] of [
    [0.3, 0.2],
    [0.7, 0.25],
    [0.6, 0.8],
    [0.35, 0.7],
  ] as const)
    await page.mouse.click(box.x + box.width * x, box.y + box.height * y);
  await page.keyboard.press('Escape');
  const node = (n: number) => page.getByRole('button', { name: `Path node ${n}`, exact: true });
  await expect(node(4)).toBeVisible();
  // While the matte was being drawn, the clip showed through with the covered area tinted.
  await expect(layer.getByLabel('Show the matte of layer')).toHaveAttribute('data-value', 'tint');
  await pick(layer.getByLabel('Show the matte of layer'), '');
  await expect.poll(() => digestOf(page, 'hero')).not.toBe(all);
  const drawn = await settled(page, 'hero');
  // With the keyboard only: move a node, add one, make it round, delete it.
  await node(1).focus();
  for (let i = 0; i < 5; i++) await page.keyboard.press('Shift+ArrowLeft');
  await expect.poll(() => digestOf(page, 'hero')).not.toBe(drawn);
  await node(1).press('Insert');
  await expect(node(5)).toBeVisible();
  await node(2).press('Enter');
  await expect(page.getByRole('button', { name: 'Path node 2 handle out' })).toBeVisible();
  await node(2).press('Delete');
  await expect(node(5)).toHaveCount(0);
  // With the pointer.
  const grip = (await node(3).boundingBox())!;
  await page.mouse.move(grip.x + 5, grip.y + 5);
  await page.mouse.down();
  await page.mouse.move(grip.x + 60, grip.y + 20, { steps: 6 });
  await page.mouse.up();
  const undo = page.getByRole('button', { name: /^undo/ });
  for (let i = 0; i < 4; i++) await undo.click();
  await expect(node(4)).toBeVisible();
  await undo.click();
  await expect.poll(() => settled(page, 'hero')).toBe(drawn);
});

test('a key that counts in shares of the clip, and blend modes seen at once, as the command line renders them', async ({
  page,
}) => {
  const project = await newProject(page, 'Shares');
  await bring(page, 'kelp');
  const look = await newLook(page, 'Shares');
  await page.goto(`/p/${project}/bench?look=${look}`);
  await parked(page);
  await pick(page.getByLabel('Add a layer from'), 'clip');
  const layer = page.locator('li[data-layer]').first();
  await pick(layer.getByLabel(/Add a step to/), 'invert');
  // Statistics of the whole clip are measured after the import.
  await expect
    .poll(async () => {
      const { clips } = (await (await page.request.get(`/api/projects/${project}`)).json()) as {
        clips: { statistics: object | null }[];
      };
      return clips[0]!.statistics !== null;
    })
    .toBe(true);
  await pick(layer.getByLabel('Add a matte to layer'), 'luma-key');
  await pick(layer.getByRole('combobox', { name: 'Count in', exact: true }), 'share');
  const plain = await settled(page, 'hero');
  // The sheet of all modes: choosing one changes the picture, one undo reverts it.
  await layer.getByRole('button', { name: 'all', exact: true }).click();
  const sheet = page.getByRole('region', { name: 'Blend modes' });
  await expect(sheet.locator('canvas[data-serial]').first()).toBeVisible();
  await sheet.getByRole('button', { name: /Difference/ }).click();
  await expect(sheet).toHaveCount(0);
  await expect(layer.getByLabel('Blend', { exact: true })).toHaveAttribute(
    'data-value',
    'difference',
  );
  await expect.poll(() => digestOf(page, 'hero')).not.toBe(plain);
  await parked(page);
  const [frame, shown] = [
    (await hero(page).getAttribute('data-frame'))!,
    await settled(page, 'hero'),
  ];
  await page.keyboard.press('v');
  await expect(page.getByTestId('version')).toHaveText('v2');
  const file = test.info().outputPath('shares.json');
  await writeFile(file, JSON.stringify(await newestOf(page, look)));
  const out = test.info().outputPath('frames');
  await rendered(file, 'kelp', out, '--frames', frame, '--size', '960x540', '--depth', '8');
  expect(await digestOfPicture(`${out}/${frame.padStart(6, '0')}.png`)).toBe(shown);
});

test('what does nothing says so, and a layer is shown alone', async ({ page }) => {
  const project = await newProject(page, 'Idle');
  await bring(page, 'skyline');
  const look = await newLook(page, 'Idle');
  await page.goto(`/p/${project}/bench?look=${look}`);
  await parked(page);
  await pick(page.getByLabel('Add a layer from'), 'below');
  const layers = page.locator('li[data-layer]');
  await pick(layers.first().getByLabel(/Add a step to/), 'invert');
  await expect(layers.first().locator('[data-idle]')).toHaveCount(0);
  const inverted = await settled(page, 'hero');
  await pick(page.getByLabel('Add a layer from'), 'fill');
  // The plain colour above covers the whole picture.
  await expect(page.locator('[data-idle="layer"]')).toHaveText('is covered by what lies above');
  await pick(layers.first().getByLabel('Add a matte to fill'), 'ellipse');
  await expect(page.locator('[data-idle="layer"]')).toHaveCount(0);
  const width = layers.first().getByRole('textbox', { name: 'Width, typed', exact: true });
  await expect(async () => {
    await width.fill('0');
    await page.keyboard.press('Enter');
    await expect(width).toHaveValue('0 %', { timeout: 1000 });
  }).toPass();
  await expect(page.locator('[data-idle="fill"]').first()).toHaveText('its matte is empty here');
  await page.keyboard.press('Control+z');
  const both = await settled(page, 'hero');
  expect(both).not.toBe(inverted);
  await layers.last().getByRole('img', { name: /Up to/ }).click();
  await page.keyboard.press('l');
  await expect.poll(() => digestOf(page, 'hero')).toBe(inverted);
  await page.keyboard.press('l');
  await expect.poll(() => digestOf(page, 'hero')).toBe(both);
  // Grouping does not change the picture.
  await layers.first().getByRole('button', { name: 'group', exact: true }).click();
  await expect(page.getByRole('list', { name: 'Group fill' })).toBeVisible();
  await expect.poll(() => digestOf(page, 'hero')).toBe(both);
  // Kept as a piece, it can be added to another look, with its group.
  const outer = page.locator('li[data-layer="fill-group"]');
  await outer.getByRole('button', { name: 'keep', exact: true }).last().click();
  await expect(outer.getByRole('button', { name: 'kept' })).toBeVisible();
  await page.goto(`/p/${project}/bench?look=${await newLook(page, 'Other')}`);
  await parked(page);
  const bare = await settled(page, 'hero');
  await pick(page.getByLabel('Add a layer from'), { label: 'fill' });
  await expect(layers).toHaveCount(1);
  await expect.poll(() => digestOf(page, 'hero')).not.toBe(bare);
  await page.goto(`/p/${project}/shelf`);
  await expect(page.locator('[data-piece="fill"]')).toContainText('plain colour');
});
