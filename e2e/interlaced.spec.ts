import { expect, test } from '@playwright/test';
import { newProject, run, toRushes } from './project';

test('interlaced footage says so on Rushes, and is made progressive as a clip beside it', async ({
  page,
}) => {
  const project = await newProject(page, 'Two fields');
  await toRushes(page);
  // Twenty frames of two fields each, upper field first, tagged so in the file.
  const file = test.info().outputPath('woven.mp4');
  const source = 'testsrc=s=320x180:r=50:d=0.8,tinterlace=mode=interleave_top';
  const coded = [
    '-c:v',
    'libx264',
    '-flags',
    '+ilme+ildct',
    '-x264opts',
    'tff=1',
    '-pix_fmt',
    'yuv420p',
    '-qp',
    '10',
  ];
  await run('ffmpeg', [
    '-v',
    'error',
    '-f',
    'lavfi',
    '-i',
    source,
    '-vf',
    'setfield=tff',
    ...coded,
    file,
  ]);
  await page.getByLabel('Files').setInputFiles(file);
  const clip = page.getByRole('button', { name: /woven/ });
  await expect(clip).toBeVisible({ timeout: 60_000 });
  await expect(clip).toContainText('interlaced');
  await clip.click();
  await expect(page.getByText('Interlaced: two instants lie in each frame.')).toBeVisible();
  await page.getByRole('button', { name: 'two', exact: true }).click();
  const made = page.getByRole('button', { name: /woven progressive/ });
  await expect(made).toBeVisible({ timeout: 60_000 });
  await expect(made).not.toContainText('interlaced');
  const { clips } = (await (await page.request.get(`/api/projects/${project}`)).json()) as {
    clips: { name: string; frames: number; rate: [number, number] }[];
  };
  const [before, after] = ['woven', 'woven progressive'].map((name) =>
    clips.find((c) => c.name === name)!,
  );
  expect([after!.frames, after!.rate]).toEqual([
    before!.frames * 2,
    [before!.rate[0] * 2, before!.rate[1]],
  ]);
});
