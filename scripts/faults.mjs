// npm run faults [seed]: kills the database, the worker and the page server by chance, five times
// each, under three
// deliveries and two imports; all must finish by themselves within a minute, with the frames of an
// undisturbed run.
// npm run faults -- full: footage and deliveries on a disk of their own that is full when an
// upload, an import and a
// delivery want to write; each must say so and go on by itself once there is room. Mounts a file
// system, so as root only.
import { execFileSync, spawnSync } from 'node:child_process';
import { mkdirSync, readdirSync, readFileSync, rmSync, statfsSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import { prepare, root } from './prepare.mjs';

prepare();
const { startPostgres, ensureDatabase } = await import('./postgres.mjs');
const { build, environment, runScript, supervisedPages, supervisedWorker } =
  await import('./application.mjs');

const full = process.argv[2] === 'full';
const seed = full ? 1 : Number(process.argv[2] ?? Date.now() % 100_000);
let state = seed >>> 0;
const random = () => {
  state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
  return state / 2 ** 32;
};
const data = join(root, '.data-faults');
rmSync(data, { recursive: true, force: true });
/**
 * Where footage and deliveries lie, under a name that tries paths as well: with `full` a disk of
 * their own, of as many MiB.
 */
const files = join(data, "o'brien 50%d data"),
  DISK = 1024;
mkdirSync(files, { recursive: true });
if (full) execFileSync('mount', ['-t', 'tmpfs', '-o', `size=${DISK}m`, 'tmpfs', files]);
const postgres = await startPostgres(data);
const env = environment(
  await ensureDatabase(postgres, `faults_${Date.now()}`),
  files,
  Number(process.env.PORT ?? 4388),
);
const base = `http://127.0.0.1:${env.PORT}`;
build();
await runScript('scripts/migrate.ts', env);
const database = postgres.watch();
const worker = supervisedWorker(env);
const pages = await supervisedPages(env);

/** An answer in the end, however often what answers is killed meanwhile. */
async function ask(method, url, value, body) {
  for (let i = 0; i < 60; i++) {
    const answer = await fetch(base + url, {
      method,
      ...(value && {
        body: JSON.stringify(value),
        headers: { 'content-type': 'application/json' },
      }),
      ...(body && { body }),
    }).catch(() => undefined);
    if (answer?.ok) return answer;
    if (answer && answer.status < 500)
      throw new Error(`${method} ${url}: ${answer.status} ${await answer.text()}`);
    await pause(500);
  }
  throw new Error(`${method} ${url} was never answered`);
}
const json = async (...args) => (await ask(...args)).json();

async function bring(project, name) {
  const { id } = await json('POST', `/api/projects/${project}/imports`, {
    name: `${name}.mp4`,
    files: [`${name}.mp4`],
  });
  await ask(
    'PUT',
    `/api/imports/${id}/0`,
    undefined,
    readFileSync(join(root, `demo/footage/${name}.mp4`)),
  );
  await ask('POST', `/api/imports/${id}`);
}
const projectOf = (id) => json('GET', `/api/projects/${id}`);
async function until(what, seconds, test) {
  for (const end = Date.now() + seconds * 1000; Date.now() < end; await pause(400))
    if (await test().catch(() => false)) return;
  throw new Error(`${what}: not within ${seconds} s`);
}
const kilnOf = async (project) =>
  (await json('GET', `/api/projects/${project}/deliveries`)).deliveries;
const order = (project, clips) =>
  json('POST', `/api/projects/${project}/deliveries`, {
    clips,
    format: 'mkv',
    width: 480,
    height: 270,
  });
const itemsOf = async (project) => (await kilnOf(project)).flatMap((d) => d.items);

async function hashes(project) {
  const found = {};
  for (const item of await itemsOf(project)) {
    const file = join(data, 'fetched.mkv');
    writeFileSync(
      file,
      Buffer.from(await (await ask('GET', `/api/items/${item.id}/file`)).arrayBuffer()),
    );
    const said = execFileSync(
      'ffmpeg',
      ['-v', 'error', '-i', file, '-map', '0:v', '-f', 'framemd5', '-'],
      { encoding: 'utf8' },
    );
    const own = said.split('\n').filter((l) => l && !l.startsWith('#'));
    (found[item.clipName] ??= []).push(own.map((l) => l.split(',').at(-1).trim()).join());
  }
  return found;
}

const KILLED = {
  database: 'postgres -D ' + data,
  worker: 'dist-worker/main.mjs',
  pages: 'server/serve.mjs',
};
/** Of those started here, by the environment they were started with. */
function pidOf(what) {
  const pids = spawnSync('pgrep', ['-f', what === 'database' ? 'bin/postgres -D' : KILLED[what]], {
    encoding: 'utf8',
  })
    .stdout.split('\n')
    .filter(Boolean);
  const ours = (pid) => {
    try {
      if (what === 'database')
        return readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes(
          ` ${env.WABISABI_DATABASE.split(':').at(-1).split('/')[0]}`.trim(),
        );
      return readFileSync(`/proc/${pid}/environ`, 'utf8').includes(env.WABISABI_DATABASE);
    } catch {
      return false;
    }
  };
  return pids.find(ours);
}

/** The queue's jobs that are not done, and who is at them, for whoever reads why nothing moves. */
async function jobsNow() {
  const { default: pg } = await import('pg');
  const client = new pg.Client({ connectionString: env.WABISABI_DATABASE });
  await client.connect();
  const jobs = await client.query(
    'select name, state, retry_count, retry_limit, started_on, start_after, expire_in::text, id from pgboss.job where state <> $1 order by name, state',
    ['completed'],
  );
  const at = await client.query(
    'select pid, jobs, now() - seen as ago from workers order by seen desc limit 3',
  );
  await client.end();
  return JSON.stringify({ now: new Date(), jobs: jobs.rows, workers: at.rows }, null, 1);
}

/** A project with three clips under a look, delivered once undisturbed. */
async function undisturbed() {
  const { id: project } = await json('POST', '/api/projects', {
    name: 'Faults',
    width: 960,
    height: 540,
    rateNum: 25,
    rateDen: 1,
  });
  for (const name of ['gulls', 'rain-window', 'kelp']) await bring(project, name);
  await until(
    'the first three clips',
    120,
    async () => (await projectOf(project)).clips.length === 3,
  );
  const look = JSON.parse(readFileSync(join(root, 'core/look/shipped/soft-lens.json'), 'utf8'));
  const { versionId } = await json('POST', '/api/looks', { document: look });
  const clips = (await projectOf(project)).clips;
  await json('POST', `/api/projects/${project}/clips`, {
    clips: clips.map((c) => ({ clip: c.id, was: { version: null }, to: { version: versionId } })),
  });
  const ids = clips.map((c) => c.id);
  const began = Date.now();
  await order(project, ids);
  await until('the undisturbed delivery', 300, async () =>
    (await itemsOf(project)).every((i) => i.state === 'done'),
  );
  const took = (Date.now() - began) / 1000;
  console.log(`an undisturbed delivery took ${took.toFixed(0)} s`);
  const truth = await hashes(project);
  return { project, ids, truth, took };
}

/** That each clip's deliveries, as many as stated, have the frames of the undisturbed one. */
async function same(project, truth, count) {
  for (const [name, each] of Object.entries(await hashes(project)))
    if (each.length !== count || each.some((h) => h !== truth[name][0]))
      throw new Error(`${name}: frames differ from an undisturbed run`);
}

async function killedAllAround({ project, ids, truth, took }) {
  for (let i = 0; i < 3; i++) await order(project, ids);
  for (const name of ['deck-dancer', 'lighthouse-turn']) await bring(project, name);
  const victims = Object.keys(KILLED).flatMap((what) => Array(5).fill(what));
  // By chance over the time that the work takes under it, some four undisturbed deliveries: the
  // last falls near its end.
  const between = (1000 * 4 * took) / victims.length;
  const open = async () =>
    (await itemsOf(project).catch(() => [])).filter((i) => i.state !== 'done').length;
  while (victims.length > 0) {
    await pause(between * (0.4 + 1.2 * random()));
    const [what] = victims.splice(Math.floor(random() * victims.length), 1);
    const pid = pidOf(what);
    console.log(`killing the ${what} (${pid ?? 'not there just now'})`);
    if (pid) process.kill(Number(pid), 'SIGKILL');
    else victims.push(what);
  }
  const last = Date.now();
  console.log(`${await open()} of 12 files are not done at the last kill`);
  // What must not happen is that the work stands still for a minute.
  let before = '',
    moved = Date.now();
  for (;;) {
    const items = await itemsOf(project),
      { clips: all } = await projectOf(project);
    const now = JSON.stringify([
      items.map((i) => [i.state, i.rendered, i.joining]),
      all.length,
      (await projectOf(project)).imports.map((i) => i.progress),
    ]);
    if (now !== before) [before, moved] = [now, Date.now()];
    if (items.every((i) => i.state === 'done') && all.length === 5) break;
    const lost = (await projectOf(project)).imports.find((i) => i.state === 'failed');
    if (lost) throw new Error(`${lost.name} was not brought in: ${lost.error}`);
    if (items.some((i) => i.state === 'failed'))
      throw new Error(`failed: ${items.find((i) => i.state === 'failed').error}`);
    if (Date.now() - moved > 60_000) {
      console.error(await jobsNow());
      throw new Error('stood still for a minute');
    }
    await pause(500);
  }
  const rest = (Date.now() - last) / 1000;
  console.log(`all done ${rest.toFixed(0)} s after the last kill`);
  if (rest > 60) throw new Error('not done within a minute of the last kill');
  await same(project, truth, 4);
  console.log(`seed ${seed}: all frames as in an undisturbed run`);
}

/** Leaves as many bytes on the disk as stated. */
function fillUntil(left) {
  const { bavail, bsize } = statfsSync(files);
  writeFileSync(join(files, 'ballast'), Buffer.alloc(Math.max(0, bavail * bsize - left)));
}
const makeRoom = () => rmSync(join(files, 'ballast'));
const names = () => readdirSync(files, { recursive: true }).sort().join();

async function diskFull({ project, ids, truth }) {
  const importsOf = async () => (await projectOf(project)).imports;
  const says = (what, text) => {
    if (!/disk is full/.test(text ?? ''))
      throw new Error(`${what} does not say that the disk is full: ${text}`);
    console.log(`${what}: ${text}`);
  };
  const before = names();
  fillUntil(400_000);
  const { id } = await json('POST', `/api/projects/${project}/imports`, {
    name: 'skyline.mp4',
    files: ['skyline.mp4'],
  });
  const refused = await fetch(`${base}/api/imports/${id}/0`, {
    method: 'PUT',
    body: readFileSync(join(root, 'demo/footage/skyline.mp4')),
  });
  if (refused.status !== 507)
    throw new Error(`an upload beyond the disk was answered ${refused.status}`);
  says('an upload', Object.values(await refused.json()).join(': '));
  await ask('DELETE', `/api/imports/${id}`);
  makeRoom();
  if (names() !== before)
    throw new Error(`an upload left something over: ${names()} where there was ${before}`);

  await bring(project, 'deck-dancer');
  await until(
    'an import without room is taken up',
    60,
    async () => (await importsOf()).length === 0 || (await projectOf(project)).clips.length === 4,
  );

  fillUntil(readFileSync(join(root, 'demo/footage/skyline.mp4')).length + 200_000);
  await bring(project, 'skyline');
  await until('an import says that the disk is full', 60, async () =>
    (await importsOf()).some((i) => /disk is full/.test(i.doing ?? '')),
  );
  says('an import', (await importsOf()).find((i) => /disk is full/.test(i.doing ?? '')).doing);
  makeRoom();
  await until('that import, with room', 60, async () =>
    (await projectOf(project)).clips.some((c) => c.name === 'skyline'),
  );

  fillUntil(300_000);
  await order(project, ids);
  await until('a delivery says that the disk is full', 120, async () =>
    (await itemsOf(project)).some((i) => /disk is full/.test(i.error ?? '')),
  );
  says('a delivery', (await itemsOf(project)).find((i) => i.error).error);
  makeRoom();
  await until('that delivery, with room', 180, async () =>
    (await itemsOf(project)).every((i) => i.state === 'done' && !i.error),
  );
  await same(project, truth, 2);
  console.log(
    'an upload, an import and a delivery met a full disk, said so, and went on with room: frames as in an undisturbed run',
  );
}

let failed = false;
try {
  await (full ? diskFull : killedAllAround)(await undisturbed());
} catch (e) {
  failed = true;
  console.error(`seed ${seed}: ${e.message}`);
} finally {
  database.stop();
  await Promise.all([pages.stop(), worker.stop()]);
  postgres.stop();
  if (full) execFileSync('umount', ['-l', files]);
  rmSync(data, { recursive: true, force: true });
  process.exit(failed ? 1 : 0);
}
