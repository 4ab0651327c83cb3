// npm run demo: sets up everything on a fresh Debian machine and serves the demo project.
import { join } from 'node:path';
import { prepare, root } from './prepare.mjs';

prepare();
const { startPostgres, ensureDatabase } = await import('./postgres.mjs');
const { build, environment, runScript, supervisedPages, supervisedWorker } =
  await import('./application.mjs');

const data = join(root, '.data');
const postgres = await startPostgres(data);
const env = environment(
  await ensureDatabase(postgres, 'wabisabi'),
  data,
  Number(process.env.PORT ?? 4321),
);
build();
await runScript('scripts/migrate.ts', env);
const database = postgres.watch();
const worker = supervisedWorker(env);
const pages = await supervisedPages(env);
let stopping = false;
const stop = async (code = 0) => {
  if (stopping) return;
  stopping = true;
  database.stop();
  await Promise.all([pages.stop(), worker.stop()]);
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
