/**
 * The first page: projects as pictures, renamed, duplicated, removed and restored; a project
 * started by dropping footage.
 */
import { readFile } from 'node:fs/promises';
import { expect, test } from '@playwright/test';
import { bring, FOOTAGE, newProject, run } from './project';

test('a project is four of its clips, and is renamed, duplicated, removed and put back', async ({
  page,
}) => {
  // Other journeys make projects meanwhile, and a second attempt finds those of the first.
  const attempt = test.info().retry + 1;
  const [name, other, earlier] = ['First page', 'Another name', 'Before it'].map(
    (n) => `${n} ${attempt}`,
  ) as [string, string, string];
  await newProject(page, earlier);
  const project = await newProject(page, name);
  await bring(page, 'gulls', 'kelp');
  await page.goto('/');
  const card = page.locator(`[data-project="${name}"]`);
  // Most recently changed first.
  await expect(card).toBeVisible();
  const shown = await page
    .getByRole('list', { name: 'Projects' })
    .locator('> li')
    .evaluateAll((all) => all.map((li) => (li as HTMLElement).dataset['project']));
  expect(shown.filter((n) => n === name || n === earlier)).toEqual([name, earlier]);
  await expect(card.getByRole('img', { name: 'gulls' })).toBeVisible({ timeout: 30_000 });
  await expect(card.getByRole('img', { name: 'kelp' })).toBeVisible();
  await expect(card).toContainText('2 clips · 1920×1080 · 25');
  await card.getByRole('button', { name: 'rename' }).click();
  await page.getByLabel(`New name of ${name}`).fill(other);
  await page.keyboard.press('Enter');
  const renamed = page.locator(`[data-project="${other}"]`);
  await renamed.getByRole('button', { name: 'duplicate' }).click();
  await expect(page.locator(`[data-project="${other} copy"]`)).toContainText('2 clips');
  await renamed.getByRole('button', { name: 'remove' }).click();
  await expect(renamed).toHaveCount(0);
  await page.getByRole('button', { name: `put ${other} back`, exact: true }).click();
  await expect(renamed).toBeVisible();
  await renamed.getByRole('link', { name: `Open ${other}` }).click();
  await page.waitForURL(new RegExp(`/p/${project}/bench`));
  expect(
    (await page.request.patch(`/api/projects/${project}`, { data: { name: '' } })).status(),
  ).toBe(422);
  expect(
    (await page.request.post('/api/projects/00000000-0000-4000-8000-000000000000/copy')).status(),
  ).toBe(404);
});

test('footage dropped on the first page begins a project in its own frame and rate', async ({
  page,
}) => {
  const file = test.info().outputPath('upright.mp4');
  await run('ffmpeg', [
    '-v',
    'error',
    '-i',
    FOOTAGE('gulls'),
    '-vf',
    'crop=200:360,scale=180:320',
    '-r',
    '24',
    '-frames:v',
    '12',
    '-an',
    '-c:v',
    'libx264',
    file,
  ]);
  const bytes = (await readFile(file)).toString('base64');
  await page.goto('/');
  await expect(page.getByRole('list', { name: 'Projects' })).toBeAttached();
  const items = await page.evaluateHandle((data) => {
    const all = new DataTransfer();
    all.items.add(
      new File([Uint8Array.from(atob(data), (c) => c.charCodeAt(0))], 'upright.mp4', {
        type: 'video/mp4',
      }),
    );
    return all;
  }, bytes);
  await page.getByRole('main').dispatchEvent('drop', { dataTransfer: items });
  const form = page.getByRole('form', { name: 'New project' });
  await expect(form).toContainText('with upright.mp4; frame and rate as it has them');
  await expect(form).toContainText('1080×1920 portrait');
  await expect(form).toContainText('24');
  await form.getByLabel('Name').fill('Begun by a drop');
  await form.getByRole('button', { name: 'Start' }).click();
  await page.waitForURL(/rushes/);
  await expect(page.getByRole('button', { name: /upright/ })).toBeVisible({ timeout: 60_000 });
  const id = /\/p\/([0-9a-f-]+)\//.exec(page.url())![1]!;
  expect(await (await page.request.get(`/api/projects/${id}`)).json()).toMatchObject({
    width: 1080,
    height: 1920,
    rate: [24, 1],
  });
});
