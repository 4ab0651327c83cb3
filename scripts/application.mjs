// The application's processes: built when it changed, then served, with a worker beside it.
import { execFileSync, spawn } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { bundled } from './bundle.mjs';
import { root } from './prepare.mjs';

/** A hash of everything the build depends on. */
function sources() {
  const h = createHash('sha256');
  const files = execFileSync(
    'git',
    [
      'ls-files',
      '-co',
      '--exclude-standard',
      'core',
      'server',
      'web',
      'astro.config.mjs',
      'package-lock.json',
      'tsconfig.json',
    ],
    { cwd: root, encoding: 'utf8' },
  )
    .split('\n')
    .filter((f) => f && existsSync(join(root, f)));
  for (const f of files) h.update(f).update(readFileSync(join(root, f)));
  return h.digest('hex');
}

export function build() {
  const mark = join(root, 'dist/.built-from');
  const now = sources();
  if (existsSync(mark) && readFileSync(mark, 'utf8') === now) return;
  console.log('building the pages');
  execFileSync('npx', ['astro', 'build', '--silent'], {
    cwd: root,
    stdio: 'inherit',
    env: { ...process.env, ASTRO_TELEMETRY_DISABLED: '1' },
  });
  mkdirSync(join(root, 'dist'), { recursive: true });
  writeFileSync(mark, now);
}

export const environment = (database, data, port) => ({
  ...process.env,
  WABISABI_ROOT: root,
  WABISABI_DATABASE: database,
  WABISABI_DATA: data,
  HOST: '127.0.0.1',
  PORT: String(port),
  NODE_ENV: 'production',
});
export const tsx = (file, env, options = {}) =>
  spawn(process.execPath, ['--import', 'tsx', file], {
    cwd: root,
    env,
    stdio: ['ignore', 'inherit', 'inherit'],
    ...options,
  });
/** A bundled entry as a process of its own. */
export const spawnBundled = (entry, folder, env, options = {}, args = []) =>
  spawn(process.execPath, ['--enable-source-maps', bundled(entry, folder), ...args], {
    cwd: root,
    env,
    stdio: ['ignore', 'inherit', 'inherit'],
    ...options,
  });
export const startWorker = (env) => spawnBundled('server/worker.ts', 'dist-worker', env);

/** Serves the pages and waits until they answer. */
export async function startPages(env) {
  if (await fetch(`http://127.0.0.1:${env.PORT}/api/status`).catch(() => undefined))
    throw new Error(`port ${env.PORT} is taken: stop what runs there, or set PORT`);
  const child = spawnPages(env);
  for (let i = 0; i < 150; i++) {
    if (child.exitCode !== null) throw new Error('the server ended before it answered');
    const answer = await fetch(`http://127.0.0.1:${env.PORT}/api/status`).catch(() => undefined);
    if (answer?.ok) return child;
    await new Promise((r) => setTimeout(r, 200));
  }
  child.kill();
  throw new Error('the server did not answer within 30 seconds');
}

/** The pages' server, without waiting for it. */
const spawnPages = (env) =>
  spawn(process.execPath, ['server/serve.mjs'], {
    cwd: root,
    env,
    stdio: ['ignore', 'ignore', 'inherit'],
  });

/**
 * Pauses before something that ended is started again (ms): each twice the one before, short again
 * after a good run.
 */
const FIRST_PAUSE = 500,
  LONGEST_PAUSE = 8000,
  GOOD_RUN = 30_000;

/**
 * Keeps a process running: starts it again whenever it ends, until told to stop. `child` is running
 * already.
 */
export function supervised(name, child, start) {
  let now = child,
    began = Date.now(),
    wait = FIRST_PAUSE,
    stopping = false,
    timer;
  const watch = () =>
    now.once('exit', (code, signal) => {
      if (stopping) return;
      if (Date.now() - began > GOOD_RUN) wait = FIRST_PAUSE;
      console.error(`${name} ended (${signal ?? code}); starting it again in ${wait / 1000} s`);
      timer = setTimeout(() => {
        began = Date.now();
        now = start();
        watch();
      }, wait);
      wait = Math.min(LONGEST_PAUSE, wait * 2);
    });
  watch();
  return {
    async stop() {
      stopping = true;
      clearTimeout(timer);
      now.kill('SIGTERM');
      await ended(now);
    },
  };
}
export const supervisedWorker = (env) =>
  supervised('the worker', startWorker(env), () => startWorker(env));
export const supervisedPages = async (env) =>
  supervised('the page server', await startPages(env), () => spawnPages(env));

const ending = (file, child) =>
  new Promise((resolve, reject) =>
    child.on('exit', (code) =>
      code === 0 ? resolve() : reject(new Error(`${file} ended with ${code}`)),
    ),
  );
/** Runs a script of ours to its end. */
export const runScript = (file, env) => ending(file, tsx(file, env));
/** The same, bundled first: for what is measured. */
export const runBundled = (file, folder, env, args = []) =>
  ending(file, spawnBundled(file, folder, env, {}, args));
export const ended = (child) =>
  new Promise((resolve) => {
    if (child.exitCode !== null || child.signalCode !== null) resolve();
    else child.once('exit', () => resolve());
  });
