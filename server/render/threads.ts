/** An engine on this machine's cores. */
import { availableParallelism, totalmem } from 'node:os';
import { Worker } from 'node:worker_threads';
import { Engine, Memory } from '../../core/engine';
import { pastInFiles } from './past';

export interface Threads {
  readonly engine: Engine;
  close(): Promise<void>;
}

/**
 * WebAssembly of 32 bits ends at 4 GiB. Pictures of 8192 lines need more than two; what is not
 * needed is not taken.
 */
const MOST = 2 ** 32 - 2 ** 16,
  LEAST = 2 ** 31;
const roomHere = (): number =>
  Math.max(LEAST, Math.min(MOST, Math.floor(totalmem() / 3 / 2 ** 16) * 2 ** 16));

/**
 * Of that memory for pictures that later frames need: one gigabyte and three quarters, less the
 * pictures that a frame is made in (some eight). What is more goes to files. So a process stays
 * below two gigabytes, at 3840×2160 too.
 */
const WHOLE = 1.75 * 2 ** 30,
  AT_WORK = 8,
  LEAST_PAST = 2 ** 27;
const pastRoom =
  (limit: number) =>
  (picture: number): number =>
    Math.max(LEAST_PAST, Math.min(WHOLE, limit * 0.75) - AT_WORK * picture);

/**
 * `threads` in all, the caller's own included; memory up to `limit` bytes (a third of the machine's
 * unless told, 2 to 4 GiB). A long past goes to files of `folder` (the system's own for such,
 * unless told).
 */
export function startEngine(
  threads = availableParallelism(),
  limit = roomHere(),
  folder?: string,
): Threads {
  const memory = new Memory(limit);
  const helpers = Array.from(
    { length: Math.max(0, threads - 1) },
    () => new Worker(new URL('./helper.mjs', import.meta.url), { workerData: memory.wasm }),
  );
  helpers.forEach((h) => h.unref());
  const past = { bytes: pastRoom(limit), store: pastInFiles(memory, folder) };
  const engine = new Engine({ limit, helpers: helpers.length, memory, past });
  return {
    engine,
    async close() {
      engine.close();
      await Promise.all(helpers.map((h) => h.terminate()));
    },
  };
}
