/**
 * Where one recording of a sound lies in another: by the rise and fall of both, then by their samples,
 * with how far they drift apart. For takes that were shot to playback, and for new mixes.
 */
import { log2d } from '../kernel';

/** Where a recording lies in a reference. */
export interface Alignment {
  /** Second of the reference at which the recording begins; negative if it begins before it. */
  readonly offset: number;
  /** Seconds of the reference that pass in a second of the recording, less one. */
  readonly drift: number;
  /** How much of it agrees with the reference there, 0…1 (`sureOf`); below `SURE` it is a guess. */
  readonly sure: number;
}
/** Version of the method. */
export const ALIGNMENT_METHOD = 'alignment-1';
/** From here on a place is certain. */
export const SURE = 0.25;

/** Samples a second that both are given in. */
export const ALIGNMENT_RATE = 12_000;
/** Samples from one value of an envelope to the next, and values of the coarse search. */
const HOP = 120,
  PER_SECOND = ALIGNMENT_RATE / HOP;
/** Of the recording, as much is searched for at once, seconds. */
const SEARCHED = 90;
/** Windows in which samples are compared: their length and distance, seconds. */
const WINDOW = 1.5,
  STEP = 0.5;
/** How far off the coarse place may be, and how far drift may go, samples and share. */
const NEAR = Math.round(0.08 * ALIGNMENT_RATE),
  MOST_DRIFT = 0.003;
/** Steps of drift to either side, and how far from a line a window lies at most, samples. */
const DRIFTS = 15,
  OFF = 30;
/** By how much the largest drift is less likely than none: clocks are seldom that far off. */
const UNLIKELY = 0.1;
const SILENT = 1e-7;

/** How much louder each hop is than the one before, in steps of two, where it is; their mean taken off. */
function rises(sound: Float32Array): Float32Array {
  const n = Math.floor(sound.length / HOP),
    level = new Float32Array(n);
  for (let i = 0; i < n; i++) {
    let sum = 0;
    for (let k = i * HOP; k < (i + 1) * HOP; k++) sum += sound[k]! * sound[k]!;
    level[i] = log2d(sum / HOP + SILENT);
  }
  const out = new Float32Array(n);
  for (let i = 2; i < n; i++) out[i] = Math.max(0, level[i]! - (level[i - 1]! + level[i - 2]!) / 2);
  // Smoothed over three hops, so that a drift within the stretch does not matter.
  const smooth = out.map((v, i) => (out[i - 1] ?? 0) + 2 * v + (out[i + 1] ?? 0));
  const mean = smooth.reduce((a, b) => a + b, 0) / Math.max(1, n);
  return smooth.map((v) => v - mean);
}

/** Lags from one pause to the next. */
const LAGS = 1000;
/** Likeness at each lag: the recording's first value at that value of the reference. */
async function likeness(
  of: Float32Array,
  to: Float32Array,
  pause: () => Promise<void>,
): Promise<{ readonly first: number; readonly values: Float64Array }> {
  const first = -(of.length - PER_SECOND);
  const values = new Float64Array(Math.max(1, to.length - first - PER_SECOND));
  for (let l = 0; l < values.length; l++) {
    if (l % LAGS === LAGS - 1) await pause();
    const lag = first + l,
      from = Math.max(0, -lag),
      end = Math.min(of.length, to.length - lag);
    let [product, one, two] = [0, 0, 0];
    for (let i = from; i < end; i++) {
      const [a, b] = [of[i]!, to[i + lag]!];
      product += a * b;
      one += a * a;
      two += b * b;
    }
    // A short overlap says little: it counts by the root of its share.
    values[l] = (product / Math.sqrt(one * two + 1e-9)) * Math.sqrt((end - from) / of.length);
  }
  return { first, values };
}

/**
 * A sound with what is high in it brought forward, so that its bass, which is like itself a period
 * later, does not decide.
 */
const brightened = (sound: Float32Array): Float32Array =>
  sound.map((v, i) => (i === 0 ? 0 : v - 0.97 * sound[i - 1]!));

/** Places that are looked at closely: so many, so nearly as good as the best, so far apart (seconds). */
const MOST_PLACES = 5,
  NEARLY = 0.75,
  APART = 0.3;
/** Where likeness is highest, the best first; none where nothing is alike. */
function placesIn(values: Float64Array): number[] {
  const order = [...values.keys()].sort((a, b) => values[b]! - values[a]!);
  const found: number[] = [];
  for (const i of order) {
    if (!(values[i]! > 0) || values[i]! < NEARLY * values[order[0]!]!) break;
    if (found.every((f) => Math.abs(f - i) > APART * PER_SECOND)) found.push(i);
    if (found.length === MOST_PLACES) break;
  }
  return found;
}
/** Windows in which a place is looked at closely. */
const LOOKS = 5;
/** How alike the samples are, 0…1, where a recording begins at a sample of a reference. */
function agreement(recording: Float32Array, reference: Float32Array, at: number): number {
  const room = recording.length - Math.round(WINDOW * ALIGNMENT_RATE);
  let [sum, count] = [0, 0];
  for (let i = 0; i < LOOKS; i++) {
    const from = Math.floor((room * (i + 0.5)) / LOOKS);
    const found = shiftOf(recording, from, reference, from + at);
    sum += found?.like ?? 0;
    count++;
  }
  return sum / count;
}

/** The best shift of a window of samples within `NEAR` of where it is expected; null where it says nothing. */
function shiftOf(
  of: Float32Array,
  at: number,
  to: Float32Array,
  expected: number,
): { readonly shift: number; readonly like: number } | null {
  const length = Math.round(WINDOW * ALIGNMENT_RATE);
  if (at + length > of.length) return null;
  let energy = 0;
  for (let i = 0; i < length; i += 2) energy += of[at + i]! * of[at + i]!;
  if (energy < SILENT * length) return null;
  let [best, most] = [0, 0];
  const look = (s: number): void => {
    const begins = expected + s;
    if (begins < 0 || begins + length > to.length) return;
    let [product, other] = [0, 0];
    // Every other sample: what matters lies far below half of that rate.
    for (let i = 0; i < length; i += 2) {
      const b = to[begins + i]!;
      product += of[at + i]! * b;
      other += b * b;
    }
    const like = Math.abs(product) / Math.sqrt(energy * other + 1e-12);
    if (like > most) [best, most] = [s, like];
  };
  for (let s = -NEAR; s <= NEAR; s += 2) look(s);
  for (const s of [best - 1, best + 1]) look(s);
  return most > 0 ? { shift: best, like: most } : null;
}

interface Point {
  readonly x: number;
  readonly y: number;
  /** How alike the samples are there, 0…1. */
  readonly like: number;
}
interface Line {
  readonly at: number;
  readonly slope: number;
  /** The points that lie on it. */
  readonly on: readonly Point[];
}
/** A likeness from which on it says all it can: rooms and microphones take much of it away. */
const ENOUGH = 1 / 3;
/** The share of windows that lie on a line, less where they are hardly alike. */
function sureOf(on: readonly Point[], asked: number): number {
  if (on.length === 0) return 0;
  const mean = on.reduce((sum, p) => sum + p.like, 0) / on.length;
  return (on.length / asked) * Math.min(1, mean / ENOUGH);
}
/**
 * The line on which most points lie, the more alike the more they count: that of steps of drift on
 * which most agree, small ones before large, and then the mean of those on it. Echoes and neighbouring
 * periods agree on nothing.
 */
function lineThrough(points: readonly Point[]): Line {
  const total = (all: readonly Point[]): number => all.reduce((sum, p) => sum + p.like, 0);
  let line: Line = { at: 0, slope: 0, on: [] },
    most = 0;
  for (let k = 0; k <= 2 * DRIFTS; k++) {
    // 0, then to either side.
    const slope = ((k % 2 === 0 ? 1 : -1) * Math.ceil(k / 2) * MOST_DRIFT) / DRIFTS;
    for (const middle of points) {
      const at = middle.y - slope * middle.x;
      const on = points.filter((p) => Math.abs(p.y - at - slope * p.x) <= OFF);
      const score = total(on) * (1 - (UNLIKELY * Math.abs(slope)) / MOST_DRIFT);
      if (score > most * 1.001) [line, most] = [{ at, slope, on }, score];
    }
  }
  const all = total(line.on);
  if (all === 0) return line;
  const at = line.on.reduce((sum, p) => sum + p.like * (p.y - line.slope * p.x), 0) / all;
  return { ...line, at };
}

/**
 * Where a recording lies in a reference, both in one channel at `ALIGNMENT_RATE`; undefined if one of
 * them is silent or shorter than two seconds. `pause`: awaited now and then, so that others can work.
 */
export async function alignment(
  recording: Float32Array,
  reference: Float32Array,
  pause: () => Promise<void> = () => Promise.resolve(),
): Promise<Alignment | undefined> {
  const least = 2 * ALIGNMENT_RATE;
  if (recording.length < least || reference.length < least) return undefined;
  const of = rises(recording.subarray(0, SEARCHED * ALIGNMENT_RATE)),
    to = rises(reference);
  const { first, values } = await likeness(of, to, pause);
  const [one, two] = [brightened(recording), brightened(reference)],
    places = placesIn(values);
  if (places.length === 0) return undefined;
  // A verse is like the next in its rise and fall: their samples decide.
  let coarse = 0,
    agrees = -1;
  for (const place of places) {
    const at = (first + place) * HOP;
    await pause();
    const like = places.length > 1 ? agreement(one, two, at) : 1;
    if (like > agrees) [coarse, agrees] = [at, like];
  }
  const points: Point[] = [];
  let drift = 0,
    base = 0,
    asked = 0;
  for (let at = 0; at + WINDOW * ALIGNMENT_RATE <= recording.length; at += STEP * ALIGNMENT_RATE) {
    // Later windows are looked for where the ones before lead.
    const expected = Math.round(at + coarse + base + drift * at);
    await pause();
    const found = shiftOf(one, at, two, expected);
    if (!found) continue;
    asked++;
    const x = at + (WINDOW * ALIGNMENT_RATE) / 2;
    points.push({ x, y: expected - at - coarse + found.shift, like: found.like });
    if (points.length >= 4) {
      const line = lineThrough(points);
      [base, drift] = [line.at, line.slope];
    }
  }
  const line = lineThrough(points);
  return {
    offset: (coarse + line.at) / ALIGNMENT_RATE,
    drift: line.slope,
    sure: sureOf(line.on, asked),
  };
}
