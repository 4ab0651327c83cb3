/** An engine on this machine's cores. */
import { availableParallelism, totalmem } from 'node:os';
import { Worker } from 'node:worker_threads';
import { Engine, Memory } from '../../core/engine';
import { pastInFiles } from './past';

/** An engine with its threads. */
export interface Threads {
  readonly engine: Engine;
  close(): Promise<void>;
}

/** An engine that gives its memory back after work that took much of it. */
export class RenewableThreads implements Threads {
  private now: Threads;
  private users = 0;
  constructor(private readonly start: () => Threads) {
    this.now = start();
  }
  get engine(): Engine {
    return this.now.engine;
  }
  /** Runs work with the engine. After the last, memory above `KEPT` is given back. */
  async during<T>(work: () => Promise<T>): Promise<T> {
    this.users++;
    try {
      return await work();
    } finally {
      if (--this.users === 0 && this.now.engine.memory.wasm.buffer.byteLength > KEPT) {
        // WebAssembly's memory never shrinks, so the engine begins anew.
        const old = this.now;
        this.now = this.start();
        await old.close();
      }
    }
  }
  close(): Promise<void> {
    return this.now.close();
  }
}
/** Memory that an idle engine may keep, bytes: enough for looks at 1080 lines. */
const KEPT = 768 * 2 ** 20;

/**
 * Memory limits in bytes. 32-bit WebAssembly ends at 4 GiB; pictures of 8192 lines need more than
 * two. Unused memory is not allocated.
 */
const MOST = 2 ** 32 - 2 ** 16,
  LEAST = 2 ** 31;
const roomHere = (): number =>
  Math.max(LEAST, Math.min(MOST, Math.floor(totalmem() / 3 / 2 ** 16) * 2 ** 16));

/**
 * Memory for pictures that later frames need: 1.75 GiB minus the pictures of the current frame
 * (about eight). Others go to files. A process thus stays below two gigabytes, also at 3840×2160.
 */
const WHOLE = 1.75 * 2 ** 30,
  AT_WORK = 8,
  LEAST_PAST = 2 ** 27;
const pastRoom =
  (limit: number) =>
  (picture: number): number =>
    Math.max(LEAST_PAST, Math.min(WHOLE, limit * 0.75) - AT_WORK * picture);

/**
 * Starts an engine with `threads` threads, the caller's included, and up to `limit` bytes of memory
 * (default: a third of the machine's, 2 to 4 GiB). A long past goes to files in `folder` (default:
 * the system's temporary folder).
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
