import { expect, test } from '@playwright/test';
import {
  FOOTAGE,
  bring,
  choose,
  digestOf,
  digestOfPicture,
  facts,
  hero,
  newProject,
  parked,
  rendered,
  shippedLook,
  startProject,
  toRushes,
} from './project';
import { pick } from './pick';

test('footage in, a look changed while others follow, saved, assigned, rendered and downloaded', async ({
  page,
}) => {
  const project = await startProject(page, 'A night on the ferry');
  await choose(page, 'rain-window', 'coast-van', 'pier-walk');
  await page.getByRole('button', { name: /pier-walk/ }).click();
  await pick(page.getByLabel('Colour encoding'), 'acescct');

  const look = await shippedLook(page, 'soft-lens');
  await page.goto(`/p/${project}/bench?look=${look}`);
  await parked(page);
  const companion = page.locator('canvas[data-view^="companion:"]').first();
  await expect(companion).toBeVisible();
  const view = (await companion.getAttribute('data-view'))!;
  const [heroBefore, companionBefore] = [await digestOf(page, 'hero'), await digestOf(page, view)];
  await page.getByLabel('Bloom', { exact: true }).fill('100');
  await expect.poll(() => digestOf(page, view)).not.toBe(companionBefore);
  expect(await digestOf(page, 'hero')).not.toBe(heroBefore);
  await expect(page.getByRole('button', { name: /^undo Bloom/ })).toBeEnabled();

  await page.getByRole('button', { name: 'save version' }).click();
  await expect(page.getByTestId('version')).toHaveText('v2');
  await expect(page.getByText('unsaved')).toHaveCount(0);

  await page.goto(`/p/${project}/wall`);
  await page.getByRole('button', { name: 'choose all' }).click();
  await pick(page.getByLabel('Assign a look to the chosen clips'), {
    label: 'Soft Lens v2, follows the newest',
  });
  await expect(page.getByText('Soft Lens v2', { exact: true })).toHaveCount(3);
  await expect(page.locator('canvas[data-view^="tile:"][data-serial]')).toHaveCount(3);

  await page.goto(`/p/${project}/kiln`);
  await page.getByLabel('Width').fill('480');
  await page.getByLabel('Height').fill('270');
  await page.getByRole('button', { name: 'Render 3 clips' }).click();
  await expect(page.locator('li[data-state="done"]')).toHaveCount(3, { timeout: 150_000 });
  for (const [clip, rate, count] of [
    ['rain-window', '25/1', 80],
    ['coast-van', '30000/1001', 96],
    ['pier-walk', '25/1', 80],
  ] as const) {
    const waiting = page.waitForEvent('download');
    await page.locator(`li[data-clip="${clip}"]`).getByRole('link', { name: 'download' }).click();
    const { streams } = await facts(await (await waiting).path());
    const video = streams.find((s) => s.codec_type === 'video')!;
    expect([
      video.codec_name,
      video.r_frame_rate,
      Number(video.nb_read_packets),
      video.width,
      video.height,
    ]).toEqual(['h264', rate, count, 480, 270]);
    const heard = clip === 'coast-van';
    expect(streams.some((s) => s.codec_type === 'audio')).toBe(heard);
    // What has sound says how loud it is.
    await expect(page.locator(`[data-clip="${clip}"]`).getByText(/LUFS/)).toHaveCount(
      heard ? 1 : 0,
    );
  }
});

test('a portrait clip and a full-size one keep their counts and rates in a frame of another shape', async ({
  page,
}) => {
  const project = await newProject(page, 'Shapes');
  await bring(page, 'white-room', 'skyline');
  await toRushes(page);
  await page.getByRole('button', { name: /white-room/ }).click();
  await page.getByRole('button', { name: /skyline/ }).click({ modifiers: ['Control'] });
  await expect(page.getByText('2 clips are chosen')).toBeVisible();
  await pick(page.getByLabel('Colour encoding'), 'srgb');
  for (const clip of ['white-room', 'skyline'])
    await expect(page.getByRole('button', { name: new RegExp(clip) })).toContainText('sRGB');
  await shippedLook(page, 'silt');
  await page.goto(`/p/${project}/wall`);
  await page.getByRole('button', { name: 'choose all' }).click();
  await pick(page.getByLabel('Assign a look to the chosen clips'), {
    label: 'Silt v1, follows the newest',
  });
  await page.goto(`/p/${project}/kiln`);
  await page.getByLabel('Width').fill('320');
  await page.getByLabel('Height').fill('180');
  await page.getByRole('button', { name: 'Render 2 clips' }).click();
  await expect(page.locator('li[data-state="done"]')).toHaveCount(2, { timeout: 150_000 });
  for (const clip of ['white-room', 'skyline']) {
    const waiting = page.waitForEvent('download');
    await page.locator(`li[data-clip="${clip}"]`).getByRole('link', { name: 'download' }).click();
    const of = async (file: string) =>
      (await facts(file)).streams.find((s) => s.codec_type === 'video')!;
    const [made, source] = [await of(await (await waiting).path()), await of(FOOTAGE(clip))];
    expect([made.width, made.height, made.r_frame_rate, made.nb_read_packets]).toEqual([
      320,
      180,
      source.r_frame_rate,
      source.nb_read_packets,
    ]);
  }
});

test('the parked hero is the frame that the command line renders, bit for bit; playing is labelled as proxy', async ({
  page,
}) => {
  const project = await newProject(page, 'Exactness');
  await bring(page, 'deck-dancer');
  const look = await shippedLook(page, 'soft-lens');
  await page.goto(`/p/${project}/bench?look=${look}`);
  await parked(page);
  await expect(page.getByTestId('source')).toHaveText('exact 960×540');
  const shown = await digestOf(page, 'hero');
  const frame = Number(await hero(page).getAttribute('data-frame'));

  const out = test.info().outputPath('frames');
  await rendered(
    'soft-lens',
    'deck-dancer',
    out,
    '--frames',
    String(frame),
    '--size',
    '960x540',
    '--depth',
    '8',
  );
  expect(await digestOfPicture(`${out}/${String(frame).padStart(6, '0')}.png`)).toBe(shown);

  await page.getByRole('button', { name: 'Play' }).click();
  await expect(page.getByTestId('source')).toHaveText(/^proxy/);
  await expect
    .poll(async () => Number(await hero(page).getAttribute('data-frame')))
    .not.toBe(frame);
  await page.getByRole('button', { name: 'Stop' }).click();
  await parked(page);
});
