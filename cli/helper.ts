/** A helper thread of the engine, as a bundle for the command line. */
import { workerData } from 'node:worker_threads';
import { helpWith } from '../core/engine';

helpWith(workerData as WebAssembly.Memory);
