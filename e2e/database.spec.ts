import { expect, type Page, test } from '@playwright/test';
import { pick } from './pick';
import { bring, newProject, parked, putOn, shippedLook } from './project';

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
interface Clip {
  readonly note: string;
  readonly trims: object;
}
const clipOf = async (page: Page, project: string): Promise<Clip> => {
  const answer = await page.request.get(`/api/projects/${project}`);
  const { note, trims } = ((await answer.json()) as { clips: Clip[] }).clips[0]!;
  return { note, trims };
};

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
  await expect.poll(async () => (await clipOf(page, project)).note).toBe('before');
  const other = await context.newPage();
  await other.goto(`/p/${project}/wall`);
  await other.getByRole('button', { name: 'choose all' }).click();

  const look = await shippedLook(page, 'silt');
  const [clip] = await putOn(page, project, look);
  const bench = await context.newPage();
  await bench.goto(`/p/${project}/bench?look=${look}&clip=${clip!}`);
  await parked(bench);
  await bench.keyboard.press('t');
  const drain = bench
    .getByRole('region', { name: 'Dials' })
    .getByRole('slider', { name: 'Drain', exact: true });

  const postgres = await server();
  postgres.stop();
  const away = page.getByText('the database is away');
  try {
    await expect(away).toBeVisible({ timeout: 20_000 });
    await expect(away).toContainText('your changes are kept here');
    await other.getByLabel('Note of the chosen clips').fill('written while it was away');
    await other.keyboard.press('Enter');
    await drain.fill('5');
    await bench.mouse.click(700, 300);
    // Nothing is unmounted, and what was done is seen.
    await expect(bench.getByRole('region', { name: 'Dials' })).toBeVisible();
    await expect(drain).toHaveValue('5');
    // Requests in the meantime get a readable error without internals.
    const answer = await page.request.get(`/api/projects/${project}`);
    expect(answer.status()).toBe(503);
    expect(await answer.text()).not.toMatch(/ECONNREFUSED|127\.0\.0\.1|select /i);
  } finally {
    await server();
  }
  await expect(away).toBeHidden({ timeout: 30_000 });
  await expect(other.getByText('the database is away')).toBeHidden({ timeout: 30_000 });
  // What was written meanwhile is there: the note of the Wall and the trim of the Bench.
  await expect
    .poll(() => clipOf(page, project), { timeout: 30_000 })
    .toEqual({
      note: 'written while it was away',
      trims: { [look]: { drain: 5 } },
    });
  // Both pages receive each other's events again.
  await pick(page.getByLabel('Status of the chosen clips'), 'in work');
  await expect(other.getByText('in work').first()).toBeVisible({ timeout: 20_000 });
  // And the worker takes jobs again.
  await page.goto(`/p/${project}/rushes`);
  await bring(page, 'kelp');
});
