/**
 * Retime: a clip at another speed, along a curve of its own time; how long it then is, and what of
 * it each new frame shows.
 */
import { type FrameIndex, MOMENTS, type Seconds, snapped } from './clip-time';
import { framesPerSecond, type Rate } from './rate';

/** How the speed of a place becomes that of the next. */
export const RETIME_WAYS = ['smooth', 'at-once'] as const;
export type RetimeWay = (typeof RETIME_WAYS)[number];
/** What stands where the clip has no frame of its own. */
export const BETWEEN = ['nearest', 'mix', 'motion'] as const;
export type Between = (typeof BETWEEN)[number];
export const BETWEEN_WORDS: Readonly<Record<Between, string>> = {
  nearest: 'the nearest frame',
  mix: 'a mix of both',
  motion: 'made from motion',
};

export const SLOWEST = 2,
  FASTEST = 1600;
export const LONGEST_HOLD = 60;
export const MOST_PLACES = 100;

/** A place of the clip, in its own frames. */
export interface RetimePlace {
  readonly frame: FrameIndex;
  /** Per cent of the clip's own. */
  readonly speed: number;
  /** On the way to the next place. */
  readonly to: RetimeWay;
  /** How long it stands still there. */
  readonly hold?: Seconds;
}
export interface Retime {
  /**
   * One or more, in order of their frames; before the first its speed, after the last that one's.
   */
  readonly places: readonly RetimePlace[];
  /** From its last frame to its first. */
  readonly backwards: boolean;
  readonly between: Between;
}

/** Which moment of a clip each frame shows. */
export interface RetimeMap {
  /** How many frames it now has. */
  readonly frames: number;
  /**
   * The moment of the clip, in its own frames, at a frame: a whole number of 256ths, within the
   * clip.
   */
  readonly at: (frame: FrameIndex) => number;
  /** The same before it is rounded, at any moment. */
  readonly exactly: (moment: number) => number;
  /**
   * When the clip's own moment is reached, before it is rounded; where it stands still, when that
   * begins.
   */
  readonly when: (source: number) => number;
  /** The first frame at which a frame of the clip is reached or passed. */
  readonly reached: (source: FrameIndex) => FrameIndex;
  /** The frame of the clip nearest to what a frame shows. */
  readonly nearest: (frame: FrameIndex) => FrameIndex;
}

/** Decimals must not make a frame come late. */
const FORGIVEN = 1e-9;

/**
 * A stretch of the clip: from a place on, so long (frames of the clip), at a speed that goes from
 * one to another.
 */
interface Piece {
  readonly from: number;
  readonly length: number;
  readonly first: number;
  readonly last: number;
  /**
   * When it begins, and how long it lasts, in frames made; how long the clip stands still before.
   */
  readonly begins: number;
  readonly lasts: number;
  readonly hold: number;
}

/**
 * Frames of the clip passed at a share x of a piece's time: its speed runs along 3x² − 2x³ in time,
 * so that it has no corner at either end, and that has an antiderivative: no step sums, and no
 * error grows.
 */
const passed = ({ lasts, first, last }: Piece, x: number): number =>
  lasts * (first * x + (last - first) * x * x * x * (1 - x / 2));

function pieces({ places }: Retime, frames: number, rate: Rate): Piece[] {
  const made: Piece[] = [];
  let begins = 0;
  const add = (from: number, to: number, first: number, last: number, hold: number): void => {
    const length = to - from;
    // The mean of a speed that changes so is the mean of its ends.
    const piece = {
      from,
      length,
      first,
      last,
      begins: begins + hold,
      lasts: (2 * length) / (first + last),
      hold,
    };
    made.push(piece);
    begins = piece.begins + piece.lasts;
  };
  const speed = (p: RetimePlace): number => p.speed / 100;
  const head = places[0]!;
  if (head.frame > 0) add(0, head.frame, speed(head), speed(head), 0);
  places.forEach((p, i) => {
    const next = places[i + 1];
    const hold = (p.hold ?? 0) * framesPerSecond(rate);
    add(
      p.frame,
      next ? next.frame : Math.max(p.frame, frames),
      speed(p),
      next && p.to === 'smooth' ? speed(next) : speed(p),
      hold,
    );
  });
  return made;
}

/** Where a piece stands once so much time of it has passed. */
const within = (piece: Piece, time: number): number =>
  piece.from +
  (piece.lasts === 0 ? 0 : Math.min(piece.length, passed(piece, Math.min(1, time / piece.lasts))));

/** When a piece has passed so many frames of the clip. */
function timeWithin(piece: Piece, frames: number): number {
  if (piece.length === 0) return 0;
  if (piece.first === piece.last) return frames / piece.first;
  let [low, high] = [0, 1];
  for (let i = 0; i < 52; i++) {
    const middle = (low + high) / 2;
    if (passed(piece, middle) <= frames) low = middle;
    else high = middle;
  }
  return low * piece.lasts;
}

/** Whether it leaves a clip as it is. */
export const isIdleRetime = (r: Retime | null | undefined): boolean =>
  !r || (!r.backwards && r.places.every((p) => p.speed === 100 && !p.hold));

/** Where a map's source begins and ends, and whether it falls as time goes on. */
interface Source {
  readonly first: FrameIndex;
  readonly last: FrameIndex;
  readonly backwards: boolean;
}

/** A map from the curve of its time and that curve's inverse. */
function mapOf(
  frames: number,
  { first, last, backwards }: Source,
  curve: Pick<RetimeMap, 'exactly' | 'when'>,
): RetimeMap {
  const at = (frame: FrameIndex): number =>
    Math.max(first, Math.min(last, Math.round(curve.exactly(frame) * MOMENTS) / MOMENTS));
  return {
    ...curve,
    frames,
    at,
    nearest: (frame) => Math.min(last, snapped(at(frame))),
    reached: (source) => {
      const reaches = (frame: FrameIndex): boolean =>
        backwards ? at(frame) <= source : at(frame) >= source;
      let frame = Math.max(0, Math.min(frames - 1, Math.ceil(curve.when(source) - FORGIVEN)));
      // By what is shown: a moment within half a 256th is that frame's own.
      while (frame > 0 && reaches(frame - 1)) frame--;
      return frame;
    },
  };
}

/**
 * A stretch of footage of so many frames as it was shot, both ends included; outside it lie the
 * footage's spare frames.
 */
export const stretch = (first: FrameIndex, last: FrameIndex, footage: number): RetimeMap =>
  mapOf(
    last - first + 1,
    { first: 0, last: footage - 1, backwards: false },
    { exactly: (moment) => first + moment, when: (source) => source - first },
  );

/** A retime of a stretch of footage, whose first frame `map` counts as 0. */
export const stretchMap = (map: RetimeMap, source: Source): RetimeMap =>
  source.first === 0
    ? map
    : mapOf(map.frames, source, {
        exactly: (moment) => source.first + map.exactly(moment),
        when: (moment) => map.when(moment - source.first),
      });

/**
 * The map of a retime over a clip of so many frames. Places may lie outside the clip: what of their
 * ramps lies within counts.
 */
export function retimeMap(retime: Retime, frames: number, rate: Rate): RetimeMap {
  const all = pieces(retime, frames, rate),
    last = frames - 1;
  /** On the clock that begins with the first piece. */
  const clockAt = (source: number): number => {
    const piece = all.findLast((p) => p.from <= source) ?? all[0]!;
    // Before a place's hold: it is reached as the hold begins.
    if (source === piece.from) return piece.begins - piece.hold;
    return piece.begins + timeWithin(piece, Math.min(piece.length, source - piece.from));
  };
  const begins = all[0]!.from < 0 ? clockAt(0) : 0,
    end = all.at(-1)!;
  const ends = end.from > frames ? clockAt(frames) : end.begins + end.lasts;
  const length = Math.max(1, snapped(ends - begins));
  const forwards = (time: number): number => {
    const clock = begins + Math.max(0, Math.min(length - 1, time));
    const piece = all.findLast((p) => p.begins - p.hold <= clock) ?? all[0]!;
    return Math.max(0, Math.min(last, within(piece, Math.max(0, clock - piece.begins))));
  };
  const { backwards } = retime;
  return mapOf(
    length,
    { first: 0, last, backwards },
    {
      exactly: (moment) => (backwards ? last - forwards(moment) : forwards(moment)),
      when: (source) => clockAt(backwards ? last - source : source) - begins,
    },
  );
}

/**
 * One retime after another: `second` counts in the time that `first` makes of `source`. Rounded
 * once, at the end.
 */
export function composedMap(first: RetimeMap, second: RetimeMap, source: Source): RetimeMap {
  return mapOf(second.frames, source, {
    exactly: (moment) => first.exactly(second.exactly(moment)),
    when: (moment) => second.when(first.when(moment)),
  });
}
