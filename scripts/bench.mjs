// npm run bench: kernels beside FFmpeg's filters, and in Chromium what a colourist feels. `-- filters`, `-- trail`, `-- slow-motion`, `-- page`, `-- wall` or `-- delivery` runs one of them.
import { rmSync } from 'node:fs';
import { join } from 'node:path';
import { prepare, root } from './prepare.mjs';

prepare({ browser: true });
const [only, ...chains] = process.argv.slice(2);
const { startPostgres, ensureDatabase } = await import('./postgres.mjs');
const { build, ended, environment, runScript, startPages, startWorker } = await import('./application.mjs');

if (only === undefined || only === 'filters') await runScript('bench/filters.ts', process.env, chains);
if (only === undefined || only === 'trail') await runScript('bench/trail.ts', process.env);
if (only === undefined || only === 'slow-motion') await runScript('bench/slow-motion.ts', process.env);
if (['filters', 'trail', 'slow-motion'].includes(only)) process.exit(0);

const data = join(root, '.data-bench');
const postgres = await startPostgres(data, { quick: true });
const children = [];
let code = 0;
try {
  const env = environment(await ensureDatabase(postgres, `bench_${Date.now()}`), data, Number(process.env.PORT ?? 4388));
  build();
  await runScript('scripts/migrate.ts', env);
  children.push(startWorker(env), await startPages(env));
  for (const part of ['page', 'wall', 'delivery'])
    if (only === undefined || only === part) await runScript(`bench/${part}.ts`, { ...env, BASE: `http://127.0.0.1:${env.PORT}` });
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
