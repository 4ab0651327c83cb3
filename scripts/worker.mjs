// npm run worker: one more worker beside the demo (any number may run).
import { join } from 'node:path';
import { prepare, root } from './prepare.mjs';

prepare();
const { startPostgres, ensureDatabase } = await import('./postgres.mjs');
const { environment, supervisedWorker } = await import('./application.mjs');
const data = join(root, '.data');
const url =
  process.env.WABISABI_DATABASE ?? (await ensureDatabase(await startPostgres(data), 'wabisabi'));
const worker = supervisedWorker(environment(url, process.env.WABISABI_DATA ?? data, 0));
for (const signal of ['SIGINT', 'SIGTERM'])
  process.on(signal, () => void worker.stop().then(() => process.exit(0)));
