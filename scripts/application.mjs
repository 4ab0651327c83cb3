// The application's processes: built when it changed, then served, with a worker beside it.
import { execFileSync, spawn } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { root } from './prepare.mjs';

/** A hash of everything the build depends on. */
function sources() {
  const h = createHash('sha256');
  const files = execFileSync(
    'git',
    ['ls-files', '-co', '--exclude-standard', 'core', 'server', 'web', 'astro.config.mjs', 'package-lock.json', 'tsconfig.json'],
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
  execFileSync('npx', ['astro', 'build', '--silent'], { cwd: root, stdio: 'inherit', env: { ...process.env, ASTRO_TELEMETRY_DISABLED: '1' } });
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
  spawn(process.execPath, ['--import', 'tsx', file], { cwd: root, env, stdio: ['ignore', 'inherit', 'inherit'], ...options });
export const startWorker = (env) => tsx('server/jobs/worker.ts', env);

/** Serves the pages and waits until they answer. */
export async function startPages(env) {
  if (await fetch(`http://127.0.0.1:${env.PORT}/api/status`).catch(() => undefined))
    throw new Error(`port ${env.PORT} is taken: stop what runs there, or set PORT`);
  const child = spawn(process.execPath, ['server/serve.mjs'], { cwd: root, env, stdio: ['ignore', 'ignore', 'inherit'] });
  for (let i = 0; i < 150; i++) {
    if (child.exitCode !== null) throw new Error('the server ended before it answered');
    const answer = await fetch(`http://127.0.0.1:${env.PORT}/api/status`).catch(() => undefined);
    if (answer?.ok) return child;
    await new Promise((r) => setTimeout(r, 200));
  }
  child.kill();
  throw new Error('the server did not answer within 30 seconds');
}

/** Runs a script of ours to its end. */
export const runScript = (file, env) =>
  new Promise((resolve, reject) => tsx(file, env).on('exit', (code) => (code === 0 ? resolve() : reject(new Error(`${file} ended with ${code}`)))));
export const ended = (child) =>
  new Promise((resolve) => {
    if (child.exitCode !== null || child.signalCode !== null) resolve();
    else child.once('exit', () => resolve());
  });
