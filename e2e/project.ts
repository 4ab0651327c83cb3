/** Shared by the journeys: a project of their own with some of the demo's footage. */
import { expect, type Page, test } from '@playwright/test';
import { execFile } from 'node:child_process';
import { createHash } from 'node:crypto';
import { readFile, writeFile } from 'node:fs/promises';
import { basename, extname } from 'node:path';
import { promisify } from 'node:util';

export const run = promisify(execFile);
export const FOOTAGE = (name: string): string => `demo/footage/${name}.mp4`;

/** The project that each page's journey is in. */
const projects = new WeakMap<Page, string>();

/** Creates a project through the endpoint; returns its id. The page stays where it is. */
export async function newProject(
  page: Page,
  name: string,
  size = { width: 1920, height: 1080 },
): Promise<string> {
  const data = { name, ...size, rateNum: 25, rateDen: 1 };
  const made = await page.request.post('/api/projects', { data });
  expect(made.status()).toBe(201);
  const { id } = (await made.json()) as { id: string };
  projects.set(page, id);
  return id;
}

/** Imports files into the page's project through the endpoints and waits until they are there. */
export async function bringFiles(page: Page, ...files: string[]): Promise<void> {
  const project = projects.get(page)!;
  for (const file of files) {
    const name = basename(file);
    const data = { name, files: [name] };
    const made = await page.request.post(`/api/projects/${project}/imports`, { data });
    expect(made.status()).toBe(201);
    const { id } = (await made.json()) as { id: string };
    await page.request.put(`/api/imports/${id}/0`, { data: await readFile(file) });
    expect((await page.request.post(`/api/imports/${id}`)).ok()).toBe(true);
  }
  const clips = async (): Promise<string[]> => {
    const view = await page.request.get(`/api/projects/${project}`);
    const { clips, plates, sounds } = (await view.json()) as Record<string, { name: string }[]>;
    return [...clips!, ...plates!, ...sounds!].map((c) => c.name);
  };
  const names = files.map((f) => basename(f, extname(f)));
  await expect.poll(clips, { timeout: 90_000 }).toEqual(expect.arrayContaining(names));
}
/** Imports clips of the demo. */
export const bring = (page: Page, ...names: string[]): Promise<void> =>
  bringFiles(page, ...names.map(FOOTAGE));

/** Opens Rushes of the page's project. */
export const toRushes = async (page: Page): Promise<void> => {
  await page.goto(`/p/${projects.get(page)!}/rushes`);
};

/** Starts a project on the first page, which leads to its Rushes; returns its id. */
export async function startProject(page: Page, name: string): Promise<string> {
  await page.goto('/');
  const form = page.getByRole('form', { name: 'New project' });
  const begin = page.getByRole('button', { name: 'New project' });
  await expect(form.or(begin)).toBeVisible();
  if (await begin.isVisible()) await begin.click();
  await form.getByLabel('Name').fill(name);
  await page.getByRole('button', { name: 'Start' }).click();
  await page.waitForURL(/\/p\/[0-9a-f-]+\/rushes/);
  const id = /\/p\/([0-9a-f-]+)\//.exec(page.url())![1]!;
  projects.set(page, id);
  return id;
}

/** Chooses clips of the demo on Rushes and waits until they are there. */
export async function choose(page: Page, ...names: string[]): Promise<void> {
  await page.getByLabel('Files').setInputFiles(names.map(FOOTAGE));
  for (const n of names)
    await expect(page.getByRole('button', { name: new RegExp(n) })).toBeVisible({
      timeout: 60_000,
    });
}

/** A look from a shipped one, on the Shelf through the endpoint; returns its id. */
export async function shippedLook(page: Page, file: string): Promise<string> {
  const document = JSON.parse(await readFile(`core/look/shipped/${file}.json`, 'utf8')) as unknown;
  const made = await page.request.post('/api/looks', { data: { document } });
  expect(made.status()).toBe(201);
  return ((await made.json()) as { lookId: string }).lookId;
}

/** A look without layers on the Shelf; returns its id. */
export async function newLook(page: Page, name: string): Promise<string> {
  const strength = {
    key: 'strength',
    label: 'Strength',
    kind: 'number',
    min: 0,
    max: 100,
    unit: '%',
    value: 100,
  };
  const document = { schema: 2, name, seed: 1, bedrock: true, layers: [], dials: [strength] };
  const made = await page.request.post('/api/looks', { data: { document } });
  expect(made.status()).toBe(201);
  return ((await made.json()) as { lookId: string }).lookId;
}

/** Id of a look's newest version. */
export async function versionOf(page: Page, look: string): Promise<string> {
  const looks = (await (await page.request.get('/api/looks')).json()) as {
    id: string;
    versions: { id: string }[];
  }[];
  return looks.find((l) => l.id === look)!.versions[0]!.id;
}

/**
 * Applies a look's newest version to all clips of a project that has no looks yet, through the
 * endpoint, and sets their in and out if given (inclusive). Returns the ids of the clips.
 */
export async function putOn(
  page: Page,
  project: string,
  look: string,
  inOut?: { readonly in: number; readonly out: number },
): Promise<string[]> {
  const version = await versionOf(page, look);
  const { clips } = (await (await page.request.get(`/api/projects/${project}`)).json()) as {
    clips: { id: string }[];
  };
  const put = await page.request.post(`/api/projects/${project}/clips`, {
    data: {
      clips: clips.map((c) => ({
        clip: c.id,
        was: { version: null, ...(inOut && { inOut: null }) },
        to: { version, ...(inOut && { inOut }) },
      })),
    },
  });
  expect(put.status(), await put.text()).toBe(200);
  return clips.map((c) => c.id);
}

/** The document of a look's newest version. */
export async function newestOf(page: Page, look: string): Promise<object> {
  const version = await versionOf(page, look);
  return (
    (await (await page.request.get(`/api/versions/${version}`)).json()) as { document: object }
  ).document;
}

export const hero = (page: Page) => page.locator('canvas[data-view="hero"]');
/** Waits until the hero shows the exact frame of the original. */
export const parked = (page: Page): Promise<void> =>
  expect(hero(page)).toHaveAttribute('data-exact', 'true', { timeout: 60_000 });
/** SHA-256 of a canvas's pixels. */
export const digestOf = (page: Page, view: string): Promise<string> =>
  page.locator(`canvas[data-view="${view}"]`).evaluate(async (c: HTMLCanvasElement) => {
    const copy = new OffscreenCanvas(c.width, c.height).getContext('2d')!;
    copy.drawImage(c, 0, 0);
    const { data } = copy.getImageData(0, 0, c.width, c.height);
    return [...new Uint8Array(await crypto.subtle.digest('SHA-256', data))]
      .map((v) => v.toString(16).padStart(2, '0'))
      .join('');
  });
/**
 * SHA-256 of a canvas's pixels, once they satisfy the condition and have been stable for a while.
 */
export async function settled(page: Page, view: string): Promise<string> {
  let last = '';
  await expect
    .poll(
      async () => {
        const before = last;
        last = await digestOf(page, view);
        const busy = await page.locator(`canvas[data-view="${view}"]`).getAttribute('aria-busy');
        return last === before && busy !== 'true';
      },
      { intervals: [600] },
    )
    .toBe(true);
  return last;
}
export const facts = async (
  file: string,
): Promise<{
  streams: {
    codec_type: string;
    codec_name: string;
    r_frame_rate: string;
    nb_read_packets: string;
    width?: number;
    height?: number;
  }[];
}> =>
  JSON.parse(
    (await run('ffprobe', ['-v', 'error', '-count_packets', '-show_streams', '-of', 'json', file]))
      .stdout,
  ) as never;

/** A look rendered over a clip of the demo by the command line. */
export const rendered = (
  look: string,
  clip: string,
  out: string,
  ...more: string[]
): Promise<unknown> =>
  run(process.execPath, [
    '--import',
    'tsx',
    'cli/main.ts',
    'render',
    '--look',
    look,
    '--in',
    FOOTAGE(clip),
    '--out',
    out,
    ...more,
  ]);
/** SHA-256 of a picture file's pixels as a canvas would show them. */
export async function digestOfPicture(file: string): Promise<string> {
  const { stdout } = await run(
    'ffmpeg',
    ['-v', 'error', '-i', file, '-f', 'rawvideo', '-pix_fmt', 'rgba', '-'],
    {
      encoding: 'buffer',
      maxBuffer: 1 << 24,
    },
  );
  return createHash('sha256')
    .update(stdout as unknown as Buffer)
    .digest('hex');
}
/** MD5 of each frame of a lossless delivery of a clip. */
export async function delivered(
  page: Page,
  project: string,
  clip: string,
  [width, height]: readonly [number, number],
): Promise<string[]> {
  const asked = await page.request.post(`/api/projects/${project}/deliveries`, {
    data: { clips: [clip], format: 'mkv', width, height },
  });
  expect(asked.status()).toBe(201);
  const { id } = (await asked.json()) as { id: string };
  const item = async () => {
    const kiln = (await (await page.request.get(`/api/projects/${project}/deliveries`)).json()) as {
      deliveries: { id: string; items: { id: string; state: string }[] }[];
    };
    return kiln.deliveries.find((d) => d.id === id)!.items[0]!;
  };
  await expect.poll(async () => (await item()).state, { timeout: 120_000 }).toBe('done');
  const file = test.info().outputPath(`${id}.mkv`);
  await writeFile(
    file,
    await (await page.request.get(`/api/items/${(await item()).id}/file`)).body(),
  );
  const { stdout } = await run('ffmpeg', ['-v', 'error', '-i', file, '-f', 'framemd5', '-']);
  return stdout
    .split('\n')
    .flatMap((l) => (l && !l.startsWith('#') ? [l.split(',').at(-1)!.trim()] : []));
}
