// npm run bench: kernels beside FFmpeg's filters, and in Chromium what a colourist feels. `--
// filters`, `-- trail`, `-- planning`, `-- slow-motion`, `-- page`, `-- wall` or `-- delivery` runs
// one of them.
import { rmSync } from 'node:fs';
import { join } from 'node:path';
import { prepare, root } from './prepare.mjs';

prepare({ browser: true });
const [only, ...parts] = process.argv.slice(2);
const { startPostgres, ensureDatabase } = await import('./postgres.mjs');
const { build, ended, environment, runBundled, runScript, startPages, startWorker } =
  await import('./application.mjs');

if (only === undefined || only === 'filters')
  await runBundled('bench/filters.ts', 'dist-bench/filters', process.env, parts);
if (only === undefined || only === 'trail')
  await runBundled('bench/trail.ts', 'dist-bench/trail', process.env);
if (only === undefined || only === 'planning')
  await runBundled('bench/planning.ts', 'dist-bench/planning', process.env);
if (only === undefined || only === 'slow-motion')
  await runBundled('bench/slow-motion.ts', 'dist-bench/slow-motion', process.env);
if (['filters', 'trail', 'planning', 'slow-motion'].includes(only)) process.exit(0);

const data = join(root, '.data-bench');
const postgres = await startPostgres(data, { quick: true });
const children = [];
let code = 0;
try {
  const env = environment(
    await ensureDatabase(postgres, `bench_${Date.now()}`),
    data,
    Number(process.env.PORT ?? 4388),
  );
  build();
  await runScript('scripts/migrate.ts', env);
  children.push(startWorker(env), await startPages(env));
  for (const part of ['page', 'wall', 'delivery'])
    if (only === undefined || only === part)
      await runBundled(
        `bench/${part}.ts`,
        `dist-bench/${part}`,
        { ...env, BASE: `http://127.0.0.1:${env.PORT}` },
        parts,
      );
} catch (e) {
  console.error(e);
  code = 1;
} finally {
  children.forEach((c) => c.kill('SIGTERM'));
  await Promise.all(children.map(ended));
  postgres.stop();
  rmSync(data, { recursive: true, force: true });
}
process.exit(code);
