/** What the endpoints guarantee to any client: the page, a script, another server. */
import { type APIRequestContext, type APIResponse, expect, test } from '@playwright/test';
import { readFileSync } from 'node:fs';
import { FOOTAGE } from './project';

const SIZE = { width: 1920, height: 1080, rateNum: 25, rateDen: 1 };
const nobody = (): string => crypto.randomUUID();

interface Clip {
  readonly id: string;
  readonly name: string;
  readonly hash: string;
  readonly frames: number;
  readonly note: string;
  readonly scene: string;
  readonly status: string;
  readonly encoding: string;
  readonly pins: object;
  readonly trims: object;
}
interface Project {
  readonly clips: readonly Clip[];
  readonly imports: readonly {
    readonly id: string;
    readonly state: string;
    readonly error: string | null;
  }[];
}

async function made(request: APIRequestContext, name: string): Promise<string> {
  const answer = await request.post('/api/projects', { data: { name, ...SIZE } });
  expect(answer.status()).toBe(201);
  return ((await answer.json()) as { id: string }).id;
}
const projectOf = async (request: APIRequestContext, id: string): Promise<Project> =>
  (await (await request.get(`/api/projects/${id}`)).json()) as Project;
async function opened(
  request: APIRequestContext,
  project: string,
  ...files: string[]
): Promise<string> {
  const answer = await request.post(`/api/projects/${project}/imports`, {
    data: { name: files[0], files },
  });
  expect(answer.status()).toBe(201);
  return ((await answer.json()) as { id: string }).id;
}
/** A clip brought in without the page. */
async function brought(request: APIRequestContext, project: string, name: string): Promise<Clip> {
  const id = await opened(request, project, `${name}.mp4`);
  expect(
    (await request.put(`/api/imports/${id}/0`, { data: readFileSync(FOOTAGE(name)) })).status(),
  ).toBe(200);
  expect((await request.post(`/api/imports/${id}`)).status()).toBe(202);
  await expect
    .poll(async () => (await projectOf(request, project)).clips.map((c) => c.name), {
      timeout: 60_000,
    })
    .toContain(name);
  return (await projectOf(request, project)).clips.find((c) => c.name === name)!;
}
const shipped = (file: string): { name: string; layers: unknown[] } =>
  JSON.parse(readFileSync(`core/look/shipped/${file}.json`, 'utf8')) as {
    name: string;
    layers: unknown[];
  };
async function shelved(
  request: APIRequestContext,
  document: object,
): Promise<{ lookId: string; versionId: string }> {
  const answer = await request.post('/api/looks', { data: { document } });
  expect(answer.status()).toBe(201);
  return (await answer.json()) as { lookId: string; versionId: string };
}

/** Problem details by RFC 9457: a status, a title, and words that say what to do. */
async function problem(
  answer: APIResponse,
  status: number,
): Promise<{ title: string; detail: string } & Record<string, unknown>> {
  expect(answer.status(), `${answer.url()}: ${await answer.text()}`).toBe(status);
  expect(answer.headers()['content-type']).toBe('application/problem+json');
  const told = (await answer.json()) as {
    title: string;
    detail: string;
    status: number;
    type: string;
  };
  expect(told).toMatchObject({ type: 'about:blank', status });
  expect(told.title.length).toBeGreaterThan(3);
  expect(told.detail.length).toBeGreaterThan(10);
  return told as never;
}

test('what does not exist is answered as such, whatever is asked of it', async ({ request }) => {
  for (const [method, url, data] of [
    ['get', `/api/projects/${nobody()}`],
    ['get', '/api/projects/1%27%20or%201=1'],
    ['get', `/api/projects/${nobody()}/deliveries`],
    ['get', `/api/projects/${nobody()}/references`],
    ['post', `/api/projects/${nobody()}/imports`, { name: 'a', files: ['a.mp4'] }],
    ['post', `/api/projects/${nobody()}/measure`],
    ['post', `/api/projects/${nobody()}/inspections`, { clips: [nobody()], again: false }],
    [
      'post',
      `/api/projects/${nobody()}/deliveries`,
      { clips: [nobody()], format: 'mkv', width: 64, height: 36 },
    ],
    ['post', `/api/clips/${nobody()}/progressive`, { each: 1 }],
    ['delete', `/api/clips/${nobody()}`],
    ['post', `/api/imports/${nobody()}`],
    ['put', `/api/imports/${nobody()}/0`],
    ['delete', `/api/imports/${nobody()}`],
    ['get', `/api/items/${nobody()}/file`],
    ['post', `/api/items/${nobody()}`],
    ['delete', `/api/items/${nobody()}`],
    ['get', `/api/versions/${nobody()}`],
    [
      'post',
      `/api/looks/${nobody()}/versions`,
      { document: shipped('silt'), basedOn: 1, follow: [], stay: [] },
    ],
    ['delete', `/api/looks/${nobody()}`],
    ['delete', `/api/pieces/${nobody()}`],
    ['delete', `/api/references/${nobody()}`],
    ['get', `/api/references/${nobody()}/picture`],
    ['get', `/api/references/${nobody()}/statistics`],
    ['get', `/api/footage/${'0'.repeat(64)}/strip.jpg`],
    ['get', `/api/footage/${'0'.repeat(64)}/frames/0`],
    ['get', '/api/footage/..%2f..%2fetc/strip.jpg'],
  ] as const) {
    const answer = await request.fetch(url, { method, ...(data !== undefined && { data }) });
    const { title } = await problem(answer, 404);
    expect(title).toMatch(/^No such /);
  }
});

test('what cannot be is refused in words, and changes nothing', async ({ request }) => {
  const project = await made(request, 'Refusals');
  const clip = await brought(request, project, 'gulls');
  const before = await projectOf(request, project);
  const edits = (to: object, was: object = {}) => ({ clips: [{ clip: clip.id, was, to }] });
  for (const [method, url, data, words] of [
    ['post', '/api/projects', { ...SIZE, name: '' }, /needs a name/],
    ['post', '/api/projects', { ...SIZE, name: 'a', width: 1.5 }, /width must be an integer/],
    ['post', '/api/projects', { ...SIZE, name: 'a', owner: 'b' }, /owner should not exist/],
    ['post', `/api/projects/${project}/imports`, { name: 'a', files: [] }, /no files were chosen/],
    ['post', `/api/projects/${project}/imports`, { name: 'a', files: ['..'] }, /plain name/],
    [
      'post',
      `/api/projects/${project}/imports`,
      { name: 'a', files: ['x/1.png', 'y/1.png'] },
      /names of their own/,
    ],
    ['post', `/api/clips/${clip.id}/progressive`, { each: 3 }, /each must be one of/],
    ['post', `/api/projects/${project}/clips`, { clips: [] }, /at least one clip/],
    ['post', `/api/projects/${project}/clips`, edits({ status: 'done' }, { status: 'open' }), /./],
    [
      'post',
      `/api/projects/${project}/clips`,
      edits({ pins: { moment: [{ frame: -1 }] } }, { pins: {} }),
      /./,
    ],
    [
      'post',
      `/api/projects/${project}/clips`,
      edits({ trims: { a: { b: 'c' } } }, { trims: {} }),
      /./,
    ],
    [
      'post',
      `/api/projects/${project}/clips`,
      edits({ reframe: { x: 0.5, y: 0.5, closer: 5 } }, { reframe: null }),
      /./,
    ],
    [
      'post',
      `/api/projects/${project}/deliveries`,
      { clips: [clip.id], format: 'avi', width: 64, height: 36 },
      /format must be one of/,
    ],
    [
      'post',
      `/api/projects/${project}/deliveries`,
      { clips: [clip.id], format: 'mp4', width: 65, height: 36 },
      /even/,
    ],
    [
      'post',
      `/api/projects/${project}/deliveries`,
      { clips: [], format: 'mkv', width: 64, height: 36 },
      /at least one clip/,
    ],
    ['post', '/api/looks', { document: { ...shipped('silt'), seed: 'x' } }, /seed/],
    ['post', '/api/pieces', { document: {} }, /./],
    [
      'post',
      `/api/projects/${project}/references`,
      {
        name: 'r',
        clip: clip.id,
        frame: 0,
        version: null,
        document: shipped('silt'),
        picture: 'bm90IGEgcGljdHVyZQ==',
      },
      /PNG/,
    ],
    [
      'post',
      `/api/projects/${project}/references`,
      {
        name: 'r',
        clip: clip.id,
        frame: clip.frames,
        version: null,
        document: shipped('silt'),
        picture: 'iVBORw0KGgo=',
      },
      /frames 0 to/,
    ],
  ] as const)
    expect((await problem(await request.fetch(url, { method, data }), 422)).detail).toMatch(words);
  for (const text of ['', '{', '[]', 'null', '"a"'])
    await problem(
      await request.post('/api/projects', {
        data: text,
        headers: { 'content-type': 'application/json' },
      }),
      400,
    );
  await problem(
    await request.post('/api/looks', { data: { document: { name: 'x'.repeat(25_000_000) } } }),
    413,
  );
  expect(await projectOf(request, project)).toEqual(before);
  const { deliveries } = (await (
    await request.get(`/api/projects/${project}/deliveries`)
  ).json()) as { deliveries: unknown[] };
  expect(deliveries).toEqual([]);
  expect(await (await request.get(`/api/projects/${project}/references`)).json()).toEqual([]);
});

test('clips are changed all or none, and only as they were seen', async ({ request }) => {
  const project = await made(request, 'Edits'),
    other = await made(request, 'Elsewhere');
  const [gulls, kelp] = [
    await brought(request, project, 'gulls'),
    await brought(request, project, 'kelp'),
  ];
  const strange = await brought(request, other, 'gulls');
  expect(strange.hash).toBe(gulls.hash);
  const edit = (...clips: object[]) =>
    request.post(`/api/projects/${project}/clips`, { data: { clips } });
  const notes = async () =>
    (await projectOf(request, project)).clips.map((c) => [c.name, c.note, c.scene]);

  const both = [gulls, kelp].map((c) => ({
    clip: c.id,
    was: { note: '', scene: '' },
    to: { note: 'too warm', scene: 'shore' },
  }));
  expect(await (await edit(...both)).json()).toEqual({ changed: 2 });
  expect(await notes()).toEqual([
    ['gulls', 'too warm', 'shore'],
    ['kelp', 'too warm', 'shore'],
  ]);
  // One of the two clips has changed since it was read, so neither is edited.
  const stale = await problem(
    await edit(
      { clip: gulls.id, was: { note: 'too warm' }, to: { note: 'agreed' } },
      { clip: kelp.id, was: { note: '' }, to: { note: 'agreed' } },
    ),
    409,
  );
  expect(stale.detail).toMatch(/^kelp has another note\. Nothing was changed/);
  // A clip of another project is not found.
  expect(
    (await problem(await edit({ clip: strange.id, was: { note: '' }, to: { note: 'x' } }), 409))
      .detail,
  ).toMatch(/has gone/);
  await problem(
    await edit({ clip: gulls.id, was: { version: null }, to: { version: nobody() } }),
    404,
  );
  expect((await notes()).map((n) => n[1])).toEqual(['too warm', 'too warm']);
  expect((await projectOf(request, other)).clips[0]!.note).toBe('');
  // Of two saves at once exactly one succeeds.
  const race = await Promise.all(
    ['first', 'second'].map((note) =>
      edit({ clip: kelp.id, was: { note: 'too warm' }, to: { note } }),
    ),
  );
  expect(race.map((a) => a.status()).sort()).toEqual([200, 409]);
});

test('an upload begins once, ends once, and is put away', async ({ request }) => {
  const project = await made(request, 'Uploads');
  const whole = readFileSync(FOOTAGE('kelp'));
  const id = await opened(request, project, 'kelp.mp4');
  await problem(await request.put(`/api/imports/${id}/1`, { data: whole }), 404);
  await request.put(`/api/imports/${id}/0`, { data: whole });
  const begun = await Promise.all([
    request.post(`/api/imports/${id}`),
    request.post(`/api/imports/${id}`),
  ]);
  expect(begun.map((a) => a.status()).sort()).toEqual([202, 409]);
  await expect
    .poll(async () => (await projectOf(request, project)).clips.length, { timeout: 60_000 })
    .toBe(1);
  await problem(await request.post(`/api/imports/${id}`), 409);
  await problem(await request.put(`/api/imports/${id}/0`, { data: whole }), 404);
  // The same file again is the same clip, and the answer says so.
  const again = await opened(request, project, 'kelp-copy.mp4');
  await request.put(`/api/imports/${again}/0`, { data: whole });
  await request.post(`/api/imports/${again}`);
  const told = async () =>
    (await projectOf(request, project)).imports.find((i) => i.id === again)?.error;
  await expect.poll(told, { timeout: 60_000 }).toMatch(/is here already, as "kelp"/);
  expect((await projectOf(request, project)).clips).toHaveLength(1);
  expect((await request.delete(`/api/imports/${again}`)).status()).toBe(200);
  expect((await projectOf(request, project)).imports).toEqual([]);
  // An import without files gets an error and does not stay open.
  const empty = await opened(request, project, 'never.mp4');
  await request.post(`/api/imports/${empty}`);
  const state = async () => (await projectOf(request, project)).imports.find((i) => i.id === empty);
  await expect.poll(async () => (await state())?.state, { timeout: 60_000 }).toBe('failed');
  expect((await state())!.error).toMatch(/never\.mp4/);
});

test('versions are numbered without gaps, never change, and clips follow only as they were shown', async ({
  request,
}) => {
  const project = await made(request, 'Versions');
  const clip = await brought(request, project, 'gulls');
  const first = shipped('silt');
  const { lookId, versionId } = await shelved(request, first);
  const wear = {
    clip: clip.id,
    was: { version: null, follows: true },
    to: { version: versionId, follows: true },
  };
  expect(
    (await request.post(`/api/projects/${project}/clips`, { data: { clips: [wear] } })).status(),
  ).toBe(200);
  const save = (name: string, basedOn: number, follow: string[], stay: string[] = []) =>
    request.post(`/api/looks/${lookId}/versions`, {
      data: { document: { ...first, name }, basedOn, follow, stay },
    });

  const unseen = await problem(await save('Silt two', 1, []), 409);
  expect(unseen.detail).toMatch(/^gulls follows the look too/);
  const followers = (await (await request.get(`/api/looks/${lookId}/followers`)).json()) as {
    clip: { id: string };
    project: { id: string };
  }[];
  expect(followers.map((f) => [f.clip.id, f.project.id])).toEqual([[clip.id, project]]);
  const second = (await (await save('Silt two', 1, [clip.id])).json()) as {
    versionId: string;
    number: number;
  };
  expect(second.number).toBe(2);
  const stale = await problem(await save('Silt too', 1, [clip.id]), 409);
  expect(stale['newest']).toBe(2);
  const race = await Promise.all(
    ['Silt three', 'Silt drei'].map((name) => save(name, 2, [], [clip.id])),
  );
  expect(race.map((a) => a.status()).sort()).toEqual([201, 409]);
  // The clip stays from now on, and the next save does not ask about it.
  expect((await save('Silt four', 3, [])).status()).toBe(201);

  const kept = (await (await request.get(`/api/versions/${versionId}`)).json()) as {
    document: { name: string };
  };
  expect(kept.document.name).toBe(first.name);
  const looks = (await (await request.get('/api/looks')).json()) as {
    id: string;
    name: string;
    versions: { number: number }[];
  }[];
  expect(looks.find((l) => l.id === lookId)).toMatchObject({
    name: 'Silt four',
    versions: [{ number: 4 }, { number: 3 }, { number: 2 }, { number: 1 }],
  });
  for (const page of ['0', '1', '-1', '1.5', '1e300', 'Infinity', 'x'])
    expect((await request.get(`/api/looks?page=${page}`)).status()).toBe(200);
  const [shown] = (await projectOf(request, project)).clips as unknown as {
    look: { number: number };
    follows: boolean;
  }[];
  expect([shown!.look.number, shown!.follows]).toEqual([2, false]);
});

test('an exact frame is the native planes of the file, and only frames that are there', async ({
  request,
}) => {
  const project = await made(request, 'Frames');
  const clip = (await brought(request, project, 'kelp')) as Clip & {
    format: { width: number; height: number; chroma: [number, number] };
  };
  const { width, height, chroma } = clip.format;
  const bytes = width * height + 2 * Math.ceil(width / chroma[0]) * Math.ceil(height / chroma[1]);
  const first = await request.get(`/api/footage/${clip.hash}/frames/0`);
  expect((await first.body()).length).toBe(bytes);
  expect(first.headers()['cache-control']).toMatch(/immutable/);
  expect(
    (await (await request.get(`/api/footage/${clip.hash}/frames/${clip.frames - 1}`)).body())
      .length,
  ).toBe(bytes);
  for (const frame of [String(clip.frames), '-1', '0.5', 'x', '1e9'])
    expect(
      (await problem(await request.get(`/api/footage/${clip.hash}/frames/${frame}`), 404)).detail,
    ).toContain(`frames 0 to ${clip.frames - 1}`);
  for (const file of ['proxy-540.webm', 'proxy-270.webm', 'strip.jpg'])
    expect(
      (await (await request.get(`/api/footage/${clip.hash}/${file}`)).body()).length,
    ).toBeGreaterThan(1000);
  await problem(await request.get(`/api/footage/${clip.hash}/original.mp4`), 404);
});

test('pages and files may share memory, and nothing is taken from elsewhere', async ({
  request,
}) => {
  const page = await request.get('/');
  expect(page.headers()).toMatchObject({
    'cross-origin-opener-policy': 'same-origin',
    'cross-origin-embedder-policy': 'require-corp',
  });
  const html = await page.text();
  for (const [, url] of html.matchAll(/(?:src|href)="([^"]+)"/g))
    expect(url, 'an address of this server').toMatch(/^(\/(?!\/)|data:|#)/);
});

test('what is beyond all bounds is refused at once, and other sites and other hosts are answered as such', async ({
  request,
  baseURL,
}) => {
  const began = Date.now();
  const keys = Object.fromEntries(Array.from({ length: 80_000 }, (_, i) => [`k${i}`, 1]));
  expect(
    (await problem(await request.post('/api/looks', { data: { document: keys } }), 422)).detail,
  ).toMatch(/80000 keys/);
  const deep = `${'['.repeat(50_000)}${']'.repeat(50_000)}`;
  const json = { 'content-type': 'application/json' };
  await problem(
    await request.post('/api/looks', { data: Buffer.from(`{"document":${deep}}`), headers: json }),
    422,
  );
  await problem(
    await request.post('/api/looks', { data: Buffer.alloc(30_000_000, 32), headers: json }),
    413,
  );
  await problem(await request.post('/api/projects', { data: { ...SIZE, name: 'a\0b' } }), 422);
  expect(Date.now() - began).toBeLessThan(10_000);

  await problem(await request.get('/api/projects', { headers: { host: 'evil.example' } }), 421);
  await problem(
    await request.post('/api/projects', {
      data: { ...SIZE, name: 'a' },
      headers: { origin: 'http://evil.example' },
    }),
    403,
  );
  await problem(
    await request.post('/api/projects', {
      data: 'name=a',
      headers: { 'content-type': 'text/plain' },
    }),
    415,
  );
  const page = await request.get('/');
  const policy = page.headers()['content-security-policy']!;
  expect(policy).toMatch(/frame-ancestors 'none'/);
  // Scripts in the page run by their hashes: one that somebody slips in has none.
  const scripts = /script-src ([^;]*)/.exec(policy)![1]!;
  expect(scripts).toMatch(/^'self' 'wasm-unsafe-eval'( 'sha256-[^']+')+ *$/);
  expect(page.headers()['referrer-policy']).toBe('no-referrer');
  expect(new URL(baseURL!).hostname).toBe('127.0.0.1');
});

test('files of any name come in under it', async ({ request }) => {
  const project = await made(request, 'Names');
  const name = `${'ä'.repeat(190)}.mp4`;
  const { id } = (await (
    await request.post(`/api/projects/${project}/imports`, { data: { name, files: [name] } })
  ).json()) as { id: string };
  const file = readFileSync('demo/footage/gulls.mp4');
  expect(
    (
      await request.put(`/api/imports/${id}/0`, {
        data: file,
        headers: { 'content-type': 'application/octet-stream' },
      })
    ).status(),
  ).toBe(200);
  expect((await request.post(`/api/imports/${id}`)).status()).toBe(202);
  await expect
    .poll(async () => (await projectOf(request, project)).clips.map((c) => c.name), {
      timeout: 60_000,
    })
    .toEqual(['ä'.repeat(190)]);
});
