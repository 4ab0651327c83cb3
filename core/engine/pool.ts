/**
 * Divides rows over threads through a few words of shared memory. Helpers wait for a job, take
 * bands of rows until none is left, and report that they are done; the engine takes bands too.
 * Results never depend on which thread took which band.
 */
import { ARGUMENTS, CONTROL } from './memory';

const WORD = {
  job: 0,
  kernel: 1,
  code: 2,
  codeSize: 3,
  rows: 4,
  band: 5,
  next: 6,
  gate: 7,
  stop: 8,
  failed: 9,
} as const;
const WORDS = 16;
/** The gate counts the helpers inside a job; this bit closes it to further ones. */
const CLOSED = 1 << 30;

type Run = (args: number, firstRow: number, endRow: number) => void;

const control = (memory: WebAssembly.Memory): Int32Array =>
  new Int32Array(memory.buffer, CONTROL, WORDS);
const instantiate = (bytes: Uint8Array<ArrayBuffer>, memory: WebAssembly.Memory): Run =>
  new WebAssembly.Instance(new WebAssembly.Module(bytes), { m: { m: memory } }).exports.run as Run;

/** The main loop of a helper thread; returns when the pool is closed. */
export function helpWith(memory: WebAssembly.Memory): void {
  const words = control(memory);
  const kernels = new Map<number, Run>();
  let seen = 0;
  for (;;) {
    const job = changed(words, WORD.job, seen);
    if (job === seen) continue;
    if (Atomics.load(words, WORD.stop)) return;
    if (Atomics.add(words, WORD.gate, 1) & CLOSED) {
      // Too late for this job: it was done without this helper.
      seen = job;
      leave(words);
      continue;
    }
    // Inside the gate the job cannot change, so everything read here belongs to it.
    seen = Atomics.load(words, WORD.job);
    const id = Atomics.load(words, WORD.kernel);
    let run = kernels.get(id);
    if (!run) {
      const size = Atomics.load(words, WORD.codeSize);
      // A copy, because the compiler does not accept shared bytes.
      run = instantiate(
        new Uint8Array(
          memory.buffer,
          Atomics.load(words, WORD.code),
          size,
        ).slice() as Uint8Array<ArrayBuffer>,
        memory,
      );
      if (kernels.size > 400) kernels.clear();
      kernels.set(id, run);
    }
    try {
      takeBands(words, run, () => false);
    } catch {
      // The engine reports it; this thread goes on with the next job.
      Atomics.store(words, WORD.failed, 1);
    }
    leave(words);
  }
}
function leave(words: Int32Array): void {
  if (Atomics.sub(words, WORD.gate, 1) === (CLOSED | 1)) Atomics.notify(words, WORD.gate);
}

/**
 * The next kernel usually follows within microseconds; waking a sleeping thread takes ten times as
 * long. So spin this often first.
 */
const LOOKS = 40_000;

/**
 * The value of the word once it differs from `was`: spins for a while, then sleeps. It may wake for
 * nothing and return `was`.
 */
function changed(words: Int32Array, word: number, was: number): number {
  for (let i = 0; i < LOOKS; i++) {
    const now = Atomics.load(words, word);
    if (now !== was) return now;
  }
  Atomics.wait(words, word, was);
  return Atomics.load(words, word);
}

function takeBands(words: Int32Array, run: Run, stop: () => boolean): boolean {
  const rows = Atomics.load(words, WORD.rows),
    band = Atomics.load(words, WORD.band);
  for (;;) {
    const y = Atomics.add(words, WORD.next, band);
    if (y >= rows) return true;
    if (stop()) {
      Atomics.store(words, WORD.next, rows);
      return false;
    }
    run(ARGUMENTS, y, Math.min(rows, y + band));
  }
}

/** A compiled kernel, and where helpers find its code. */
export interface Kernel {
  readonly id: number;
  readonly run: Run;
  /** Address and size of the code in the shared memory. */
  readonly code: number;
  readonly codeSize: number;
}

/** The engine's side of the pool. */
export class Pool {
  private readonly words: Int32Array;
  private job = 0;

  /** `helpers` threads must be running `helpWith` on the same memory, or be about to. */
  constructor(
    private readonly memory: WebAssembly.Memory,
    private readonly helpers: number,
  ) {
    this.words = control(memory);
  }

  compile(bytes: Uint8Array<ArrayBuffer>): Run {
    return instantiate(bytes, this.memory);
  }

  /**
   * Fills `rows` rows; returns false if `stop` ended it early. The arguments stand at ARGUMENTS.
   * Throws if a kernel fails on any thread, after all have left it.
   */
  fill(kernel: Kernel, rows: number, width: number, stop: () => boolean): boolean {
    const { words } = this;
    const alone = this.helpers === 0 || rows * width < 8192;
    // Many small bands: a thread that the machine delays leaves little behind for the others to
    // wait for.
    const parts = alone ? 4 : (this.helpers + 1) * 10;
    const band = Math.max(1, Math.min(64, Math.ceil(rows / parts)));
    Atomics.store(words, WORD.rows, rows);
    Atomics.store(words, WORD.band, band);
    Atomics.store(words, WORD.next, 0);
    if (alone) return takeBands(words, kernel.run, stop);
    Atomics.store(words, WORD.kernel, kernel.id);
    Atomics.store(words, WORD.code, kernel.code);
    Atomics.store(words, WORD.codeSize, kernel.codeSize);
    Atomics.and(words, WORD.gate, ~CLOSED);
    Atomics.store(words, WORD.job, ++this.job);
    Atomics.notify(words, WORD.job);
    let whole = false,
      failure: unknown;
    try {
      whole = takeBands(words, kernel.run, stop);
    } catch (e) {
      failure = e;
      Atomics.store(words, WORD.next, rows);
    }
    // Only helpers that started are waited for; one that sleeps or is delayed costs nothing.
    Atomics.or(words, WORD.gate, CLOSED);
    for (let gate = Atomics.load(words, WORD.gate); gate !== CLOSED;)
      gate = changed(words, WORD.gate, gate);
    if (failure) throw failure as Error;
    if (Atomics.exchange(words, WORD.failed, 0)) throw new Error('a kernel failed on a helper');
    return whole;
  }

  /** Ends the helpers' loops. */
  close(): void {
    Atomics.store(this.words, WORD.stop, 1);
    Atomics.store(this.words, WORD.job, ++this.job);
    Atomics.notify(this.words, WORD.job);
  }
}
