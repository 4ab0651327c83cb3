// npm run faults [seed]: kills the database, the worker and the page server by chance, five times each, under three
// deliveries and two imports; all must finish by themselves within a minute, with the frames of an undisturbed run.
import { execFileSync, spawnSync } from 'node:child_process';
import { readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import { prepare, root } from './prepare.mjs';

prepare();
const { startPostgres, ensureDatabase } = await import('./postgres.mjs');
const { build, environment, runScript, supervisedPages, supervisedWorker } = await import('./application.mjs');

const seed = Number(process.argv[2] ?? Date.now() % 100_000);
let state = seed >>> 0;
const random = () => {
  state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
  return state / 2 ** 32;
};
const data = join(root, '.data-faults');
rmSync(data, { recursive: true, force: true });
const postgres = await startPostgres(data);
const env = environment(await ensureDatabase(postgres, `faults_${Date.now()}`), data, Number(process.env.PORT ?? 4388));
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
      ...(value && { body: JSON.stringify(value), headers: { 'content-type': 'application/json' } }),
      ...(body && { body }),
    }).catch(() => undefined);
    if (answer?.ok) return answer;
    if (answer && answer.status < 500) throw new Error(`${method} ${url}: ${answer.status} ${await answer.text()}`);
    await pause(500);
  }
  throw new Error(`${method} ${url} was never answered`);
}
const json = async (...args) => (await ask(...args)).json();

async function bring(project, name) {
  const { id } = await json('POST', `/api/projects/${project}/imports`, { name: `${name}.mp4`, files: [`${name}.mp4`] });
  await ask('PUT', `/api/imports/${id}/0`, undefined, readFileSync(join(root, `demo/footage/${name}.mp4`)));
  await ask('POST', `/api/imports/${id}`);
}
const projectOf = (id) => json('GET', `/api/projects/${id}`);
async function until(what, seconds, test) {
  for (const end = Date.now() + seconds * 1000; Date.now() < end; await pause(400)) if (await test().catch(() => false)) return;
  throw new Error(`${what}: not within ${seconds} s`);
}
const kilnOf = async (project) => (await json('GET', `/api/projects/${project}/deliveries`)).deliveries;
const order = (project, clips) => json('POST', `/api/projects/${project}/deliveries`, { clips, format: 'mkv', width: 480, height: 270 });
const itemsOf = async (project) => (await kilnOf(project)).flatMap((d) => d.items);

async function hashes(project) {
  const found = {};
  for (const item of await itemsOf(project)) {
    const file = join(data, 'fetched.mkv');
    writeFileSync(file, Buffer.from(await (await ask('GET', `/api/items/${item.id}/file`)).arrayBuffer()));
    const said = execFileSync('ffmpeg', ['-v', 'error', '-i', file, '-map', '0:v', '-f', 'framemd5', '-'], { encoding: 'utf8' });
    const own = said.split('\n').filter((l) => l && !l.startsWith('#'));
    (found[item.clipName] ??= []).push(own.map((l) => l.split(',').at(-1).trim()).join());
  }
  return found;
}

const KILLED = {
  database: 'postgres -D ' + data,
  worker: 'server/jobs/worker.ts',
  pages: 'server/serve.mjs',
};
/** Of those started here, by the environment they were started with. */
function pidOf(what) {
  const pids = spawnSync('pgrep', ['-f', what === 'database' ? 'bin/postgres -D' : KILLED[what]], { encoding: 'utf8' })
    .stdout.split('\n')
    .filter(Boolean);
  const ours = (pid) => {
    try {
      if (what === 'database')
        return readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes(` ${env.WABISABI_DATABASE.split(':').at(-1).split('/')[0]}`.trim());
      return readFileSync(`/proc/${pid}/environ`, 'utf8').includes(env.WABISABI_DATABASE);
    } catch {
      return false;
    }
  };
  return pids.find(ours);
}

let failed = false;
try {
  const { id: project } = await json('POST', '/api/projects', { name: 'Faults', width: 960, height: 540, rateNum: 25, rateDen: 1 });
  for (const name of ['gulls', 'rain-window', 'kelp']) await bring(project, name);
  await until('the first three clips', 120, async () => (await projectOf(project)).clips.length === 3);
  const look = JSON.parse(readFileSync(join(root, 'core/look/shipped/soft-lens.json'), 'utf8'));
  const { versionId } = await json('POST', '/api/looks', { document: look });
  const clips = (await projectOf(project)).clips;
  await json('POST', `/api/projects/${project}/clips`, {
    clips: clips.map((c) => ({ clip: c.id, was: { version: null }, to: { version: versionId } })),
  });
  const ids = clips.map((c) => c.id);
  await order(project, ids);
  await until('the undisturbed delivery', 300, async () => (await itemsOf(project)).every((i) => i.state === 'done'));
  const truth = await hashes(project);

  for (let i = 0; i < 3; i++) await order(project, ids);
  for (const name of ['deck-dancer', 'lighthouse-turn']) await bring(project, name);
  const victims = Object.keys(KILLED).flatMap((what) => Array(5).fill(what));
  while (victims.length > 0) {
    await pause(500 + random() * 3500);
    const [what] = victims.splice(Math.floor(random() * victims.length), 1);
    const pid = pidOf(what);
    console.log(`killing the ${what} (${pid ?? 'not there just now'})`);
    if (pid) process.kill(Number(pid), 'SIGKILL');
    else victims.push(what);
  }
  const last = Date.now();
  // The work itself takes its time; what must not happen is that it stands still for a minute.
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
    if (items.some((i) => i.state === 'failed')) throw new Error(`failed: ${items.find((i) => i.state === 'failed').error}`);
    if (Date.now() - moved > 60_000) throw new Error('stood still for a minute');
    await pause(500);
  }
  console.log(`all done ${((Date.now() - last) / 1000).toFixed(0)} s after the last kill`);
  const found = await hashes(project);
  for (const [name, each] of Object.entries(found))
    if (each.length !== 4 || each.some((h) => h !== truth[name][0])) throw new Error(`${name}: frames differ from an undisturbed run`);
  console.log(`seed ${seed}: all frames as in an undisturbed run`);
} catch (e) {
  failed = true;
  console.error(`seed ${seed}: ${e.message}`);
} finally {
  database.stop();
  await Promise.all([pages.stop(), worker.stop()]);
  postgres.stop();
  rmSync(data, { recursive: true, force: true });
  process.exit(failed ? 1 : 0);
}
