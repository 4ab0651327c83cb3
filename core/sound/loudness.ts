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

/** A filter in transposed direct form II, in place. */
function filtered(plane: Float64Array, { b, a }: Biquad): void {
  let [s, t] = [0, 0];
  for (let i = 0; i < plane.length; i++) {
    const x = plane[i]!,
      y = b[0] * x + s;
    s = b[1] * x - a[0] * y + t;
    t = b[2] * x - a[1] * y;
    plane[i] = y;
  }
}

/** Weighted power of each step of a tenth of a second, all channels together. */
function powers(sound: Channels): number[] {
  const count = Math.floor((sound[0]?.length ?? 0) / HOP);
  const all = Array.from({ length: count }, () => 0);
  sound.forEach((channel, c) => {
    const weight = WEIGHTS[sound.length]?.[c] ?? 1;
    if (weight === 0) return;
    const plane = Float64Array.from(channel);
    filtered(plane, SHELF);
    filtered(plane, HIGH_PASS);
    for (let step = 0; step < count; step++) {
      let sum = 0;
      for (let i = step * HOP; i < (step + 1) * HOP; i++) sum += plane[i]! * plane[i]!;
      all[step]! += (weight * sum) / HOP;
    }
  });
  return all;
}
/** Means of so many steps in a row, one for each step that begins such a row. */
const rows = (steps: readonly number[], length: number): number[] =>
  Array.from({ length: Math.max(0, steps.length - length + 1) }, (_, i) =>
    mean(steps.slice(i, i + length)),
  );

function truePeak(sound: Channels): number {
  let most = 0;
  for (const plane of sound) {
    // Silence around it, so that every sample has as many around.
    const padded = new Float64Array(plane.length + 2 * AROUND);
    padded.set(plane, AROUND - 1);
    for (let n = 0; n < plane.length; n++) {
      most = Math.max(most, Math.abs(plane[n]!));
      for (const weights of PARTS) {
        let sum = 0;
        for (let k = 0; k < 2 * AROUND; k++) sum += weights[k]! * padded[n + k]!;
        most = Math.max(most, Math.abs(sum));
      }
    }
  }
  return most > 0 ? decibels(most * most) : -Infinity;
}

/** The loudness of a sound of 48,000 samples per second. */
export function loudness(sound: Channels): Loudness {
  const steps = powers(sound);
  const blocks = rows(steps, BLOCK).filter((p) => loudnessOf(p) > ABSOLUTE);
  const gate = blocks.length > 0 ? loudnessOf(mean(blocks)) + RELATIVE : 0;
  const loud = blocks.filter((p) => loudnessOf(p) > gate);
  const terms = rows(steps, Math.min(SHORT_TERM, steps.length || 1));
  return {
    integrated: loud.length > 0 ? loudnessOf(mean(loud)) : -Infinity,
    shortTerm: loudnessOf(Math.max(0, ...terms)),
    truePeak: truePeak(sound),
  };
}
