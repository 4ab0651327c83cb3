import { expect, test } from '@playwright/test';
import { pick } from './pick';
import { bring, bringFiles, newProject, parked, shippedLook, toRushes } from './project';

const SONG = 'demo/sounds/harbour-static.flac';

test('help at every place names what is there, in the words that its controls carry', async ({
  page,
}) => {
  const project = await newProject(page, 'Helped');
  await bring(page, 'gulls', 'kelp');
  await bringFiles(page, SONG);
  const look = await shippedLook(page, 'silt');
  for (const place of ['rushes', 'bench', 'wall', 'assembly', 'kiln', 'shelf']) {
    await page.goto(`/p/${project}/${place}${place === 'bench' ? `?look=${look}` : ''}`);
    if (place === 'bench') await parked(page);
    else await expect(page.getByRole('button', { name: 'Help' })).toBeVisible();
    await page.locator('h1').click();
    await page.keyboard.press('Shift+?');
    const help = page.locator(`[data-help="${place}"]`);
    await expect(help).toBeVisible();
    const words = await help.locator('dt').allTextContents();
    expect(words.length).toBeGreaterThanOrEqual(3);
    await page.keyboard.press('Escape');
    await expect(help).toBeHidden();
    for (const word of words)
      await expect(
        page
          .getByText(word, { exact: true })
          .or(page.getByLabel(word, { exact: true }))
          .or(page.getByPlaceholder(word, { exact: true }))
          .first(),
        `${word} on ${place}`,
      ).toBeVisible();
  }
});

test('a first look is built along three hints, each of which goes for good', async ({ page }) => {
  await newProject(page, 'Hinted');
  await bring(page, 'gulls');
  await toRushes(page);
  await page.getByRole('link', { name: 'Shelf' }).click();
  await page.getByLabel('Name of a new look').fill('First of all');
  await page.getByRole('button', { name: 'New look' }).click();
  await page.waitForURL(/bench\?look=/);
  const hint = page.getByRole('note');
  await expect(hint).toContainText('+ layer');
  await pick(page.getByRole('region', { name: 'Strata' }).getByLabel('Add a layer from'), 'clip');
  await expect(hint).toContainText('+ step');
  // A dismissed hint is not followed, and disappears too.
  await hint.getByRole('button', { name: 'Leave this hint out' }).click();
  await expect(hint).toContainText('circle');
  await page.reload();
  await expect(page.getByRole('region', { name: 'Strata' })).toBeVisible();
  await expect(hint).toContainText('circle');
  await hint.getByRole('button', { name: 'Leave this hint out' }).click();
  await expect(hint).toBeHidden();
  await page.reload();
  await expect(page.getByRole('region', { name: 'Bedrock' })).toBeVisible();
  await expect(hint).toBeHidden();
});
