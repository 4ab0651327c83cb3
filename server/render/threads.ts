/** An engine on this machine's cores. */
import { availableParallelism, totalmem } from 'node:os';
import { Worker } from 'node:worker_threads';
import { Engine, Memory } from '../../core/engine';

export interface Threads {
  readonly engine: Engine;
  close(): Promise<void>;
}

/** WebAssembly of 32 bits ends at 4 GiB. Pictures of 8192 lines need more than two; what is not needed is not taken. */
const MOST = 2 ** 32 - 2 ** 16,
  LEAST = 2 ** 31;
const roomHere = (): number => Math.max(LEAST, Math.min(MOST, Math.floor(totalmem() / 3 / 2 ** 16) * 2 ** 16));

/** `threads` in all, the caller's own included; memory up to `limit` bytes (a third of the machine's unless told, 2 to 4 GiB). */
export function startEngine(threads = availableParallelism(), limit = roomHere()): Threads {
  const memory = new Memory(limit);
  const helpers = Array.from(
    { length: Math.max(0, threads - 1) },
    () => new Worker(new URL('./helper.mjs', import.meta.url), { workerData: memory.wasm }),
  );
  helpers.forEach((h) => h.unref());
  const engine = new Engine({ limit, helpers: helpers.length, memory });
  return {
    engine,
    async close() {
      engine.close();
      await Promise.all(helpers.map((h) => h.terminate()));
    },
  };
}
