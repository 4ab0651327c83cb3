import { expect, type Page, test } from '@playwright/test';
import { pick } from './pick';
import { bring, newProject } from './project';

interface Postgres {
  startPostgres(folder: string, how: { quick: boolean }): Promise<{ stop(): void }>;
}
/** The server that these journeys run on. */
async function server(): Promise<Awaited<ReturnType<Postgres['startPostgres']>>> {
  const where = '../scripts/postgres.mjs';
  return ((await import(where)) as Postgres).startPostgres(`${process.cwd()}/.data-test`, {
    quick: true,
  });
}
const noteOf = async (page: Page, project: string): Promise<string | undefined> =>
  (
    (await (await page.request.get(`/api/projects/${project}`)).json()) as {
      clips: { note: string }[];
    }
  ).clips[0]?.note;

test('a database that goes away is said on open pages, and they catch up by themselves once it is back', async ({
  page,
  context,
}) => {
  test.setTimeout(180_000);
  const project = await newProject(page, 'Away and back');
  await bring(page, 'gulls');
  await page.goto(`/p/${project}/wall`);
  await page.getByRole('button', { name: 'choose all' }).click();
  await page.getByLabel('Note of the chosen clips').fill('before');
  await page.keyboard.press('Enter');
  await expect.poll(() => noteOf(page, project)).toBe('before');
  const other = await context.newPage();
  await other.goto(`/p/${project}/wall`);
  await other.getByRole('button', { name: 'choose all' }).click();

  const postgres = await server();
  postgres.stop();
  const away = page.getByText('the database is away');
  try {
    await expect(away).toBeVisible({ timeout: 20_000 });
    await expect(away).toContainText('your changes are kept here');
    // Requests in the meantime get a readable error without internals.
    const answer = await page.request.get(`/api/projects/${project}`);
    expect(answer.status()).toBe(503);
    expect(await answer.text()).not.toMatch(/ECONNREFUSED|127\.0\.0\.1|select /i);
  } finally {
    await server();
  }
  await expect(away).toBeHidden({ timeout: 30_000 });
  await expect(other.getByText('the database is away')).toBeHidden({ timeout: 30_000 });
  // Both pages receive each other's events again.
  await pick(page.getByLabel('Status of the chosen clips'), 'in work');
  await expect(other.getByText('in work').first()).toBeVisible({ timeout: 20_000 });
  // And the worker takes jobs again.
  await page.goto(`/p/${project}/rushes`);
  await bring(page, 'kelp');
});
