// A helper thread of the engine: registers the TypeScript loader, then takes bands until the pool
// is closed.
import { register } from 'tsx/esm/api';
import { workerData } from 'node:worker_threads';

register();
const { helpWith } = await import('../../core/engine/index.ts');
helpWith(workerData);
