/** Beats of a sound: joined from what was found in stretches of it, and as a person says they are. */

/** A stretch of a sound, in seconds, with the beats found in it. */
export interface FoundStretch {
  readonly from: number;
  readonly to: number;
  /** Seconds from the sound's start, ascending. */
  readonly beats: readonly number[];
}

const median = (all: readonly number[]): number =>
  [...all].sort((a, b) => a - b)[Math.floor(all.length / 2)] ?? 0;
const intervals = (beats: readonly number[]): number[] =>
  beats.slice(1).map((b, i) => b - beats[i]!);
/** Every second beat, from the first or from the second. */
const everySecond = (beats: readonly number[], odd: boolean): number[] =>
  beats.filter((_, i) => i % 2 === (odd ? 1 : 0));
/** With one more beat half way to each next. */
const twice = (beats: readonly number[]): number[] =>
  beats.flatMap((b, i) => (i + 1 < beats.length ? [b, (b + beats[i + 1]!) / 2] : [b]));
/** How far the beats lie from the nearest of others, on the average. */
const away = (beats: readonly number[], others: readonly number[]): number =>
  beats.reduce(
    (sum, b) => sum + others.reduce((near, o) => Math.min(near, Math.abs(o - b)), Infinity),
    0,
  ) / Math.max(1, beats.length);

/** A stretch counted at the rate of the beats before it, where it was counted at half or double. */
function countedAs(before: readonly number[], beats: readonly number[]): readonly number[] {
  const [then, now] = [median(intervals(before)), median(intervals(beats))];
  if (!(then > 0 && now > 0)) return beats;
  if (now < then / Math.SQRT2) {
    const shared = before.filter((b) => b >= beats[0]! - then);
    const [even, odd] = [false, true].map((o) => everySecond(beats, o)) as [number[], number[]];
    const overlapping = (all: readonly number[]) => all.filter((b) => b <= before.at(-1)!);
    return away(overlapping(odd), shared) < away(overlapping(even), shared) ? odd : even;
  }
  return now > then * Math.SQRT2 ? twice(beats) : beats;
}

/**
 * One row of beats from overlapping stretches in order: each gives those of its middle, counted as
 * those before it are.
 */
export function joinedBeats(stretches: readonly FoundStretch[]): number[] {
  let all: readonly number[] = [],
    joined: number[] = [];
  stretches.forEach(({ from, beats }, i) => {
    all = i === 0 ? beats : countedAs(all, beats);
    const before = stretches[i - 1],
      next = stretches[i + 1];
    const first = before ? (from + before.to) / 2 : -Infinity,
      last = next ? (next.from + stretches[i]!.to) / 2 : Infinity;
    const least = 0.5 * median(intervals(all));
    const here = all.filter((b) => b >= first && b < last);
    joined = [...joined, ...here.filter((b) => b - (joined.at(-1) ?? -Infinity) > least)];
  });
  return joined;
}

/** What a person says of the beats that were found. */
export interface BeatsSaid {
  /** Every second one counts, each, or one more between each two. */
  readonly counted: (typeof COUNTED)[number];
  /** Of every second one: those from the second on. */
  readonly odd: boolean;
  /** Beats of a bar, and which beat begins one (0 is the first that counts). */
  readonly bar: number;
  readonly begins: number;
}
/** Ways to count. */
export const COUNTED = ['half', 'each', 'double'] as const;
/** Most beats of a bar. */
export const MOST_OF_A_BAR = 12;
/** As they were found, four to the bar. */
export const BEATS_FOUND: BeatsSaid = { counted: 'each', odd: false, bar: 4, begins: 0 };

/** Beats and first beats of bars, in seconds. */
export interface Beats {
  readonly beats: readonly number[];
  readonly bars: readonly number[];
  /** Beats a minute, of most of them; 0 where there are none. */
  readonly tempo: number;
}
/** Beats as a person says they are. */
export function beatsAs(found: readonly number[], said: BeatsSaid): Beats {
  const beats =
    said.counted === 'half'
      ? everySecond(found, said.odd)
      : said.counted === 'double'
        ? twice(found)
        : found;
  const each = median(intervals(beats));
  return {
    beats,
    bars: beats.filter((_, i) => (((i - said.begins) % said.bar) + said.bar) % said.bar === 0),
    tempo: each > 0 ? 60 / each : 0,
  };
}
/** The same with the bar beginning at the beat nearest to a second. */
export function barAt(found: readonly number[], said: BeatsSaid, second: number): BeatsSaid {
  const { beats } = beatsAs(found, said);
  const nearest = beats.reduce(
    (best, b, i) => (Math.abs(b - second) < Math.abs(beats[best]! - second) ? i : best),
    0,
  );
  return { ...said, begins: nearest % said.bar };
}
/** Half as many beats, or twice as many; the bar goes on where it began, as near as may be. */
export function countedBy(
  found: readonly number[],
  said: BeatsSaid,
  counted: BeatsSaid['counted'],
): BeatsSaid {
  const [first] = beatsAs(found, said).bars;
  const changed = { ...said, counted };
  if (first === undefined) return changed;
  // Every second beat from that on which the bar began.
  const odd = counted === 'half' && found.findIndex((b) => Math.abs(b - first) < 1e-6) % 2 === 1;
  return barAt(found, { ...changed, odd }, first);
}
