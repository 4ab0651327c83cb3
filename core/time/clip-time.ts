/** A clip's time: length, rate and cues. */
import type { Rate } from './rate';

/** Index of a frame, counted from 0. An integer, except for instants that are not rounded yet. */
export type FrameIndex = number;
/** A duration or time in seconds. */
export type Seconds = number;

/**
 * How chance falls on a clip. Stretches of one footage with other numbers have other dust; a clip
 * that was split off counts on, so that it keeps the dust of the whole.
 */
export interface Chance {
  readonly number: number;
  /** Frames counted before the clip's first. */
  readonly from: number;
}
/** Chance on a new clip. */
export const USUAL_CHANCE: Chance = { number: 0, from: 0 };
/** What names a clip in seeds: its footage's content hash, and the number of its chance. */
export const seedNames = (
  content: string,
  { chance }: Pick<ClipTime, 'chance'>,
): (string | number)[] => (chance?.number ? [content, chance.number] : [content]);

/** A frame as chance counts it: of a clip that was split off, in the whole. */
export const chanceFrame = (frame: FrameIndex, { chance }: Pick<ClipTime, 'chance'>): FrameIndex =>
  frame + (chance?.from ?? 0);
/** Frames as chance counts them. */
export const chanceFrames = (
  frames: readonly FrameIndex[],
  time: Pick<ClipTime, 'chance'>,
): readonly FrameIndex[] => (time.chance?.from ? frames.map((f) => chanceFrame(f, time)) : frames);

/** A clip's time. */
export interface ClipTime {
  /** Number of frames. */
  readonly frames: number;
  readonly rate: Rate;
  /** Rate of the project, for times in *project frames*. Default: the clip's own rate. */
  readonly projectRate?: Rate | undefined;
  /** Frames of its cues by the pin's key. */
  readonly cues: Readonly<Record<string, readonly FrameIndex[]>>;
  /** Frames of the footage before the clip's first and after its last. None for a retimed clip. */
  readonly spare?: { readonly before: number; readonly after: number } | undefined;
  /** Frames at which another shot begins, in order. */
  readonly cuts?: readonly FrameIndex[] | undefined;
  /** If the look retimes the clip: its time before that, in which *seconds as shot* count. */
  readonly shot?: ShotTime | undefined;
  /**
   * Distance travelled by what moves up to a frame, in hundredths of a line; undefined if not
   * measured. See `speedOf`.
   */
  readonly way?: ((frame: FrameIndex) => number) | undefined;
  readonly chance?: Chance | undefined;
}
/** A clip's time before its look retimes it. */
export interface ShotTime {
  readonly time: ClipTime;
  /**
   * The first frame at which a frame of that time is reached or passed, and the frame of that time
   * nearest to a frame.
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

/** A frame, or the nearest frame in the shot of `now`. */
export function inShotOf(
  { cuts = [] }: Pick<ClipTime, 'cuts'>,
  now: FrameIndex,
  frame: FrameIndex,
): FrameIndex {
  const begins = cuts.findLast((c) => c <= now),
    next = cuts.find((c) => c > now);
  return Math.max(begins ?? frame, Math.min(next === undefined ? frame : next - 1, frame));
}

/** Units of durations in documents. */
export const TIME_UNITS = ['seconds', 'clip-frames', 'project-frames'] as const;
/** One of `TIME_UNITS`. */
export type TimeUnit = (typeof TIME_UNITS)[number];
/** The units as text. */
export const TIME_UNIT_WORDS: Record<TimeUnit, string> = {
  seconds: 'seconds',
  'clip-frames': 'frames of the clip',
  'project-frames': 'frames of the project',
};

/** Units of instants: also seconds of the clip before its look retimes it. */
export const INSTANT_UNITS = [...TIME_UNITS, 'shot-seconds'] as const;
/** One of `INSTANT_UNITS`. */
export type InstantUnit = (typeof INSTANT_UNITS)[number];
/** The units as text. */
export const INSTANT_UNIT_WORDS: Record<InstantUnit, string> = {
  ...TIME_UNIT_WORDS,
  'shot-seconds': 'seconds as shot',
};

/**
 * A duration in frames of the clip, not rounded. A look's retime is not considered here; see
 * `framesOf`.
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

/** Resolution of moments: parts of a frame. */
export const MOMENTS = 256;

/** The rounding of an instant to a frame: nearest, halves up, with a tolerance of 1e-9. */
export const snapped = (frame: number): FrameIndex => Math.floor(frame + 0.5 + 1e-9);
