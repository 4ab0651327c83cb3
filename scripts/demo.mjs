// npm run demo: sets up everything on a fresh Debian machine and serves the demo project.
import { join } from 'node:path';
import { prepare, root } from './prepare.mjs';

prepare();
const { startPostgres, ensureDatabase } = await import('./postgres.mjs');
const { build, ended, environment, runScript, startPages, startWorker } = await import('./application.mjs');

const data = join(root, '.data');
const postgres = await startPostgres(data);
const env = environment(await ensureDatabase(postgres, 'wabisabi'), data, Number(process.env.PORT ?? 4321));
build();
await runScript('scripts/migrate.ts', env);
const worker = startWorker(env);
const pages = await startPages(env);
let stopping = false;
const stop = async (code = 0) => {
  if (stopping) return;
  stopping = true;
  pages.kill('SIGTERM');
  worker.kill('SIGTERM');
  await Promise.all([ended(pages), ended(worker)]);
  postgres.stop();
  process.exit(code);
};
process.on('SIGINT', () => void stop());
process.on('SIGTERM', () => void stop());
await runScript('scripts/seed.ts', env).catch(async (e) => {
  console.error(e.message);
  await stop(1);
});
console.log(`\nWabisabi is at http://127.0.0.1:${env.PORT}/  (Ctrl+C stops it)`);
