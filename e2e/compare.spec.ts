import { expect, type Page, test } from '@playwright/test';
import { bring, digestOf, hero, newProject, parked, settled, shippedLook } from './project';
import { pick, unfold } from './pick';

/**
 * The largest byte of red, green and blue that a canvas shows, and how many pixels are not black.
 */
const lightOf = (page: Page, view: string): Promise<{ most: number; lit: number }> =>
  page.locator(`canvas[data-view="${view}"]`).evaluate((c: HTMLCanvasElement) => {
    const copy = new OffscreenCanvas(c.width, c.height).getContext('2d')!;
    copy.drawImage(c, 0, 0);
    const { data } = copy.getImageData(0, 0, c.width, c.height);
    let most = 0,
      lit = 0;
    for (let i = 0; i < data.length; i += 4) {
      const v = Math.max(data[i]!, data[i + 1]!, data[i + 2]!);
      most = Math.max(most, v);
      if (v > 0) lit++;
    }
    return { most, lit };
  });

const dial = (page: Page, name: string) =>
  page.getByRole('region', { name: 'Dials' }).getByLabel(`${name}, typed`);
async function setDial(page: Page, name: string, value: string): Promise<void> {
  await dial(page, name).click();
  await dial(page, name).fill(value);
  await page.keyboard.press('Enter');
}

test('the hero is held against the clip, a version and a kept reference', async ({ page }) => {
  const project = await newProject(page, 'Comparing');
  await bring(page, 'rain-window', 'gulls');
  const look = await shippedLook(page, 'silt');
  await page.goto(`/p/${project}/bench?look=${look}`);
  await parked(page);

  // The seam: across, by keys; then flat.
  await page.keyboard.press('s');
  const seam = page.getByRole('slider', { name: 'Seam' });
  await seam.focus();
  for (let i = 0; i < 5; i++) await page.keyboard.press('ArrowLeft');
  await expect(seam).toHaveAttribute('aria-valuenow', '40');
  await page.keyboard.press('Shift+S');
  await expect(seam).toHaveAttribute('aria-orientation', 'vertical');
  await seam.focus();
  await page.keyboard.press('ArrowDown');
  await expect(seam).toHaveAttribute('aria-valuenow', '42');

  // Nothing differs from its own version; one dial changed, something does.
  await page.getByRole('button', { name: 'compare' }).click();
  const panel = page.getByRole('group', { name: 'Compare' });
  await pick(panel.getByLabel('before'), { label: 'Silt v1' });
  await panel.getByRole('button', { name: 'difference' }).click();
  await panel.getByRole('button', { name: '16 times' }).click();
  const difference = page.locator('canvas[data-view="difference"]');
  await expect(difference).toHaveAttribute('data-exact', 'true');
  await expect.poll(() => lightOf(page, 'difference')).toEqual({ most: 0, lit: 0 });
  await page.keyboard.press('Escape');
  const name = (await page.locator('[data-dial]').nth(1).locator('span').first().textContent())!;
  await setDial(page, name, '90');
  await expect.poll(async () => (await lightOf(page, 'difference')).lit).toBeGreaterThan(10_000);
  await page.keyboard.press('e');

  // A reference keeps the clip, the frame and the exact look, saved or not.
  await page.keyboard.press('r');
  await page.getByRole('button', { name: 'compare' }).click();
  const kept = panel.getByRole('list', { name: 'References' }).getByRole('listitem');
  await expect(kept).toHaveCount(1);
  await expect(kept).toContainText('unsaved edits');
  const asKept = await digestOf(page, 'hero');
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'undo' }).click();
  await expect.poll(() => digestOf(page, 'hero')).not.toBe(asKept);
  await pick(page.locator('footer').getByLabel(/^hero/), { label: 'gulls' });
  await parked(page);
  await page.reload();
  await parked(page);
  await page.getByRole('button', { name: 'compare' }).click();
  await kept.getByRole('button').first().click();
  await panel.getByRole('button', { name: 'side by side' }).click();
  await expect.poll(() => digestOf(page, 'before'), { timeout: 60_000 }).toBe(asKept);
  await kept.getByRole('button', { name: /Remove the reference/ }).click();
  await expect(kept).toHaveCount(0);
});

test('trials are laid out and one is taken; values are picked from the picture; what is clipped is hatched', async ({
  page,
}) => {
  const project = await newProject(page, 'Trials');
  await bring(page, 'gulls');
  const look = await shippedLook(page, 'soft-lens');
  await page.goto(`/p/${project}/bench?look=${look}`);
  await parked(page);
  await page.keyboard.press('g');
  const sheet = page.getByRole('region', { name: 'Trials' });
  const tiles = sheet.locator('canvas[data-serial]');
  await expect(tiles).toHaveCount(9);
  await pick(sheet.getByLabel('What changes down'), { label: 'Age' });
  await expect(tiles).toHaveCount(16, { timeout: 60_000 });
  await sheet.getByLabel('across to, typed').click();
  await page.keyboard.type('60');
  await page.keyboard.press('Enter');
  await sheet.getByRole('button', { name: 'Bloom 60 %, Age 33.3 %' }).click();
  await expect(dial(page, 'Bloom')).toHaveValue('60 %');
  await expect(dial(page, 'Age')).toHaveValue('33 %');
  await page.getByRole('button', { name: 'undo' }).click();
  await expect(dial(page, 'Bloom')).toHaveValue('45 %');

  // A grey, a hue and a colour from the picture.
  const layer = page.locator('li[data-layer]').first();
  await unfold(layer);
  for (const step of ['white-balance', 'keep-hue', 'tone-tint'])
    await pick(layer.getByLabel(/Add a step to/), step);
  const box = (await hero(page).boundingBox())!;
  const at = (x: number, y: number) => [box.x + box.width * x, box.y + box.height * y] as const;
  await layer.getByRole('button', { name: 'Pick Grey from the picture' }).click();
  await expect(page.getByText('click a point or drag over an area')).toBeVisible();
  await page.mouse.click(...at(0.5, 0.15));
  await expect(layer.getByLabel('Temperature, typed')).not.toHaveValue('0');
  await layer.getByRole('button', { name: 'Pick Hue from the picture' }).click();
  await page.getByRole('button', { name: 'after the layer' }).click();
  await page.mouse.move(...at(0.2, 0.2));
  await page.mouse.down();
  await page.mouse.move(...at(0.4, 0.3), { steps: 4 });
  await page.mouse.up();
  await expect(layer.getByLabel('Hue, typed')).not.toHaveValue('0 °');
  const tint = layer.getByLabel('Shadows', { exact: true });
  const before = await tint.inputValue();
  await layer.getByRole('button', { name: 'Pick Shadows from the picture' }).click();
  await page.keyboard.press('Escape');
  await expect(page.getByText('click a point or drag over an area')).toBeHidden();
  expect(await tint.inputValue()).toBe(before);
  await layer.getByRole('button', { name: 'Pick Shadows from the picture' }).click();
  await page.mouse.click(...at(0.5, 0.5));
  await expect(tint).not.toHaveValue(before);

  // Hatching: a plain colour of pure white is all lines.
  await parked(page);
  // This picture includes the values just picked.
  const plain = await settled(page, 'hero');
  await page.keyboard.press('h');
  await expect.poll(() => digestOf(page, 'hero')).not.toBe(plain);
  await page.keyboard.press('h');
  await expect.poll(() => digestOf(page, 'hero')).toBe(plain);
});

test('versions are listed with what changed between them, and one is taken up as a change that can be undone', async ({
  page,
}) => {
  const project = await newProject(page, 'Versions');
  await bring(page, 'gulls');
  const look = await shippedLook(page, 'silt');
  await page.goto(`/p/${project}/bench?look=${look}`);
  await parked(page);
  const dial = page.getByRole('region', { name: 'Dials' }).getByRole('slider', { name: 'Drain' });
  const first = await dial.inputValue();
  await dial.fill('15');
  await page.getByTestId('version').click();
  const panel = page.getByRole('dialog', { name: 'Versions of Silt' });
  await expect(panel).toContainText('not saved yet');
  await expect(panel).toContainText(`dial Drain ${first} → 15 %`);
  await page.keyboard.press('Escape');
  await page.keyboard.press('v');
  await expect(page.getByTestId('version')).toHaveText('v2');
  await page.getByTestId('version').click();
  await expect(panel.locator('[data-version="2"]')).toContainText(`dial Drain ${first} → 15 %`);
  await expect(panel.locator('[data-version="1"]')).toContainText('the first');
  await expect(panel.getByRole('img', { name: 'version 1 on the hero' })).toBeVisible({
    timeout: 30_000,
  });
  await panel.locator('[data-version="1"]').getByRole('button', { name: 'take up' }).click();
  await expect(dial).toHaveValue(first);
  await expect(page.getByRole('button', { name: /^undo/ })).toContainText('take up v1');
  await page.keyboard.press('Control+z');
  await expect(dial).toHaveValue('15');

  // A look that no clip uses can be hidden and shown again; the one open on the Bench stays.
  await page.getByTestId('version').click();
  await expect(
    panel.locator('[data-version="2"]').getByRole('button', { name: 'remove' }),
  ).toBeDisabled();
  await panel.locator('[data-version="1"]').getByRole('button', { name: 'remove' }).click();
  await expect(panel.locator('[data-version="1"]')).toBeHidden();
  await panel
    .getByRole('listitem', { name: 'Removed versions' })
    .getByRole('button', { name: 'put back' })
    .click();
  await expect(panel.locator('[data-version="1"]')).toBeVisible();
  await expect(panel.getByRole('listitem', { name: 'Removed versions' })).toBeHidden();
});

test('a version that a clip wears, or a look’s only one, is not removed; numbers are not given twice', async ({
  request,
}) => {
  const shipped = (await (await request.get('/api/looks')).json()) as {
    id: string;
    versions: { id: string; number: number }[];
  }[];
  const { versions } = shipped.find((l) => l.versions.length === 1)!;
  const { document } = (await (await request.get(`/api/versions/${versions[0]!.id}`)).json()) as {
    document: object;
  };
  const made = (await (
    await request.post('/api/looks', { data: { document: { ...document, name: 'Numbers' } } })
  ).json()) as {
    lookId: string;
    versionId: string;
  };
  const remove = (id: string, removed = true) =>
    request.patch(`/api/versions/${id}`, { data: { removed } });
  const only = await remove(made.versionId);
  expect(only.status()).toBe(409);
  expect(await only.text()).toContain('only version');
  const save = async (basedOn: number) =>
    (await (
      await request.post(`/api/looks/${made.lookId}/versions`, {
        data: { document: { ...document, name: 'Numbers' }, basedOn, follow: [], stay: [] },
      })
    ).json()) as {
      versionId: string;
      number: number;
    };
  const second = await save(1);
  expect((await remove(second.versionId)).status()).toBe(200);
  expect((await save(1)).number).toBe(3);
  const project = (await (
    await request.post('/api/projects', {
      data: { name: 'Worn', width: 320, height: 180, rateNum: 25, rateDen: 1 },
    })
  ).json()) as { id: string };
  expect(project.id).toBeTruthy();
  expect((await remove('00000000-0000-4000-8000-000000000000')).status()).toBe(404);
  expect((await remove(second.versionId, false)).status()).toBe(200);
});
