import { expect, type Page, test } from '@playwright/test';
import { brightLook, frame, goTo } from './time';
import { bring, digestOf, newProject, parked } from './project';

const baked = (page: Page) => page.locator('[data-at-hand="baked"]');
const panel = (page: Page) => page.getByRole('button', { name: /^(bake|\d+ %)$/ });
const shownFrames = (page: Page, forMs: number) =>
  page.evaluate(
    (ms) =>
      new Promise<number[]>((resolve) => {
        const canvas = document.querySelector<HTMLElement>('canvas[data-view=hero]')!;
        const seen = [Number(canvas.dataset['frame'])];
        const watch = new MutationObserver(() => seen.push(Number(canvas.dataset['frame'])));
        watch.observe(canvas, { attributes: true, attributeFilter: ['data-frame'] });
        setTimeout(() => resolve(seen), ms);
      }),
    forMs,
  );

test('a loop is baked, stopped, found again after a reload, and shown as it would be computed', async ({
  page,
}) => {
  const project = await newProject(page, 'Baked');
  await bring(page, 'lighthouse-turn');
  const look = await brightLook(page, 'Bakes');
  await page.goto(`/p/${project}/bench?look=${look}`);
  await parked(page);
  // A loop from 20 to 39, by the keyboard.
  await goTo(page, 20);
  await page.keyboard.press('[');
  await goTo(page, 39);
  await page.keyboard.press(']');
  await expect(page.getByRole('button', { name: 'loop ends at 39' })).toBeVisible();
  await panel(page).click();
  await expect(page.getByText(/20 frames of the loop at 960×540, lossless/)).toBeVisible();
  await page.getByRole('button', { name: 'bake them' }).click();
  await expect(baked(page).first()).toBeVisible();
  await page.keyboard.press('Escape');
  // Stopped half-way, finished frames stay.
  await panel(page).click();
  const stop = page.getByRole('button', { name: 'stop baking' });
  if (await stop.isVisible()) await stop.click();
  await page.reload();
  await parked(page);
  await expect(baked(page).first()).toBeVisible();
  await goTo(page, 20);
  await page.keyboard.press('[');
  await goTo(page, 39);
  await page.keyboard.press(']');
  await page.keyboard.press('a');
  await expect(baked(page)).toHaveAttribute('title', 'baked: 20 to 39');
  // One frame of the loop shown alone: from its file, and computed when the file is gone.
  const alone = async () => {
    await page.reload();
    await parked(page);
    await goTo(page, 30);
    await page.keyboard.press('[');
    await page.keyboard.press(']');
    await frame(page).focus();
    await page.keyboard.press('Space');
    await expect(page.getByTestId('source')).toHaveText('proxy 960×540');
    const digest = await digestOf(page, 'hero');
    await page.keyboard.press('Space');
    await parked(page);
    return digest;
  };
  const fromFile = await alone();
  await panel(page).click();
  await page.getByRole('button', { name: 'take all baked away' }).click();
  await expect(baked(page)).toHaveCount(0);
  expect(await alone()).toBe(fromFile);
});

test('a change of the look ends what is baked for it, and undo brings it back', async ({
  page,
}) => {
  const project = await newProject(page, 'Rebaked');
  await bring(page, 'lighthouse-turn');
  await page.goto(`/p/${project}/bench?look=${await brightLook(page, 'Changes')}`);
  await parked(page);
  await goTo(page, 4);
  await page.keyboard.press(']');
  await page.keyboard.press('a');
  await expect(baked(page)).toHaveAttribute('title', 'baked: 0 to 4');
  await page.getByLabel('light on').click();
  await expect(baked(page)).toHaveCount(0);
  await page.keyboard.press('Control+z');
  await expect(baked(page)).toHaveAttribute('title', 'baked: 0 to 4');
});

test('playing stays within its loop, goes on with the sound, and the hero fills the screen', async ({
  page,
}) => {
  const project = await newProject(page, 'Played');
  await bring(page, 'floor-tom');
  await page.goto(`/p/${project}/bench?look=${await brightLook(page, 'Plays')}`);
  await parked(page);
  await expect(page.getByRole('button', { name: 'Sound is on' })).toBeVisible();
  // The button is there before the sound is.
  const fetched = () =>
    page.evaluate(
      () =>
        performance.getEntriesByType('resource').find((e) => e.name.endsWith('sound.webm'))?.name ??
        '',
    );
  await expect.poll(fetched).toContain('sound.webm');
  const sound = await page.request.get(await fetched());
  expect(sound.headers()['content-type']).toBe('audio/webm');
  await goTo(page, 10);
  await page.keyboard.press('[');
  await goTo(page, 30);
  await page.keyboard.press(']');
  await frame(page).focus();
  await page.keyboard.press('Space');
  await expect(page.getByTestId('playing')).toContainText('/25');
  const seen = await shownFrames(page, 2500);
  await page.keyboard.press('Space');
  expect(new Set(seen).size).toBeGreaterThan(3);
  expect(Math.min(...seen)).toBeGreaterThanOrEqual(10);
  expect(Math.max(...seen)).toBeLessThanOrEqual(30);
  await page.keyboard.press('Shift+F');
  await expect.poll(() => page.evaluate(() => document.fullscreenElement !== null)).toBe(true);
  await page.keyboard.press('Shift+F');
  await expect.poll(() => page.evaluate(() => document.fullscreenElement === null)).toBe(true);
});
