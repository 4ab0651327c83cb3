/** A look as a layer's source: its dials on the layer, and updates to newer versions. */
import { expect, test } from '@playwright/test';
import { readFile } from 'node:fs/promises';
import { pick, type } from './pick';
import { bring, newestOf, newLook, newProject } from './project';

test('a layer begins with another look, sets its dials, and takes up its newer version', async ({
  page,
}) => {
  const project = await newProject(page, 'Looks within');
  await bring(page, 'gulls');
  const stamp = String(Date.now()),
    name = `Agreed ${stamp}`;
  const grade = {
    ...(JSON.parse(await readFile('core/look/shipped/brine.json', 'utf8')) as object),
    name,
  };
  const made = await page.request.post('/api/looks', { data: { document: grade } });
  const { lookId: agreed } = (await made.json()) as { lookId: string };
  const own = await newLook(page, `Over ${stamp}`);
  await page.goto(`/p/${project}/bench?look=${own}`);
  await pick(page.getByLabel('Add a layer from'), `look:${agreed}`);
  const layer = page.locator(`[data-layer="agreed-${stamp}"]`);
  await expect(layer.getByText('v1', { exact: true })).toBeVisible();
  // Its dials are shown on the layer.
  await type(layer.getByLabel('Depth, typed'), '0');
  await page.getByRole('button', { name: 'save version' }).click();
  await expect
    .poll(() => newestOf(page, own))
    .toMatchObject({ layers: [{ source: 'look', dials: { depth: { value: 0 } } }] });

  // A newer version of the inner look is offered; taking it is an edit that can be undone.
  const newer = { document: { ...grade, seed: 99 }, basedOn: 1, follow: [], stay: [] };
  expect((await page.request.post(`/api/looks/${agreed}/versions`, { data: newer })).status()).toBe(
    201,
  );
  await page.reload();
  await layer.getByRole('button', { name, exact: true }).click();
  await layer.getByRole('button', { name: 'take up v2' }).click();
  await expect(layer.getByText('v2', { exact: true })).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(layer.getByText('v1', { exact: true })).toBeVisible();
  // A source that follows updates by itself.
  await layer.getByRole('checkbox', { name: 'follows' }).check();
  await expect(layer.getByText('v2', { exact: true })).toBeVisible();

  // A look cannot contain a look that contains it.
  const document = await newestOf(page, own);
  const circle = { ...grade, looks: [{ key: 'over', document, of: { look: own, version: 2 } }] };
  const refused = await page.request.post(`/api/looks/${agreed}/versions`, {
    data: { document: circle, basedOn: 2, follow: [], stay: [] },
  });
  expect(refused.status()).toBe(400);
  expect(await refused.text()).toContain('take one of the two out');
});
