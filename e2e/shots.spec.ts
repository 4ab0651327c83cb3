import { expect, type Page, test } from '@playwright/test';
import { statSync } from 'node:fs';
import { FOOTAGE, newLook, newProject, parked, run, toRushes } from './project';
import { frame } from './time';

const SHOTS = ['kelp', 'gulls', 'white-room'] as const;
const EACH = 16;

/** Three shots of sixteen frames in one file, with a tone that rises at each shot. */
async function bringShots(page: Page): Promise<void> {
  const file = test.info().outputPath('three-shots.mp4');
  const inputs = SHOTS.flatMap((s) => ['-i', FOOTAGE(s)]);
  const tone = `aevalsrc='0.3*sin(2*PI*t*(300+300*floor(t*25/${EACH})))':d=${(SHOTS.length * EACH) / 25}:s=48000[sound]`;
  const parts = SHOTS.map(
    (_, i) => `[${i}:v]trim=end_frame=${EACH},setpts=N/25/TB,scale=320:180,setsar=1[v${i}]`,
  );
  const graph = [
    ...parts,
    `${SHOTS.map((_, i) => `[v${i}]`).join('')}concat=n=${SHOTS.length}[v]`,
    tone,
  ].join(';');
  const output = [
    '-map',
    '[v]',
    '-map',
    '[sound]',
    '-r',
    '25',
    '-c:v',
    'libx264',
    '-qp',
    '12',
    '-c:a',
    'aac',
    file,
  ];
  await run('ffmpeg', ['-v', 'error', ...inputs, '-filter_complex', graph, ...output]);
  expect(statSync(file).size).toBeGreaterThan(1000);
  await page.getByLabel('Files').setInputFiles(file);
  await expect(page.getByRole('button', { name: /three-shots/ })).toBeVisible({ timeout: 60_000 });
}
/** Upward zero crossings of the sound in a second, and how long there is sound. */
async function heard(
  file: string,
): Promise<{ readonly perSecond: number; readonly seconds: number }> {
  const pcm = test.info().outputPath('heard.raw');
  await run('ffmpeg', [
    '-v',
    'error',
    '-y',
    '-i',
    file,
    '-map',
    '0:a',
    '-ac',
    '1',
    '-ar',
    '48000',
    '-f',
    's16le',
    pcm,
  ]);
  const { readFile } = await import('node:fs/promises');
  const bytes = await readFile(pcm);
  const samples = new Int16Array(bytes.buffer, bytes.byteOffset, bytes.length >> 1);
  let ups = 0;
  for (let i = 1; i < samples.length; i++) if (samples[i - 1]! < 0 && samples[i]! >= 0) ups++;
  return { perSecond: (ups * 48000) / samples.length, seconds: samples.length / 48000 };
}

test('cuts inside a file are found, kept or denied, and it is split into clips of their own and put back together', async ({
  page,
}) => {
  test.setTimeout(240_000);
  const project = await newProject(page, 'Three shots');
  await toRushes(page);
  await bringShots(page);
  const card = page.getByRole('button', { name: /three-shots/ });
  await expect(card).toContainText('2 cuts inside');
  await card.click();
  const cuts = page.getByRole('region', { name: 'Cuts inside' });
  await expect(cuts).toContainText('3 shots in one file');
  await expect(cuts.getByText(`at ${EACH}`, { exact: true })).toBeVisible();
  await expect(cuts.getByText(`at ${2 * EACH}`, { exact: true })).toBeVisible();
  // Each cut shows the frames on both of its sides.
  for (const f of [EACH - 1, EACH]) {
    const still = cuts.getByRole('img', { name: `three-shots, frame ${f}` });
    await expect.poll(() => still.evaluate((i: HTMLImageElement) => i.naturalHeight)).toBe(120);
  }

  /**
   * Waits until the server has the edit and the page has read it again; the next edit builds on it.
   */
  const said = async (decided: Record<string, string>) => {
    type Said = { clips: { cutsSaid: Record<string, string> }[] };
    const now = async () =>
      ((await (await page.request.get(`/api/projects/${project}`)).json()) as Said).clips[0]!
        .cutsSaid;
    await expect.poll(now).toEqual(decided);
    await page.waitForTimeout(800);
  };
  await cuts.getByRole('button', { name: 'no cut' }).first().click();
  await said({ [EACH]: 'none' });
  await expect(cuts).toContainText(`none at ${EACH}`);
  await expect(card).toContainText('a cut inside');
  await cuts.getByRole('button', { name: 'keep' }).click();
  await said({ [EACH]: 'none', [2 * EACH]: 'cut' });
  await expect(cuts.getByRole('button', { name: 'kept as one clip' })).toBeVisible();
  await expect(card).not.toContainText('cut inside');
  await cuts.getByRole('button', { name: 'take back' }).click();
  await said({ [2 * EACH]: 'cut' });
  await expect(card).toContainText('a cut inside');

  await cuts.getByRole('button', { name: 'Split into 3 clips' }).click();
  await expect(page.getByText('three-shots is 3 clips now.')).toBeVisible();
  const cards = page.getByRole('button', { name: /three-shots/ });
  await expect(cards).toHaveCount(3);
  for (const c of await cards.all()) await expect(c).toContainText('0.6 s');
  await page.getByRole('button', { name: 'put back together' }).click();
  await expect(cards).toHaveCount(1);
  await expect(card).toContainText('1.9 s');

  // Once more; then the second shot is shown and delivered alone, with its own sound.
  await cuts.getByRole('button', { name: 'Split into 3 clips' }).click();
  await expect(cards).toHaveCount(3);
  await page.getByRole('button', { name: 'fine' }).click();
  const look = await newLook(page, 'Plain');
  const clips = (
    (await (await page.request.get(`/api/projects/${project}`)).json()) as {
      clips: { id: string; name: string }[];
    }
  ).clips;
  expect(clips.map((c) => c.name)).toEqual(['three-shots', 'three-shots 2', 'three-shots 3']);
  await page.goto(`/p/${project}/bench?look=${look}&clip=${clips[1]!.id}`);
  await parked(page);
  await expect(frame(page)).toHaveAttribute('aria-valuemax', String(EACH - 1));

  const order = { clips: [clips[1]!.id], format: 'mkv', width: 320, height: 180 };
  expect(
    (await page.request.post(`/api/projects/${project}/deliveries`, { data: order })).ok(),
  ).toBe(true);
  type Kiln = {
    deliveries: { items: { id: string; state: string; frames: number; error: string | null }[] }[];
  };
  const item = async () =>
    ((await (await page.request.get(`/api/projects/${project}/deliveries`)).json()) as Kiln)
      .deliveries[0]!.items[0]!;
  await expect.poll(async () => (await item()).state, { timeout: 90_000 }).toBe('done');
  const made = test.info().outputPath('second.mkv');
  const { writeFile } = await import('node:fs/promises');
  await writeFile(
    made,
    await (await page.request.get(`/api/items/${(await item()).id}/file`)).body(),
  );
  expect((await item()).frames).toBe(EACH);
  const { stdout: times } = await run('ffprobe', [
    '-v',
    'error',
    '-select_streams',
    'v',
    '-show_entries',
    'packet=pts',
    '-of',
    'csv=p=0',
    made,
  ]);
  expect(times.trim().split(/,?\s+/).map(Number)).toEqual(
    Array.from({ length: EACH }, (_, i) => 40 * i),
  );
  const { perSecond, seconds } = await heard(made);
  expect(Math.abs(perSecond - 600)).toBeLessThan(12);
  expect(Math.abs(seconds - EACH / 25)).toBeLessThan(0.03);
  // Its frames are those of the file in order: each is nearest to its own frame among all 48.
  const [w, h] = [64, 36];
  const framesOf = async (file: string): Promise<Buffer[]> => {
    const args = [
      '-v',
      'error',
      '-i',
      file,
      '-vf',
      `scale=${w}:${h}:flags=area,format=gray`,
      '-fps_mode',
      'passthrough',
      '-f',
      'rawvideo',
      '-',
    ];
    const { stdout } = await run('ffmpeg', args, { encoding: 'buffer', maxBuffer: 1 << 28 });
    return Array.from({ length: stdout.length / (w * h) }, (_, i) =>
      stdout.subarray(i * w * h, (i + 1) * w * h),
    );
  };
  const [ours, own] = [
    await framesOf(made),
    await framesOf(test.info().outputPath('three-shots.mp4')),
  ];
  const apart = (a: Buffer, b: Buffer): number =>
    a.reduce((sum, v, i) => sum + Math.abs(v - b[i]!), 0);
  const nearest = ours.map((o) =>
    own.reduce((best, f, i) => (apart(o, f) < apart(o, own[best]!) ? i : best), 0),
  );
  expect(nearest).toEqual(Array.from({ length: EACH }, (_, i) => EACH + i));
});

test('a clip is given an in and an out by their frames, with their pictures, and is all of the file again', async ({
  page,
}) => {
  const project = await newProject(page, 'In and out');
  await toRushes(page);
  await bringShots(page);
  const card = page.getByRole('button', { name: /three-shots/ });
  await card.click();
  const ends = page.getByRole('region', { name: 'In and out' });
  await ends.getByLabel('In, frame').fill('20');
  await page.keyboard.press('Enter');
  await expect(ends.getByRole('img', { name: 'three-shots, frame 20' })).toBeVisible();
  await expect(card).toContainText('1.1 s');
  // Beyond the file its end is used; text that is not a number changes nothing.
  await ends.getByLabel('Out, frame').fill('900');
  await page.keyboard.press('Enter');
  await expect(ends.getByLabel('Out, frame')).toHaveValue(String(3 * EACH - 1));
  await ends.getByLabel('Out, frame').fill('29');
  await page.keyboard.press('Enter');
  await expect(page.getByText('10 frames of 48')).toBeVisible();
  await expect(card).not.toContainText('cut');
  type Ends = { clips: { id: string; inOut: object | null }[] };
  const first = async () =>
    ((await (await page.request.get(`/api/projects/${project}`)).json()) as Ends).clips[0]!;
  await expect.poll(async () => (await first()).inOut).toEqual({ in: 20, out: 29 });
  const beyond = {
    clip: (await first()).id,
    was: { inOut: { in: 20, out: 29 } },
    to: { inOut: { in: 20, out: 3 * EACH } },
  };
  const refused = await page.request.post(`/api/projects/${project}/clips`, {
    data: { clips: [beyond] },
  });
  expect([refused.status(), await refused.text()]).toEqual([
    400,
    expect.stringContaining('has frames 0 to 47'),
  ]);
  await page.getByRole('button', { name: 'Once more' }).click();
  await expect(page.getByRole('button', { name: /three-shots again/ })).toBeVisible();
  await ends.getByRole('button', { name: 'all of the file' }).click();
  await expect(page.getByText('48 frames', { exact: true })).toBeVisible();
});
