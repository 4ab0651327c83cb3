/** Two people, or two windows of one, on the same look and the same clip. */
import { expect, type Page, test } from '@playwright/test';
import { bring, newestOf, newProject, parked, shippedLook, versionOf } from './project';

interface Look {
  readonly id: string;
  readonly name: string;
  readonly versions: readonly { readonly number: number }[];
}
const looksOf = async (page: Page): Promise<Look[]> =>
  (await (await page.request.get('/api/looks')).json()) as Look[];
/** A dial's value in the newest version of a look. */
const dialOf = async (page: Page, look: string, key: string): Promise<unknown> =>
  ((await newestOf(page, look)) as { dials: { key: string; value: unknown }[] }).dials.find(
    (d) => d.key === key,
  )?.value;
/** Somebody else saves a version of a look in which a dial stands elsewhere. */
async function saved(page: Page, look: string, key: string, value: number, on: number) {
  const document = (await newestOf(page, look)) as { dials: { key: string }[] };
  const done = await page.request.post(`/api/looks/${look}/versions`, {
    data: {
      document: {
        ...document,
        dials: document.dials.map((d) => (d.key === key ? { ...d, value } : d)),
      },
      basedOn: on,
      follow: [],
      stay: [],
    },
  });
  expect(done.status(), await done.text()).toBe(201);
}
const dial = (page: Page, name: string) =>
  page.getByRole('region', { name: 'Dials' }).getByRole('slider', { name, exact: true });
const unsaved = (page: Page) => page.getByText('unsaved');

test('somebody else’s version is taken, built upon, or mine kept beside it; of a removed look mine is kept', async ({
  page,
}) => {
  test.setTimeout(180_000);
  const project = await newProject(page, 'Two people');
  await bring(page, 'gulls');
  const look = await shippedLook(page, 'silt');
  await page.goto(`/p/${project}/bench?look=${look}`);
  await parked(page);
  const theirs = page.getByRole('dialog', { name: 'Somebody else’s version' });
  const said = (text: RegExp) => page.getByRole('status').filter({ hasText: text });

  // The page says it by itself, with mine still there; both are seen as pictures.
  await dial(page, 'Drain').fill('10');
  await saved(page, look, 'drain', 77, 1);
  await said(/v2 was saved by somebody else/).click({ timeout: 20_000 });
  await expect(theirs.getByRole('img')).toHaveCount(2, { timeout: 60_000 });
  await theirs.getByRole('button', { name: 'take theirs' }).click();
  await expect(dial(page, 'Drain')).toHaveValue('77');
  await expect(unsaved(page)).toBeHidden();
  // Taking theirs is a change like others: mine comes back by undo.
  await page.keyboard.press('Control+z');
  await expect(dial(page, 'Drain')).toHaveValue('10');

  // Mine on top: a version after theirs, also when the page was loaded anew in between.
  await saved(page, look, 'drain', 33, 2);
  await expect(said(/v3 was saved/)).toBeVisible({ timeout: 20_000 });
  await page.reload();
  await parked(page);
  await expect(dial(page, 'Drain')).toHaveValue('10');
  await said(/v3 was saved/).click();
  await theirs.getByRole('button', { name: 'save mine on top' }).click();
  await expect.poll(() => dialOf(page, look, 'drain'), { timeout: 20_000 }).toBe(10);
  expect((await looksOf(page)).find((l) => l.id === look)!.versions[0]!.number).toBe(4);
  await expect(unsaved(page)).toBeHidden();

  // A look that somebody removed: said, and mine becomes a look of its own.
  await dial(page, 'Drain').fill('21');
  expect((await page.request.delete(`/api/looks/${look}`)).ok()).toBe(true);
  await said(/this look was removed/).click({ timeout: 20_000 });
  await theirs.getByRole('button', { name: 'keep mine as a look of its own' }).click();
  await page.waitForURL((url) => url.searchParams.get('look') !== look);
  const kept = new URL(page.url()).searchParams.get('look')!;
  await parked(page);
  await expect(dial(page, 'Drain')).toHaveValue('21');
  expect(await dialOf(page, kept, 'drain')).toBe(21);
});

test('undo takes back one’s own edits and leaves what somebody else trimmed', async ({
  page,
  browser,
}) => {
  const project = await newProject(page, 'Own undo');
  await bring(page, 'gulls');
  const look = await shippedLook(page, 'silt');
  const version = await versionOf(page, look);
  const view = async () =>
    (
      (await (await page.request.get(`/api/projects/${project}`)).json()) as {
        clips: { id: string; trims: Record<string, unknown> }[];
      }
    ).clips[0]!;
  const clip = await view();
  const edit = async (was: object, to: object) => {
    const done = await page.request.post(`/api/projects/${project}/clips`, {
      data: { clips: [{ clip: clip.id, was, to }] },
    });
    expect(done.status(), await done.text()).toBe(200);
  };
  await edit({ version: null }, { version });
  await page.goto(`/p/${project}/bench?look=${look}&clip=${clip.id}`);
  await parked(page);
  // One moves a dial of the look; the other, in another browser, trims the clip on the Wall.
  await dial(page, 'Drain').fill('10');
  const context = await browser.newContext();
  const other = await context.newPage();
  await other.goto(`/p/${project}/wall`);
  await other.getByRole('button', { name: 'choose all' }).click();
  await other.getByRole('button', { name: 'dials' }).click();
  const dials = other.getByRole('complementary', { name: 'Dials' });
  await dials.getByRole('button', { name: 'the chosen clips' }).click();
  await dials.getByRole('slider', { name: 'Depth' }).fill('90');
  await dials.getByRole('button', { name: 'trim 1 clip' }).click();
  await expect.poll(async () => (await view()).trims).toEqual({ [look]: { depth: 90 } });
  await expect(page.locator('[data-dial="depth"]')).toHaveAttribute('data-trimmed', 'true', {
    timeout: 20_000,
  });
  await page.keyboard.press('Control+z');
  await expect(dial(page, 'Drain')).not.toHaveValue('10');
  await expect(page.locator('[data-dial="depth"]')).toHaveAttribute('data-trimmed', 'true');
  await page.waitForTimeout(1000);
  expect((await view()).trims).toEqual({ [look]: { depth: 90 } });
  await context.close();
});

test('two tabs keep a draft of a look each, and a closed one’s is found again', async ({
  page,
  context,
}) => {
  const project = await newProject(page, 'Two tabs');
  await bring(page, 'gulls');
  const look = await shippedLook(page, 'silt');
  const bench = `/p/${project}/bench?look=${look}`;
  await page.goto(bench);
  await parked(page);
  const other = await context.newPage();
  await other.goto(bench);
  await parked(other);
  await dial(page, 'Drain').fill('10');
  await dial(other, 'Drain').fill('90');
  await expect(unsaved(other)).toBeVisible();
  await page.waitForTimeout(1500);
  for (const [tab, value] of [
    [page, '10'],
    [other, '90'],
  ] as const) {
    await tab.reload();
    await parked(tab);
    await expect(dial(tab, 'Drain')).toHaveValue(value);
  }
  await other.close();
  await page.keyboard.press('Control+z');
  const third = await context.newPage();
  await third.goto(bench);
  await parked(third);
  await expect(dial(third, 'Drain')).toHaveValue('90');
});

test('a note that is being typed is not replaced by what somebody else writes', async ({
  page,
  context,
}) => {
  const project = await newProject(page, 'Notes');
  await bring(page, 'gulls');
  const noted = async () =>
    (
      (await (await page.request.get(`/api/projects/${project}`)).json()) as {
        clips: { note: string }[];
      }
    ).clips[0]!.note;
  const other = await context.newPage();
  for (const tab of [page, other]) {
    await tab.goto(`/p/${project}/wall`);
    await tab.getByRole('button', { name: 'choose all' }).click();
  }
  const note = (tab: Page) => tab.getByLabel('Note of the chosen clips');
  await note(page).pressSequentially('half a sen');
  await note(other).fill('theirs');
  await other.keyboard.press('Enter');
  await expect.poll(noted).toBe('theirs');
  await page.waitForTimeout(1500);
  await expect(note(page)).toHaveValue('half a sen');
});
