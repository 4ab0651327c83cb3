/** Maps source frames to the frames of a steady rate. */
import { COMMON, framesPerSecond, nearestRate, type Rate, sameRate } from './rate';

/** A steady rate, and the source frame of each output frame. */
export interface Steady {
  readonly rate: Rate;
  /** Source frame of each output frame. Undefined if they are the same. */
  readonly source?: readonly number[];
  readonly frames: number;
}

/**
 * Times this close to even spacing (largest deviation in frames) have that rate, however unusual.
 */
const TIGHT = 0.1;
/** Times with less jitter than this around even spacing keep one frame each. */
const LOOSE = 0.9;
/** A common rate this close to the measured one is tried. */
const NEAR = 0.03;

/** Longest time between two frames, s, and the most frames of one piece of footage. */
const LONGEST_GAP = 600,
  MOST_FRAMES = 1_000_000;

/** Why presentation times (s) cannot be laid onto a steady rate; undefined if they can. */
export function unsteady(times: readonly number[], rate: Rate): string | undefined {
  let gap = 0;
  for (let i = 1; i < times.length; i++) gap = Math.max(gap, times[i]! - times[i - 1]!);
  if (gap > LONGEST_GAP)
    return (
      `a frame lies ${(gap / 60).toFixed(0)} minutes after the one before, ` +
      `and at most ${LONGEST_GAP / 60} are read`
    );
  const frames = Math.max(times.length, (times.at(-1) ?? 0) * framesPerSecond(rate));
  return frames > MOST_FRAMES
    ? `it has ${frames.toFixed(0)} frames, and at most ${MOST_FRAMES} are read in one file`
    : undefined;
}

/**
 * A steady rate for presentation times in seconds (the first is 0). Times with jitter below half a
 * frame around an even spacing keep each frame. Otherwise each slot of the nearest common rate
 * shows the latest frame at or before its centre.
 */
export function steady(times: readonly number[], claimed: Rate, lastDuration: number): Steady {
  const n = times.length;
  if (n < 2) return { rate: claimed, frames: n };
  const measured = nearestRate((n - 1) / times[n - 1]!);
  const shakes = (r: Rate): number => shake(times, framesPerSecond(r));
  const near = COMMON.filter(
    (r) =>
      sameRate(r, claimed) || Math.abs(framesPerSecond(r) / framesPerSecond(measured) - 1) < NEAR,
  );
  const likely = near.sort(
    (a, b) => Number(sameRate(b, claimed)) - Number(sameRate(a, claimed)) || shakes(a) - shakes(b),
  );
  const length = times[n - 1]! + (lastDuration > 0 ? lastDuration : times[n - 1]! / (n - 1));
  const average = n / length;
  // What lies on the frames of the claimed rate lacks some of them, however even the rest may be.
  const lacks = shakes(claimed) >= LOOSE && isOnGrid(times, claimed, average);
  const even =
    [claimed, measured].find((r) => shakes(r) < TIGHT) ??
    (lacks ? undefined : [...likely, claimed, measured].find((r) => shakes(r) < LOOSE));
  if (even) return { rate: even, frames: n };
  const rate =
    [claimed, measured, ...COMMON].find((r) => isOnGrid(times, r, average)) ?? fastEnough(average);
  const frames = Math.max(1, Math.round(length * framesPerSecond(rate)));
  const source: number[] = [];
  for (let k = 0, at = 0; k < frames; k++) {
    const centre = (k + 0.5) / framesPerSecond(rate);
    while (at + 1 < n && times[at + 1]! <= centre) at++;
    source.push(at);
  }
  return { rate, frames, source };
}

/** Jitter of times around an even spacing, in frames. */
function shake(times: readonly number[], fps: number): number {
  let least = Infinity,
    most = -Infinity;
  times.forEach((t, i) => {
    const off = t * fps - i;
    least = Math.min(least, off);
    most = Math.max(most, off);
  });
  return most - least;
}

/** Whether all times belong to frames of a rate, with at most three in four missing. */
function isOnGrid(times: readonly number[], rate: Rate, average: number): boolean {
  const fps = framesPerSecond(rate);
  return (
    fps >= average * 0.98 &&
    fps <= average * 4 &&
    times.every((t) => Math.abs(t * fps - Math.round(t * fps)) < 0.1)
  );
}

/** For uneven footage: the slowest common rate that is fast enough for its average. */
const fastEnough = (average: number): Rate =>
  (
    [
      [24, 1],
      [25, 1],
      [30, 1],
      [50, 1],
      [60, 1],
    ] as const
  ).find((r) => r[0] >= average * 0.98) ?? [60, 1];
