/**
 * Goals (measures that a dial should reach on each clip) and suitability (what a look needs of
 * footage).
 */
import type { Planes } from '../engine';
import type { Goal, GoalMeasure, Suit, SuitMeasure } from '../look';
import { type CodePlanes, scopesOf } from './scopes';
import { type ClipStatistics, percentilesOf } from './statistics';

/** Measures in per cent. */
export type GoalFigures = Readonly<Record<GoalMeasure, number>>;

/**
 * Measures of one picture from its code values and its Oklab. Transparent pixels (bars) are left
 * out.
 */
export function goalFigures(codes: CodePlanes, lab: Planes): GoalFigures {
  const { width, height, stride } = codes;
  const [r, g, b] = codes.planes,
    cover = lab.planes[3];
  const luma = new Float32Array(width * height);
  let n = 0,
    chroma = 0;
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const i = y * stride + x,
        k = y * lab.stride + x;
      if (cover && cover[k]! < 0.99) continue;
      luma[n++] = 0.2126 * r[i]! + 0.7152 * g[i]! + 0.0722 * b[i]!;
      chroma += Math.sqrt(
        lab.planes[1]![k]! * lab.planes[1]![k]! + lab.planes[2]![k]! * lab.planes[2]![k]!,
      );
    }
  const { p5, p50, p95 } = percentilesOf(n > 0 ? luma.subarray(0, n) : Float32Array.of(0));
  const { crushed, clipped } = scopesOf(codes);
  const percent = (v: number) => v * 100;
  return {
    dark: percent(p5),
    middle: percent(p50),
    bright: percent(p95),
    saturation: percent(n > 0 ? chroma / n : 0),
    crushed: percent(crushed),
    clipped: percent(clipped),
  };
}
/** The mean of several pictures' measures. */
export const meanFigures = (all: readonly GoalFigures[]): GoalFigures =>
  Object.fromEntries(
    Object.keys(all[0]!).map((k) => [
      k,
      all.reduce((s, f) => s + f[k as GoalMeasure], 0) / all.length,
    ]),
  ) as unknown as GoalFigures;

/** Pictures are finite, so this close (in per cent) counts as reached. */
const NEAR = 0.05;
/** Whether a figure meets a goal. */
export const isReached = (goal: Goal, figure: number): boolean =>
  goal.is === 'above' ? figure >= goal.value - NEAR : figure <= goal.value + NEAR;
const lack = (goal: Goal, figure: number): number =>
  Math.max(0, goal.is === 'above' ? goal.value - figure : figure - goal.value);

/** The value found for a dial, and its figure. */
export interface Reached {
  readonly value: number;
  readonly figure: number;
  readonly reached: boolean;
}
const AT_ONCE = 9,
  ROUNDS = 4;

/**
 * The value of the dial nearest to `from` that reaches a goal, to a few thousandths of the range;
 * if none does, the value that comes closest. `measure` returns the figures at several values of
 * the dial.
 */
export async function reach(
  goal: Goal,
  [least, most]: readonly [number, number],
  from: number,
  measure: (values: readonly number[]) => Promise<readonly number[]>,
): Promise<Reached> {
  const [now] = await measure([from]);
  if (isReached(goal, now!)) return { value: from, figure: now!, reached: true };
  let best: Reached = { value: from, figure: now!, reached: false };
  let [low, high] = [least, most];
  for (let round = 0; round < ROUNDS; round++) {
    const values = Array.from(
      { length: AT_ONCE },
      (_, i) => low + ((high - low) * i) / (AT_ONCE - 1),
    );
    const figures = await measure(values);
    values.forEach((value, i) => {
      const found = { value, figure: figures[i]!, reached: isReached(goal, figures[i]!) };
      if (isBetter(goal, from, found, best)) best = found;
    });
    // A better value may lie between the best one and its neighbours.
    const step = (high - low) / (AT_ONCE - 1);
    [low, high] = [Math.max(least, best.value - step), Math.min(most, best.value + step)];
  }
  // Rounded to a thousandth of the range, away from the start, so that a reached goal stays
  // reached.
  const quantum = (most - least) / 1000,
    steps = (best.value - least) / quantum;
  const whole = best.value > from ? Math.ceil(steps - 1e-6) : Math.floor(steps + 1e-6);
  const value = Number((least + Math.max(0, Math.min(1000, whole)) * quantum).toFixed(6));
  const [figure] = await measure([value]);
  return { value, figure: figure!, reached: isReached(goal, figure!) };
}
/**
 * Reached is better than not reached; among reached values the nearest wins, among others the one
 * that misses least.
 */
function isBetter(goal: Goal, from: number, a: Reached, b: Reached): boolean {
  if (a.reached !== b.reached) return a.reached;
  return a.reached
    ? Math.abs(a.value - from) < Math.abs(b.value - from)
    : lack(goal, a.figure) < lack(goal, b.figure);
}

/** A clip's own measures, in per cent. */
export const suitFigures = (s: ClipStatistics): Readonly<Record<SuitMeasure, number>> => ({
  dark: s.tones.p5 * 100,
  middle: s.tones.p50 * 100,
  bright: s.tones.p95 * 100,
  contrast: s.contrast * 100,
  saturation: s.chroma * 100,
  noise: s.noise * 100,
  motion: s.motion * 100,
});
/** A test that a clip fails, with its figure. */
export interface Unsuited {
  readonly suit: Suit;
  readonly figure: number;
}
/** The suitability tests that a clip fails. */
export const unsuitedFor = (suits: readonly Suit[], s: ClipStatistics): Unsuited[] => {
  const figures = suitFigures(s);
  return suits
    .map((suit) => ({ suit, figure: figures[suit.of] }))
    .filter(({ suit, figure }) =>
      suit.is === 'above' ? figure < suit.value : figure > suit.value,
    );
};

const WORDS: Readonly<Record<GoalMeasure | SuitMeasure, string>> = {
  dark: 'dark tone',
  middle: 'middle tone',
  bright: 'bright tone',
  saturation: 'saturation',
  crushed: 'crushed share',
  clipped: 'clipped share',
  contrast: 'contrast',
  noise: 'noise',
  motion: 'motion',
};
/** Name of a measure, for people. */
export const measureWord = (of: GoalMeasure | SuitMeasure): string => WORDS[of];
/** A goal or test as text: “bright tone above 95 %”. */
export const goalWords = ({ of, is, value }: Goal | Suit): string =>
  `${WORDS[of]} ${is} ${value} %`;
