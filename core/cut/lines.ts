/** The page of music: a cut written in lines of so many bars or seconds. */
import type { Rate } from '../time';
import type { Stretch } from './times';

/** How much stands on a line. */
export interface LineLength {
  readonly of: 'seconds' | 'bars';
  readonly count: number;
}
/** Choices of how much stands on a line, the closest first. */
export const LINE_LENGTHS: readonly LineLength[] = [
  { of: 'bars', count: 1 },
  { of: 'bars', count: 2 },
  { of: 'bars', count: 4 },
  { of: 'bars', count: 8 },
  { of: 'seconds', count: 2 },
  { of: 'seconds', count: 5 },
  { of: 'seconds', count: 10 },
  { of: 'seconds', count: 20 },
  { of: 'seconds', count: 60 },
];

/** Most lines: a longer cut has longer lines. */
const MOST_LINES = 600;

/**
 * The lines of a cut, in project frames: all of it, from its first frame to the line in which
 * `frames` ends, and at least one. `bars`: seconds at which bars begin; before the first and after
 * the last, lines are as long as the mean of those known.
 */
export function linesOf(
  { of, count }: LineLength,
  frames: number,
  rate: Rate,
  bars: readonly number[] = [],
): Stretch[] {
  const inFrames = (seconds: number): number => Math.floor((seconds * rate[0]) / rate[1] + 0.5);
  const borders = [0];
  const spread = bars.length > 1 ? (bars.at(-1)! - bars[0]!) / (bars.length - 1) : 2;
  const step = Math.max(
    1,
    Math.ceil(frames / MOST_LINES),
    inFrames(
      of === 'seconds' || bars.length < 2 ? count * (of === 'bars' ? 2 : 1) : count * spread,
    ),
  );
  if (of === 'bars' && bars.length > 1)
    for (let i = 0; i < bars.length; i += count) {
      const at = inFrames(bars[i]!);
      // What comes before the first bar has a line of its own if it is long enough to be seen.
      if (at - borders.at(-1)! >= step / 2) borders.push(at);
    }
  while (borders.length < 2 || borders.at(-1)! < frames) borders.push(borders.at(-1)! + step);
  return borders.slice(1).map((to, i) => ({ from: borders[i]!, to }));
}

/** The part of a stretch that lies in a line; undefined if none does. */
export function inLine(line: Stretch, from: number, to: number): Stretch | undefined {
  const part = { from: Math.max(line.from, from), to: Math.min(line.to, to) };
  return part.from < part.to ? part : undefined;
}
/** The line in which a frame lies; the last one for what comes after. */
export const lineAt = (lines: readonly Stretch[], frame: number): number =>
  Math.max(
    0,
    lines.findLastIndex((l) => l.from <= frame),
  );
