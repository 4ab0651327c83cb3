/** Instants: an origin, and an offset from it. */
import {
  type ClipTime,
  type FrameIndex,
  inFrames,
  type InstantUnit,
  type ShotTime,
  snapped,
} from './clip-time';

/**
 * Origins: the clip's first frame, its last, a cue, a share of its length, or either end of the
 * surrounding span.
 */
export const ORIGINS = ['start', 'end', 'cue', 'share', 'span-start', 'span-end'] as const;
/** One of `ORIGINS`. */
export type Origin = (typeof ORIGINS)[number];
/** The origins as text. */
export const ORIGIN_WORDS: Record<Origin, string> = {
  start: 'the clip’s start',
  end: 'the clip’s end',
  cue: 'a cue',
  share: 'a share of the clip',
  'span-start': 'its span’s start',
  'span-end': 'its span’s end',
};
/** Which of several cues of one pin. */
export const WHICH = ['first', 'last', 'each'] as const;
/** One of `WHICH`. */
export type Which = (typeof WHICH)[number];

/** An instant with plain numbers. */
export interface Instant {
  readonly from: Origin;
  /** Key of the cue's pin. */
  readonly cue?: string | undefined;
  readonly which?: Which | undefined;
  /** Per cent of the way from the first frame to the last. */
  readonly share?: number | undefined;
  readonly offset: number;
  readonly unit: InstantUnit;
}
/** A stretch of frames, both ends included. */
export interface Stretch {
  readonly first: FrameIndex;
  readonly last: FrameIndex;
}

/** Frames of the origin before rounding. An unset cue is the clip's middle. */
function origins(
  { from, cue, which = 'first', share = 0 }: Instant,
  clip: ClipTime,
  span: Stretch,
): readonly number[] {
  switch (from) {
    case 'start':
      return [0];
    case 'end':
      return [clip.frames - 1];
    case 'share':
      return [((clip.frames - 1) * share) / 100];
    case 'span-start':
      return [span.first];
    case 'span-end':
      return [span.last];
    case 'cue': {
      const set = [...(clip.cues[cue ?? ''] ?? [])].sort((a, b) => a - b);
      if (set.length === 0) return [Math.floor(clip.frames / 2)];
      return which === 'each' ? set : [which === 'last' ? set.at(-1)! : set[0]!];
    }
  }
}

/**
 * Whether an instant counts in the time before the look's own retime: *seconds as shot* do. The
 * ends of a span are in the retimed time.
 */
const countsAsShot = (
  at: Pick<Instant, 'from' | 'unit'>,
  { shot }: ClipTime,
): ShotTime | undefined =>
  at.unit === 'shot-seconds' && !at.from.startsWith('span') ? shot : undefined;

/** Frames of an instant: one, or one per cue for *each*. They may lie outside the clip. */
export function framesOf(at: Instant, clip: ClipTime, span: Stretch = wholeOf(clip)): FrameIndex[] {
  const shot = countsAsShot(at, clip);
  if (shot) return framesOf(at, shot.time).map(shot.reached);
  return origins(at, clip, span).map((o) => snapped(o + inFrames(at.offset, at.unit, clip)));
}
/** The frame of an instant; the first one for *each*. */
export const frameOf = (at: Instant, clip: ClipTime, span?: Stretch): FrameIndex =>
  framesOf(at, clip, span)[0]!;
/** All frames of a clip. */
export const wholeOf = (clip: Pick<ClipTime, 'frames'>): Stretch => ({
  first: 0,
  last: clip.frames - 1,
});

/** The instant at a frame of a clip, counted from a new origin. */
export function countedFrom(
  frame: FrameIndex,
  to: Pick<Instant, 'from' | 'cue' | 'which' | 'share' | 'unit'>,
  clip: ClipTime,
  span?: Stretch,
): Instant {
  const plain: Instant = { ...to, offset: 0 },
    shot = countsAsShot(to, clip);
  if (shot) return countedFrom(shot.nearest(frame), to, shot.time);
  const off =
    frame -
    origins(
      { ...plain, which: plain.which === 'each' ? 'first' : plain.which },
      clip,
      span ?? wholeOf(clip),
    )[0]!;
  return { ...plain, offset: off / inFrames(1, to.unit, clip) };
}
