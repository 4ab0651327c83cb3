/** A clip's time: how long it is, how fast, and where its cues lie. */
import type { Rate } from './rate';

/** A frame, counted from 0. Whole, but for instants that are not yet snapped. */
export type FrameIndex = number;
export type Seconds = number;

export interface ClipTime {
  /** How many frames it has. */
  readonly frames: number;
  readonly rate: Rate;
  /** The project's, in which *project frames* count; the clip's own where nothing says. */
  readonly projectRate?: Rate | undefined;
  /** The frames of its cues by the pin's key. */
  readonly cues: Readonly<Record<string, readonly FrameIndex[]>>;
  /**
   * How many frames the footage has before the clip's first and after its last: its past, and what
   * comes. None of a retimed clip.
   */
  readonly spare?: { readonly before: number; readonly after: number } | undefined;
  /** Frames with which another shot begins, in order. */
  readonly cuts?: readonly FrameIndex[] | undefined;
  /**
   * Where the look itself changes how the clip runs: its time before, which *seconds as shot* count
   * in.
   */
  readonly shot?: ShotTime | undefined;
  /**
   * How far what moves in it has come by a frame, in hundredths of a line; undefined where nothing
   * of it is measured. See `speedOf`.
   */
  readonly way?: ((frame: FrameIndex) => number) | undefined;
}
export interface ShotTime {
  readonly time: ClipTime;
  /**
   * The first frame now at which a frame of before is reached or passed; and the frame of before
   * that lies nearest to one of now.
   */
  readonly reached: (frame: FrameIndex) => FrameIndex;
  readonly nearest: (frame: FrameIndex) => FrameIndex;
}

/** Whether another shot begins between two frames. */
export const isCutBetween = (
  { cuts }: Pick<ClipTime, 'cuts'>,
  a: FrameIndex,
  b: FrameIndex,
): boolean => cuts !== undefined && cuts.some((c) => c > Math.min(a, b) && c <= Math.max(a, b));

/** A frame, or of those in the shot of `now` the one nearest to it. */
export function inShotOf(
  { cuts = [] }: Pick<ClipTime, 'cuts'>,
  now: FrameIndex,
  frame: FrameIndex,
): FrameIndex {
  const begins = cuts.findLast((c) => c <= now),
    next = cuts.find((c) => c > now);
  return Math.max(begins ?? frame, Math.min(next === undefined ? frame : next - 1, frame));
}

/** What lengths of time in documents are counted in. */
export const TIME_UNITS = ['seconds', 'clip-frames', 'project-frames'] as const;
export type TimeUnit = (typeof TIME_UNITS)[number];
export const TIME_UNIT_WORDS: Record<TimeUnit, string> = {
  seconds: 'seconds',
  'clip-frames': 'frames of the clip',
  'project-frames': 'frames of the project',
};

/** What instants are counted in: also in the clip's time before the look retimes it. */
export const INSTANT_UNITS = [...TIME_UNITS, 'shot-seconds'] as const;
export type InstantUnit = (typeof INSTANT_UNITS)[number];
export const INSTANT_UNIT_WORDS: Record<InstantUnit, string> = {
  ...TIME_UNIT_WORDS,
  'shot-seconds': 'seconds as shot',
};

/**
 * A length of time in frames of the clip, not snapped. How a look retimes the clip is `framesOf`'s
 * matter: here a second is a second.
 */
export function inFrames(
  length: number,
  unit: InstantUnit,
  { rate, projectRate = rate }: Pick<ClipTime, 'rate' | 'projectRate'>,
): number {
  if (unit === 'clip-frames') return length;
  if (unit === 'seconds' || unit === 'shot-seconds') return (length * rate[0]) / rate[1];
  return (length * projectRate[1] * rate[0]) / (projectRate[0] * rate[1]);
}

/** So many moments are told apart between two frames. */
export const MOMENTS = 256;

/**
 * The one rule by which an instant becomes a frame: to the nearest, halves up. A trillionth
 * forgives decimals.
 */
export const snapped = (frame: number): FrameIndex => Math.floor(frame + 0.5 + 1e-9);
