import { expect, test } from '@playwright/test';
import { readFileSync, writeFileSync } from 'node:fs';
import { FOOTAGE, newProject, toRushes } from './project';

test('what is not footage is refused where it was dropped, and nothing is stored', async ({
  page,
}) => {
  const project = await newProject(page, 'Bad files');
  await toRushes(page);
  const at = (name: string, bytes: Buffer) => {
    const f = test.info().outputPath(name);
    writeFileSync(f, bytes);
    return f;
  };
  const whole = readFileSync(FOOTAGE('gulls'));
  for (const [file, words] of [
    [at('notes.mp4', Buffer.from('not a video at all '.repeat(400))), /cannot be read as footage/],
    [at('nothing.mov', Buffer.alloc(0)), /0 bytes/],
    [
      at('cut.mp4', whole.subarray(0, Math.floor(whole.length * 0.7))),
      /cut short|damaged|cannot be read/,
    ],
  ] as const) {
    await page.getByLabel('Files').setInputFiles(file);
    const row = page.getByRole('list', { name: 'Coming in' }).getByRole('alert');
    await expect(row).toHaveText(words, { timeout: 60_000 });
    await page.getByRole('button', { name: 'put away' }).click();
    await expect(row).toHaveCount(0);
  }
  expect(
    ((await (await page.request.get(`/api/projects/${project}`)).json()) as { clips: unknown[] })
      .clips,
  ).toEqual([]);
  expect((await page.request.get('/api/status')).status()).toBe(200);
});

test('a look with an unknown step is refused in words', async ({ page }) => {
  const project = await newProject(page, 'Bad look');
  const look = JSON.parse(readFileSync('core/look/shipped/silt.json', 'utf8')) as {
    name: string;
    layers: { steps: { step: string }[] }[];
  };
  look.layers[0]!.steps[0]!.step = 'sparkle';
  look.name = 'Sparkling';
  const file = test.info().outputPath('look.json');
  writeFileSync(file, JSON.stringify(look));
  await page.goto(`/p/${project}/shelf`);
  await page.getByLabel('Look file').setInputFiles(file);
  await expect(page.getByRole('alert')).toContainText('there is no step "sparkle"');
  await page.reload();
  await expect(page.getByRole('button', { name: 'New look' })).toBeVisible();
  await expect(page.getByText('Sparkling')).toHaveCount(0);
});

test('endpoints answer nonsense with problem details', async ({ page }) => {
  for (const [method, url, data, status] of [
    ['post', '/api/projects', { name: '', width: 0 }, 422],
    ['get', '/api/projects/nope', undefined, 404],
    ['post', '/api/looks', 'not json', 400],
    ['get', '/api/footage/../secret/strip.jpg', undefined, 404],
    ['post', `/api/projects/${crypto.randomUUID()}/imports`, { name: 'x', files: ['../x'] }, 404],
  ] as const) {
    const answer = await page.request.fetch(url, {
      method,
      ...(data !== undefined && { data, headers: { 'content-type': 'application/json' } }),
    });
    expect(answer.status()).toBe(status);
  }
});
