/** An engine on this machine's cores. */
import { availableParallelism } from 'node:os';
import { Worker } from 'node:worker_threads';
import { Engine, Memory } from '../../core/engine';

export interface Threads {
  readonly engine: Engine;
  close(): Promise<void>;
}

/** `threads` in all, the caller's own included; memory up to `limit` bytes (2 GiB unless told). */
export function startEngine(threads = availableParallelism(), limit = 2 ** 31): Threads {
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
