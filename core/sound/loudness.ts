/** Loudness of programmes by ITU-R BS.1770-5: integrated, short-term, and the true peak. */
import { logd } from '../kernel';
import { type Channels, SOUND_RATE } from './retimed';
import { windowedSinc } from './sinc';

/** Loudness of a sound; −∞ where it is silent. */
export interface Loudness {
  /** Of all of it, gated, in LUFS. */
  readonly integrated: number;
  /** The loudest three seconds (or all, if shorter), in LUFS. */
  readonly shortTerm: number;
  /** The highest peak between samples too, in dB of full scale. */
  readonly truePeak: number;
}

interface Biquad {
  readonly b: readonly [number, number, number];
  readonly a: readonly [number, number];
}
/** BS.1770, tables 1 and 2, at 48 kHz: the head's shelf, and the weighting of low frequencies. */
const SHELF: Biquad = {
  b: [1.53512485958697, -2.69169618940638, 1.19839281085285],
  a: [-1.69065929318241, 0.73248077421585],
};
const HIGH_PASS: Biquad = { b: [1, -2, 1], a: [-1.99004745483398, 0.99007225036621] };
/** Channels beside or behind the listener count more, low frequency effects not at all. */
const SURROUND = 1.41;
const WEIGHTS: Readonly<Record<number, readonly number[]>> = {
  // In the order of wave files: front left and right, centre, low frequencies, the others.
  6: [1, 1, 1, 0, SURROUND, SURROUND],
  5: [1, 1, 1, SURROUND, SURROUND],
};
/** Samples from one block to the next, and how many steps a block and a short term are long. */
const HOP = SOUND_RATE / 10,
  BLOCK = 4,
  SHORT_TERM = 30;
/** Gates: in LUFS, and in LU below the mean of what passes the first. */
const ABSOLUTE = -70,
  RELATIVE = -10;
/** Parts of a sample at which peaks are looked for, and samples around them that count. */
const OVERSAMPLED = 4,
  AROUND = 12;
/** Weights of the samples around, by part: of those from 11 before to 12 after. */
const PARTS = Array.from({ length: OVERSAMPLED - 1 }, (_, p) =>
  Float64Array.from({ length: 2 * AROUND }, (_, k) =>
    windowedSinc(k - AROUND + 1 - (p + 1) / OVERSAMPLED, AROUND),
  ),
);

const decibels = (power: number): number => (10 * logd(power)) / logd(10);
const loudnessOf = (power: number): number => (power > 0 ? decibels(power) - 0.691 : -Infinity);
const mean = (all: readonly number[]): number => all.reduce((a, b) => a + b, 0) / all.length;

/** A filter in transposed direct form II, in place; its state goes on from block to block. */
class Filter {
  private s = 0;
  private t = 0;
  constructor(private readonly by: Biquad) {}
  run(plane: Float64Array): void {
    const { b, a } = this.by;
    let { s, t } = this;
    for (let i = 0; i < plane.length; i++) {
      const x = plane[i]!,
        y = b[0] * x + s;
      s = b[1] * x - a[0] * y + t;
      t = b[2] * x - a[1] * y;
      plane[i] = y;
    }
    this.s = s;
    this.t = t;
  }
}

/** Weighted power of each step of a tenth of a second of one channel. */
class Power {
  readonly steps: number[] = [];
  private readonly filters = [new Filter(SHELF), new Filter(HIGH_PASS)];
  private sum = 0;
  private count = 0;
  add(block: Float32Array): void {
    const plane = Float64Array.from(block);
    for (const filter of this.filters) filter.run(plane);
    let { sum, count } = this;
    for (let i = 0; i < plane.length; i++) {
      sum += plane[i]! * plane[i]!;
      if (++count < HOP) continue;
      this.steps.push(sum / HOP);
      sum = count = 0;
    }
    this.sum = sum;
    this.count = count;
  }
}
/** Means of so many steps in a row, one for each step that begins such a row. */
const rows = (steps: readonly number[], length: number): number[] =>
  Array.from({ length: Math.max(0, steps.length - length + 1) }, (_, i) =>
    mean(steps.slice(i, i + length)),
  );

function highest(block: Float32Array, least: number): number {
  let most = least;
  for (let i = 0; i < block.length; i++) most = Math.max(most, Math.abs(block[i]!));
  return most;
}
/** The highest between samples, each of those up to `last` with all around it. */
function highestBetween(seen: Float64Array, last: number, least: number): number {
  const [first, second, third] = PARTS as [Float64Array, Float64Array, Float64Array];
  let most = least;
  for (let n = 0; n <= last; n++) {
    let [a, b, c] = [0, 0, 0];
    for (let k = 0; k < 2 * AROUND; k++) {
      const v = seen[n + k]!;
      a += first[k]! * v;
      b += second[k]! * v;
      c += third[k]! * v;
    }
    most = Math.max(most, Math.abs(a), Math.abs(b), Math.abs(c));
  }
  return most;
}

/** The highest peak of one channel, between its samples too. */
class Peak {
  most = 0;
  /** The last samples, which those to come have around them; before the first is silence. */
  private before: Float64Array = new Float64Array(AROUND - 1);
  add(block: Float32Array): void {
    const { before } = this,
      seen = new Float64Array(before.length + block.length);
    seen.set(before);
    seen.set(block, before.length);
    const last = seen.length - 2 * AROUND;
    this.most = highestBetween(seen, last, highest(block, this.most));
    this.before = seen.slice(Math.max(0, last + 1));
  }
  /** With the silence after the last sample. */
  end(): number {
    this.add(new Float32Array(AROUND));
    return this.most;
  }
}

/** Measures a sound of 48,000 samples per second block by block. */
export class LoudnessMeter {
  private readonly powers: readonly Power[];
  private readonly peaks: readonly Peak[];

  constructor(private readonly channels: number) {
    this.powers = Array.from({ length: channels }, () => new Power());
    this.peaks = Array.from({ length: channels }, () => new Peak());
  }

  /** The next samples, any number of them. */
  add(block: Channels): void {
    block.forEach((channel, c) => {
      this.powers[c]!.add(channel);
      this.peaks[c]!.add(channel);
    });
  }

  /** The loudness of all that was added; nothing can be added after it. */
  result(): Loudness {
    const count = this.powers[0]?.steps.length ?? 0;
    const steps = Array.from({ length: count }, (_, i) =>
      this.powers.reduce((sum, p, c) => sum + (WEIGHTS[this.channels]?.[c] ?? 1) * p.steps[i]!, 0),
    );
    const blocks = rows(steps, BLOCK).filter((p) => loudnessOf(p) > ABSOLUTE);
    const gate = blocks.length > 0 ? loudnessOf(mean(blocks)) + RELATIVE : 0;
    const loud = blocks.filter((p) => loudnessOf(p) > gate);
    const terms = rows(steps, Math.min(SHORT_TERM, steps.length || 1));
    const most = this.peaks.reduce((top, p) => Math.max(top, p.end()), 0);
    return {
      integrated: loud.length > 0 ? loudnessOf(mean(loud)) : -Infinity,
      shortTerm: loudnessOf(terms.reduce((top, t) => Math.max(top, t), 0)),
      truePeak: most > 0 ? decibels(most * most) : -Infinity,
    };
  }
}

/** The loudness of a sound of 48,000 samples per second. */
export function loudness(sound: Channels): Loudness {
  const meter = new LoudnessMeter(sound.length);
  meter.add(sound);
  return meter.result();
}
