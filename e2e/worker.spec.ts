import { expect, test } from '@playwright/test';
import { type ChildProcess, spawn } from 'node:child_process';
import { bring, facts, newProject, putOn, run, shippedLook, rendered } from './project';

interface Kiln {
  deliveries: { items: { id: string; state: string; rendered: number }[] }[];
}

let next: ChildProcess | undefined;
test.afterAll(() => next?.kill('SIGTERM'));

test('a worker killed in the middle of a render loses no frame and doubles none', async ({
  page,
}) => {
  test.setTimeout(240_000);
  const project = await newProject(page, 'Killed');
  await bring(page, 'rain-window');
  const look = await shippedLook(page, 'soft-lens');
  const ids = await putOn(page, project, look, { in: 0, out: 47 });
  await page.request.post(`/api/projects/${project}/deliveries`, {
    data: { clips: ids, format: 'mkv', width: 960, height: 540 },
  });
  const item = async () =>
    ((await (await page.request.get(`/api/projects/${project}/deliveries`)).json()) as Kiln)
      .deliveries[0]!.items[0]!;
  await expect
    .poll(async () => (await item()).rendered, { timeout: 60_000, intervals: [100] })
    .toBeGreaterThan(4);
  process.kill(Number(process.env['WORKER_PID']), 'SIGKILL');
  expect((await item()).state).toBe('running');
  const began = Date.now();
  next = spawn(process.execPath, ['--import', 'tsx', 'server/worker.ts'], { stdio: 'ignore' });
  await expect
    .poll(async () => (await item()).state, { timeout: 120_000, intervals: [500] })
    .toBe('done');
  console.log(`finished ${((Date.now() - began) / 1000).toFixed(0)} s after the kill`);

  const file = test.info().outputPath('killed.mkv');
  const { writeFileSync } = await import('node:fs');
  writeFileSync(
    file,
    await (await page.request.get(`/api/items/${(await item()).id}/file`)).body(),
  );
  const video = (await facts(file)).streams.find((s) => s.codec_type === 'video')!;
  expect(Number(video.nb_read_packets)).toBe(48);
  const whole = test.info().outputPath('whole.mkv');
  await rendered('soft-lens', 'rain-window', whole, '--in-out', '0-47');
  const hashes = async (f: string) =>
    (
      await run('ffmpeg', [
        '-v',
        'error',
        '-i',
        f,
        '-map',
        '0:v',
        '-pix_fmt',
        'gbrp16le',
        '-f',
        'framemd5',
        '-',
      ])
    ).stdout
      .split('\n')
      .filter((l) => !l.startsWith('#'))
      .map((l) => l.split(',').at(-1)!.trim());
  expect(await hashes(file)).toEqual(await hashes(whole));
});

// The worker that took over also serves this journey.
test('a delivery is cancelled and tried again', async ({ page }) => {
  const project = await newProject(page, 'Cancelled');
  await bring(page, 'gulls');
  await page.goto(`/p/${project}/kiln`);
  await page.getByText('PNG frames').click();
  await page.getByLabel('Width').fill('640');
  await page.getByLabel('Height').fill('360');
  await page.getByRole('button', { name: 'Render 1 clip' }).click();
  await page.getByRole('button', { name: 'cancel' }).click();
  await expect(page.locator('li[data-state="cancelled"]')).toBeVisible();
  await page.getByRole('button', { name: 'try again' }).click();
  await expect(page.locator('li[data-state="done"]')).toBeVisible({ timeout: 150_000 });
});
