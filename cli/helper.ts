/** A helper thread of the engine, for the command line's own bundle. */
import { workerData } from 'node:worker_threads';
import { helpWith } from '../core/engine';

helpWith(workerData as WebAssembly.Memory);
