/**
 * Rows shared out over threads through a few words of shared memory. Helpers wait for a job, take
 * bands until none is left, and say when they are done; the engine takes bands itself meanwhile.
 * Sums never depend on who took which band.
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
} as const;
const WORDS = 16;
/** The gate counts the helpers inside a job; with this bit nobody begins any more. */
const CLOSED = 1 << 30;

type Run = (args: number, firstRow: number, endRow: number) => void;

const control = (memory: WebAssembly.Memory): Int32Array =>
  new Int32Array(memory.buffer, CONTROL, WORDS);
const instantiate = (bytes: Uint8Array<ArrayBuffer>, memory: WebAssembly.Memory): Run =>
  new WebAssembly.Instance(new WebAssembly.Module(bytes), { m: { m: memory } }).exports.run as Run;

/** A helper thread's whole life: never returns until the pool is closed. */
export function helpWith(memory: WebAssembly.Memory): void {
  const words = control(memory);
  const kernels = new Map<number, Run>();
  let seen = 0;
  for (;;) {
    const job = changed(words, WORD.job, seen);
    if (job === seen) continue;
    if (Atomics.load(words, WORD.stop)) return;
    if (Atomics.add(words, WORD.gate, 1) & CLOSED) {
      // Too late for this one: it was done without.
      seen = job;
      leave(words);
      continue;
    }
    // Inside nothing changes: what is read here is of one job, the present one.
    seen = Atomics.load(words, WORD.job);
    const id = Atomics.load(words, WORD.kernel);
    let run = kernels.get(id);
    if (!run) {
      const size = Atomics.load(words, WORD.codeSize);
      // A copy: the compiler does not take shared bytes.
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
    takeBands(words, run, () => false);
    leave(words);
  }
}
function leave(words: Int32Array): void {
  if (Atomics.sub(words, WORD.gate, 1) === (CLOSED | 1)) Atomics.notify(words, WORD.gate);
}

/**
 * A kernel follows the one before within microseconds; a sleeping thread takes ten times as long to
 * wake.
 */
const LOOKS = 40_000;

/**
 * The word once it is no longer `was`: looks for a while, then sleeps. It may wake for nothing and
 * answer `was`.
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

export interface Kernel {
  readonly id: number;
  readonly run: Run;
  /** Where the helpers find the code. */
  readonly code: number;
  readonly codeSize: number;
}

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

  /** Fills `rows` rows; false if `stop` said so before the end. Arguments stand at ARGUMENTS. */
  fill(kernel: Kernel, rows: number, width: number, stop: () => boolean): boolean {
    const { words } = this;
    const alone = this.helpers === 0 || rows * width < 8192;
    // Many small bands: a thread that the machine holds up leaves little behind for the others to
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
    const whole = takeBands(words, kernel.run, stop);
    // Only those that began are waited for: one that is asleep, or held up by the machine, costs
    // nothing.
    Atomics.or(words, WORD.gate, CLOSED);
    for (let gate = Atomics.load(words, WORD.gate); gate !== CLOSED;)
      gate = changed(words, WORD.gate, gate);
    return whole;
  }

  /** Lets the helpers go. */
  close(): void {
    Atomics.store(this.words, WORD.stop, 1);
    Atomics.store(this.words, WORD.job, ++this.job);
    Atomics.notify(this.words, WORD.job);
  }
}
