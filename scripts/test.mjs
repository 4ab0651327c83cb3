// npm test: sets up what the tests need, then runs every check; the first that fails ends it.
// npm test -- all: then also what takes an hour: pixels of all looks, damaged and strange files by
// chance, and processes killed under load.
import { execFileSync } from 'node:child_process';
import { rmSync } from 'node:fs';
import { join } from 'node:path';
import { prepare, root } from './prepare.mjs';

prepare({ browser: true });
const { startPostgres, ensureDatabase } = await import('./postgres.mjs');
const { build, ended, environment, runScript, startPages, startWorker } =
  await import('./application.mjs');

// `npm test -- journeys glsl.spec.ts` runs just those.
const specs = process.argv.slice(2).filter((a) => a.endsWith('.spec.ts'));
const all = process.argv.includes('all');
const only = process.argv.slice(2).filter((a) => a !== 'all' && !specs.includes(a));
const step = (name, command, args, env = process.env) => {
  if (only.length > 0 && !only.includes(name)) return;
  const began = Date.now();
  console.log(`\n== ${name}`);
  execFileSync(command, args, { cwd: root, stdio: 'inherit', env });
  console.log(`== ${name}: ${((Date.now() - began) / 1000).toFixed(0)} s`);
};
const npx = (name, args, env) =>
  step(name, join(root, 'node_modules/.bin', args[0]), args.slice(1), env);

async function journeys() {
  const data = join(root, '.data-test');
  rmSync(join(data, 'footage'), { recursive: true, force: true });
  const postgres = await startPostgres(data, { quick: true });
  const children = [];
  for (const signal of ['SIGINT', 'SIGTERM'])
    process.once(signal, () => {
      children.forEach((c) => c.kill('SIGKILL'));
      postgres.stop();
      process.exit(1);
    });
  try {
    const name = `test_${Date.now()}`;
    const env = {
      ...environment(await ensureDatabase(postgres, name), data, Number(process.env.PORT ?? 4399)),
      // Journeys wait for the worker: it must not stand back for their browsers.
      WABISABI_NICENESS: '0',
    };
    build();
    await runScript('scripts/migrate.ts', env);
    const worker = startWorker(env);
    children.push(worker, await startPages(env));
    npx('journeys', ['playwright', 'test', ...(specs.length > 0 ? ['--no-deps', ...specs] : [])], {
      ...env,
      NODE_ENV: 'test',
      WORKER_PID: String(worker.pid),
      BASE: `http://127.0.0.1:${env.PORT}`,
    });
  } finally {
    children.forEach((c) => c.kill('SIGTERM'));
    await Promise.all(children.map(ended));
    postgres.stop();
    rmSync(data, { recursive: true, force: true });
  }
}

/** What only reads the sources: two at a time, each said when it is done. */
const CHECKS = {
  // With the types of .ts files.
  pages: ['astro', 'check', '--minimumSeverity', 'error', '--minimumFailingSeverity', 'error'],
  lint: ['eslint', '.'],
  format: ['prettier', '--check', '.'],
  imports: [
    ...['depcruise', '--config', '.dependency-cruiser.cjs'],
    ...['core', 'server', 'web', 'cli', 'scripts', 'bench', 'e2e'],
  ],
  unused: ['knip', '--no-config-hints'],
  containers: ['node', 'scripts/containers.mjs'],
  documents: ['tsx', 'scripts/documents.ts', '--check'],
  map: ['node', 'scripts/map.mjs', '--check'],
  'trace-kernels': ['node', 'scripts/trace-kernels.mjs', '--check'],
};
/** The pages that the journeys need, made while the checks run. */
const BUILD = ['node', '-e', "import('./scripts/application.mjs').then((m) => m.build())"];
async function checks() {
  const { execa } = await import('execa');
  const { default: limit } = await import('p-limit');
  const two = limit(2);
  const check = async ([name, [command, ...args]]) => {
    const began = Date.now();
    const env = { ASTRO_TELEMETRY_DISABLED: '1' };
    const done = await execa(command, args, {
      ...{ cwd: root, preferLocal: true, all: true, reject: false, env },
    });
    console.log(`\n== ${name}\n${done.failed ? done.all : ''}`.trimEnd());
    console.log(`== ${name}: ${((Date.now() - began) / 1000).toFixed(0)} s`);
    return done.failed;
  };
  const wanted =
    only.length === 0
      ? [['build', BUILD], ...Object.entries(CHECKS)]
      : Object.entries(CHECKS).filter(([name]) => only.includes(name));
  const failed = await Promise.all(wanted.map((c) => two(() => check(c))));
  if (failed.some(Boolean)) throw Object.assign(new Error('a check failed'), { status: 1 });
}

try {
  await checks();
  npx('unit', ['vitest', 'run']);
  if (only.length === 0 || only.includes('journeys')) await journeys();
  if (all) {
    npx('pixels', ['tsx', 'scripts/pixels.ts']);
    npx('damaged files', ['tsx', 'scripts/fuzz.ts', '500']);
    npx('strange files', ['tsx', 'scripts/fuzz.ts', '100', '1', 'times']);
    step('faults', process.execPath, ['scripts/faults.mjs']);
  }
} catch (e) {
  console.error(e.status !== undefined ? '\nFAILED: see above' : e);
  process.exit(1);
}
