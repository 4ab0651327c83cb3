import { expect, type Page, test } from '@playwright/test';
import {
  digestOf,
  FOOTAGE,
  newProject,
  parked,
  putOn,
  run,
  settled,
  shippedLook,
  bringFiles,
} from './project';
import { brightLook, frame, goTo, strength } from './time';
import { pick, unfold } from './pick';

/** A second of a demo clip, small, so that its motion is measured quickly. */
async function bringSmall(page: Page, name: string): Promise<void> {
  const file = test.info().outputPath(`small-${name}.mp4`);
  await run('ffmpeg', [
    '-v',
    'error',
    '-i',
    FOOTAGE(name),
    '-vf',
    'scale=320:180',
    '-frames:v',
    '48',
    '-an',
    '-c:v',
    'libx264',
    '-qp',
    '12',
    file,
  ]);
  await bringFiles(page, file);
}

test('a look that slows a clip has its motion measured, and its in-betweens are made from it', async ({
  page,
}) => {
  const project = await newProject(page, 'Slowed');
  await bringSmall(page, 'coast-van');
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
  const document = {
    schema: 3,
    name: 'Slow',
    seed: 1,
    bedrock: true,
    layers: [layer],
    dials: [strength],
  };
  const made = await page.request.post('/api/looks', { data: { document } });
  const { lookId } = (await made.json()) as { lookId: string };
  await page.goto(`/p/${project}/bench?look=${lookId}`);
  await parked(page);
  await goTo(page, 41);
  const mixed = await settled(page, 'hero');
  const state = page.getByRole('status', { name: 'The hero’s motion' });
  await expect(state).toHaveCount(0);
  await unfold(page.locator('[data-layer="slow"]'));
  await pick(page.getByLabel('Between frames', { exact: true }), 'motion');
  // It starts by itself and shows progress until it is done.
  await expect(state).toContainText('measuring motion');
  await expect(state.getByRole('button', { name: 'stop' })).toBeVisible();
  await expect(state).toHaveCount(0, { timeout: 120_000 });
  await expect.poll(() => digestOf(page, 'hero')).not.toBe(mixed);
  // A frame of the footage itself stays as it is.
  await goTo(page, 40);
  const own = await settled(page, 'hero');
  await pick(page.getByLabel('Between frames', { exact: true }), 'nearest');
  await frame(page).focus();
  expect(await settled(page, 'hero')).toBe(own);
});

test('a look retimes its clips: dials move their length, before stays at the moment, deliveries are as long', async ({
  page,
}) => {
  const project = await newProject(page, 'Breathing');
  await bringSmall(page, 'coast-van');
  const look = await shippedLook(page, 'slow-breath');
  await page.goto(`/p/${project}/bench?look=${look}`);
  await parked(page);
  const bedrock = page.getByRole('region', { name: 'Bedrock' });
  await bedrock.getByRole('button', { name: /^bedrock/ }).click();
  const length = bedrock.getByTestId('length-under-look');
  const frames = async (): Promise<number> =>
    Number(/→ (\d+) frames/.exec((await length.textContent())!)![1]);
  const first = await frames();
  expect(first).toBeGreaterThan(48);
  await expect(frame(page)).toHaveAttribute('aria-valuemax', String(first - 1));
  await page
    .getByRole('region', { name: 'Dials' })
    .getByRole('slider', { name: 'Slowness' })
    .fill('100');
  await expect.poll(frames).toBeGreaterThan(first + 40);
  const slow = await frames();
  await expect(frame(page)).toHaveAttribute('aria-valuemax', String(slow - 1));
  // “Before” shows the clip at the hero's instant, not the frame with the same number.
  await goTo(page, slow - 1);
  await settled(page, 'hero');
  await page.keyboard.down('b');
  await expect(page.getByTestId('source')).toHaveText(/^before/);
  const before = await settled(page, 'before');
  await page.keyboard.up('b');
  await page
    .getByRole('region', { name: 'Dials' })
    .getByRole('slider', { name: 'Slowness' })
    .fill('0');
  await expect.poll(frames).toBe(48);
  await goTo(page, 47);
  await settled(page, 'hero');
  await page.keyboard.down('b');
  await expect(page.getByTestId('source')).toHaveText(/^before/);
  expect(await settled(page, 'before')).toBe(before);
  await page.keyboard.up('b');
  // Applied to the clip as shipped, the render has the length the Bench said, and a note says that
  // it is silent.
  const clips = await putOn(page, project, look);
  const order = {
    clips,
    format: 'mkv',
    width: 160,
    height: 90,
    coverage: false,
    effort: 'usual',
  };
  expect(
    (await page.request.post(`/api/projects/${project}/deliveries`, { data: order })).status(),
  ).toBe(201);
  const item = async () =>
    (
      (await (await page.request.get(`/api/projects/${project}/deliveries`)).json()) as {
        deliveries: { items: { frames: number; state: string; retimed: boolean }[] }[];
      }
    ).deliveries[0]!.items[0]!;
  expect(await item()).toMatchObject({ frames: first, retimed: true });
  await expect.poll(async () => (await item()).state, { timeout: 180_000 }).toBe('done');
});

test('motion blur is added by hand and smears what moves', async ({ page }) => {
  const project = await newProject(page, 'Smeared');
  await bringSmall(page, 'gulls');
  await page.goto(`/p/${project}/bench`);
  expect(
    (
      await page.request.post(`/api/clips/00000000-0000-4000-8000-000000000000/assets/motion`, {
        data: { from: 0 },
      })
    ).status(),
  ).toBe(404);
  const clip = (
    (await (await page.request.get(`/api/projects/${project}`)).json()) as {
      clips: { id: string; hash: string }[];
    }
  ).clips[0]!;
  expect((await page.request.get(`/api/footage/${clip.hash}/assets/motion/3`)).status()).toBe(404);
  expect((await page.request.get(`/api/footage/${clip.hash}/assets/motion/minus`)).status()).toBe(
    404,
  );
  expect(
    (
      await page.request.post(`/api/clips/${clip.id}/assets/motion`, { data: { from: -1 } })
    ).status(),
  ).toBe(422);
  // Stopped and resumed; what was measured by then is kept.
  expect(
    (
      await page.request.post(`/api/clips/${clip.id}/assets/motion`, { data: { from: 40 } })
    ).status(),
  ).toBe(202);
  expect((await page.request.delete(`/api/clips/${clip.id}/assets/motion`)).status()).toBe(202);
  expect(
    (
      await page.request.post(`/api/clips/${clip.id}/assets/motion`, { data: { from: 0 } })
    ).status(),
  ).toBe(202);
  await expect
    .poll(
      async () =>
        (
          (await (await page.request.get(`/api/projects/${project}`)).json()) as {
            clips: { assets: { motion: { state: string } } }[];
          }
        ).clips[0]!.assets.motion.state,
      {
        timeout: 180_000,
      },
    )
    .toBe('done');
  const pair = await page.request.get(`/api/footage/${clip.hash}/assets/motion/3`);
  // Vectors at half the size, in both directions, packed.
  expect((await pair.body()).length).toBe(12 + 160 * 90 * 10);
  const layer = {
    key: 'top',
    name: 'top',
    on: true,
    source: 'clip',
    blend: 'normal',
    opacity: { value: 100 },
    steps: [
      {
        key: 'blur',
        step: 'motion-blur',
        on: true,
        mix: { value: 100 },
        parameters: { angle: { value: 720 } },
      },
    ],
  };
  const document = {
    schema: 3,
    name: 'Blurred',
    seed: 1,
    bedrock: true,
    layers: [layer],
    dials: [strength],
  };
  const { lookId } = (await (
    await page.request.post('/api/looks', { data: { document } })
  ).json()) as { lookId: string };
  await page.goto(`/p/${project}/bench?look=${lookId}`);
  await parked(page);
  const blurred = await settled(page, 'hero');
  await page.getByLabel('top on').click();
  expect(await settled(page, 'hero')).not.toBe(blurred);
});

test('a clip runs at a quarter of its speed: the length is shown first, frames are its own, cues stay, nothing sounds', async ({
  page,
}) => {
  const project = await newProject(page, 'Retimed');
  await bringSmall(page, 'gulls');
  const lookId = await brightLook(page, 'Strikes at its cue', {
    pins: [{ key: 'hit', label: 'Hit', kind: 'cue', many: false }],
  });
  const clipNow = async () =>
    (
      (await (await page.request.get(`/api/projects/${project}`)).json()) as {
        clips: { id: string; frames: number; retime: unknown }[];
      }
    ).clips[0]!;
  const { frames } = await clipNow();
  await page.goto(`/p/${project}/bench?look=${lookId}`);
  await parked(page);
  await goTo(page, 10);
  const tenth = await settled(page, 'hero');
  await page.keyboard.press('c');
  await page
    .getByRole('region', { name: 'Bedrock' })
    .getByRole('button', { name: /bedrock/ })
    .click();
  await page.getByRole('button', { name: 'retime', exact: true }).click();
  const speed = page.getByLabel('Speed at place 1, typed');
  await speed.focus();
  for (const key of ['Control+a', '2', '5', 'Enter']) await page.keyboard.press(key);
  await pick(page.getByLabel('Between frames of the retimed clip'), 'nearest');
  // A preview before anything changes.
  await expect(page.getByTestId('retimed-length')).toContainText(
    `${frames} → ${4 * frames} frames`,
  );
  await expect(frame(page)).toHaveAttribute('aria-valuemax', String(frames - 1));
  await page.getByRole('button', { name: 'apply' }).click();
  await expect(frame(page)).toHaveAttribute('aria-valuemax', String(4 * frames - 1));
  await goTo(page, 40);
  expect(await settled(page, 'hero')).toBe(tenth);
  await expect(page.getByRole('img', { name: 'cue at 40' })).toBeVisible();
  await expect.poll(async () => (await clipNow()).retime).not.toBeNull();
  // An impossible value is refused with a message.
  const clip = await clipNow();
  const wrong = { ...(clip.retime as object), places: [{ frame: 0, speed: 0, to: 'smooth' }] };
  const refused = await page.request.post(`/api/projects/${project}/clips`, {
    data: { clips: [{ clip: clip.id, was: { retime: clip.retime }, to: { retime: wrong } }] },
  });
  expect(refused.status()).toBe(422);
  expect(await refused.text()).toContain('a speed is 2 to 1600 per cent');
  await page.keyboard.press('Control+z');
  await expect(frame(page)).toHaveAttribute('aria-valuemax', String(frames - 1));
});
