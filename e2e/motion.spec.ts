import { expect, test } from '@playwright/test';
import { bring, digestOf, newProject, parked, settled } from './project';
import { frame, goTo, strength } from './time';
import { pick, unfold } from './pick';

test('a look that slows a clip has its motion measured, stops and goes on, and its in-betweens are made from it', async ({ page }) => {
  const project = await newProject(page, 'Slowed');
  await bring(page, 'coast-van');
  const layer = {
    key: 'slow',
    name: 'slow',
    on: true,
    source: 'clip',
    blend: 'normal',
    opacity: { value: 100 },
    steps: [],
    time: { speed: { value: 25 }, between: { value: 'mix' } },
  };
  const document = { schema: 3, name: 'Slow', seed: 1, bedrock: true, layers: [layer], dials: [strength] };
  const made = await page.request.post('/api/looks', { data: { document } });
  const { lookId } = (await made.json()) as { lookId: string };
  await page.goto(`/p/${project}/bench?look=${lookId}`);
  await parked(page);
  await goTo(page, 41);
  const mixed = await settled(page, 'hero');
  const state = page.getByRole('status', { name: 'Motion of the hero' });
  await expect(state).toHaveCount(0);
  await unfold(page.locator('[data-layer="slow"]'));
  await pick(page.getByLabel('Between frames', { exact: true }), 'made from motion');
  await expect(state).toContainText('measuring motion');
  await state.getByRole('button', { name: 'stop' }).click();
  await expect(state).toContainText('motion is not measured');
  // What is not measured is mixed.
  expect(await settled(page, 'hero')).toBe(mixed);
  await state.getByRole('button', { name: 'measure it' }).click();
  await expect(state).toHaveCount(0, { timeout: 180_000 });
  await expect.poll(() => digestOf(page, 'hero')).not.toBe(mixed);
  // A frame that there is stays what it is.
  await goTo(page, 40);
  const own = await settled(page, 'hero');
  await pick(page.getByLabel('Between frames', { exact: true }), 'the nearest frame');
  await frame(page).focus();
  expect(await settled(page, 'hero')).toBe(own);
});

test('motion blur is added by hand and smears what moves', async ({ page }) => {
  const project = await newProject(page, 'Smeared');
  await bring(page, 'lighthouse-turn');
  await page.goto(`/p/${project}/bench`);
  expect((await page.request.post(`/api/clips/00000000-0000-4000-8000-000000000000/motion`, { data: { from: 0 } })).status()).toBe(404);
  const clip = ((await (await page.request.get(`/api/projects/${project}`)).json()) as { clips: { id: string; hash: string }[] }).clips[0]!;
  expect((await page.request.get(`/api/footage/${clip.hash}/motion/3`)).status()).toBe(404);
  expect((await page.request.get(`/api/footage/${clip.hash}/motion/minus`)).status()).toBe(404);
  expect((await page.request.post(`/api/clips/${clip.id}/motion`, { data: { from: -1 } })).status()).toBe(400);
  expect((await page.request.post(`/api/clips/${clip.id}/motion`, { data: { from: 40 } })).status()).toBe(202);
  await expect
    .poll(
      async () =>
        ((await (await page.request.get(`/api/projects/${project}`)).json()) as { clips: { motion: { state: string } }[] }).clips[0]!.motion.state,
      {
        timeout: 180_000,
      },
    )
    .toBe('done');
  const pair = await page.request.get(`/api/footage/${clip.hash}/motion/3`);
  // 480 × 270 vectors both ways, packed.
  expect((await pair.body()).length).toBe(12 + 480 * 270 * 10);
  const layer = {
    key: 'top',
    name: 'top',
    on: true,
    source: 'clip',
    blend: 'normal',
    opacity: { value: 100 },
    steps: [{ key: 'blur', step: 'motion-blur', on: true, mix: { value: 100 }, parameters: { angle: { value: 720 } } }],
  };
  const document = { schema: 3, name: 'Blurred', seed: 1, bedrock: true, layers: [layer], dials: [strength] };
  const { lookId } = (await (await page.request.post('/api/looks', { data: { document } })).json()) as { lookId: string };
  await page.goto(`/p/${project}/bench?look=${lookId}`);
  await parked(page);
  const blurred = await settled(page, 'hero');
  await page.getByLabel('top on').click();
  expect(await settled(page, 'hero')).not.toBe(blurred);
});
