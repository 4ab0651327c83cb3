import { expect, test } from '@playwright/test';
import { readFileSync } from 'node:fs';
import { bring, hero, newProject, parked, shippedLook } from './project';
import { pick, unfold } from './pick';

/** A look document whose layers each hold one step. */
const lookOf = (
  name: string,
  layers: readonly (readonly [step: string, parameter: string, value: number])[],
): object => ({
  schema: 2,
  name,
  seed: 1,
  bedrock: true,
  dials: [
    { key: 'strength', label: 'Strength', kind: 'number', min: 0, max: 100, unit: '%', value: 100 },
  ],
  layers: layers.map(([step, parameter, value], i) => ({
    key: `layer-${i}`,
    name: `layer ${i}`,
    on: true,
    source: 'below',
    blend: 'normal',
    opacity: { value: 100 },
    steps: [
      { key: step, step, on: true, mix: { value: 100 }, parameters: { [parameter]: { value } } },
    ],
  })),
});

test('moving the top layer of eight recomputes that layer alone', async ({ page }) => {
  const project = await newProject(page, 'Eight');
  await bring(page, 'gulls');
  const made = await page.request.post('/api/looks', {
    data: {
      document: lookOf(
        'Eight layers',
        Array.from({ length: 8 }, (_, i) => ['exposure', 'stops', i % 2 ? 0.2 : -0.15] as const),
      ),
    },
  });
  const { lookId } = (await made.json()) as { lookId: string };
  await page.goto(`/p/${project}/bench?look=${lookId}`);
  await parked(page);
  await unfold(page.locator('[data-layer="layer-7"]'));
  await page
    .locator('[data-layer="layer-7"] [data-step]')
    .getByRole('button', { name: 'Exposure', exact: true })
    .click();
  const before = await hero(page).getAttribute('data-serial');
  await page.locator('[data-layer="layer-7"]').getByLabel('Stops', { exact: true }).fill('1');
  await expect(hero(page)).not.toHaveAttribute('data-serial', before!);
  // The layer, and its way to the page's pixels.
  await expect(page.getByRole('status').filter({ hasText: 'computed' })).toContainText(
    /· [12] computed/,
  );
});

test('wheels, tables and decision lists are used on the Bench, and bad files say why', async ({
  page,
}, info) => {
  const project = await newProject(page, 'Colour');
  await bring(page, 'gulls');
  const look = await shippedLook(page, 'silt');
  await page.goto(`/p/${project}/bench?look=${look}`);
  await parked(page);
  const layer = page.locator('[data-layer]').first();
  await unfold(layer);
  await pick(layer.getByLabel(/Add a step to/), 'three-way');
  await page.getByRole('slider', { name: 'Gain wheel' }).focus();
  await page.keyboard.press('ArrowUp');
  await expect(page.getByLabel('Gain red, typed')).not.toHaveValue('0 %');
  await expect(page.getByRole('button', { name: /^undo/ })).toContainText('Three-way gain');

  await pick(layer.getByLabel(/Add a step to/), 'lut');
  const [bad, good, list] = ['bad.cube', 'good.cube', 'list.cc'].map((n) => info.outputPath(n)) as [
    string,
    string,
    string,
  ];
  const { mkdirSync, writeFileSync } = await import('node:fs');
  mkdirSync(info.outputDir, { recursive: true });
  writeFileSync(bad, 'LUT_3D_SIZE 2\n0 0 0\n1 0\n');
  writeFileSync(
    good,
    'TITLE "corners"\nLUT_3D_SIZE 2\n0 0 0\n1 0 0\n0 1 0\n1 1 0\n0 0 1\n1 0 1\n0 1 1\n1 1 1\n',
  );
  writeFileSync(
    list,
    '<ColorCorrection id="warm"><SOPNode><Slope>1.2 1 0.8</Slope></SOPNode></ColorCorrection>',
  );
  await page.getByLabel('Table file').setInputFiles(bad);
  await expect(page.getByRole('alert').filter({ hasText: 'line 3' })).toContainText(
    'bad.cube, line 3: an entry has three numbers, this line has 2',
  );
  await page.getByLabel('Table file').setInputFiles(good);
  await expect(page.getByText('corners')).toBeVisible();
  await expect(page.getByText('2×2×2')).toBeVisible();

  await pick(layer.getByLabel(/Add a step to/), 'cdl');
  await page.getByLabel('Decision list file').setInputFiles(list);
  await expect(page.getByLabel('Slope red, typed')).toHaveValue('1.2');
  const written = page.waitForEvent('download');
  await page.getByRole('button', { name: '.cc', exact: true }).click();
  expect(readFileSync(await (await written).path(), 'utf8')).toContain('<Slope>1.2 1 0.8</Slope>');
});

test('scopes measure the hero, a region of it, and what the look does to it', async ({ page }) => {
  const project = await newProject(page, 'Measured');
  await bring(page, 'gulls');
  const look = await shippedLook(page, 'silt');
  await page.goto(`/p/${project}/bench?look=${look}`);
  await parked(page);
  await page.keyboard.press('o');
  const scopes = page.getByRole('complementary', { name: 'Scopes' });
  await expect(scopes).toHaveAttribute('data-ready', 'true');
  const shares = page.getByTestId('shares');
  await expect(shares).toContainText('lightness');
  const box = (await hero(page).boundingBox())!;
  await page.mouse.move(box.x + box.width * 0.3, box.y + box.height * 0.3);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width * 0.5, box.y + box.height * 0.6, { steps: 4 });
  await page.mouse.up();
  await expect(page.getByTestId('probe')).toContainText(/light .* encoded .* code/);
  await expect(scopes.getByRole('button', { name: 'whole' })).toBeVisible();
  await scopes.getByRole('button', { name: 'whole' }).click();
  const back = scopes.getByRole('button', { name: 'bring lightness back' });
  if (await back.isVisible()) {
    await back.click();
    await expect(page.locator('[data-layer="lightness"]')).toBeVisible();
  }
});

test('a look of colour steps is baked to a cube on the Shelf; of others the steps are named', async ({
  page,
}) => {
  const project = await newProject(page, 'Baked');
  await shippedLook(page, 'soft-lens');
  const grade = lookOf('Plain grade', [['contrast', 'amount', 20]]);
  expect((await page.request.post('/api/looks', { data: { document: grade } })).status()).toBe(201);
  await page.goto(`/p/${project}/shelf`);
  const file = page.waitForEvent('download');
  const panel = page.getByRole('complementary');
  const large = async (look: string) => {
    await page.locator(`[data-look="${look}"]`).first().getByRole('button').click();
    await expect(panel.getByRole('heading', { name: look })).toBeVisible();
  };
  await large('Plain grade');
  await panel.getByRole('button', { name: 'bake to .cube' }).click();
  expect(readFileSync(await (await file).path(), 'utf8')).toMatch(/LUT_3D_SIZE 33\n/);
  await large('Soft Lens');
  await panel.getByRole('button', { name: 'bake to .cube' }).click();
  await expect(page.getByRole('alert')).toContainText('glass: Blur');
});
