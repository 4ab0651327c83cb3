/**
 * Retiming: a clip at another speed, along a curve over its own time. Gives the new length, and the
 * moment of the clip that each new frame shows.
 */
import { type FrameIndex, MOMENTS, type Seconds, snapped } from './clip-time';
import { framesPerSecond, type Rate } from './rate';

/** How speed changes from one place to the next. */
export const RETIME_WAYS = ['smooth', 'at-once'] as const;
/** One of `RETIME_WAYS`. */
export type RetimeWay = (typeof RETIME_WAYS)[number];
/** How frames that the clip does not have are made. */
export const BETWEEN = ['nearest', 'mix', 'motion'] as const;
/** One of `BETWEEN`. */
export type Between = (typeof BETWEEN)[number];
/** The ways as text. */
export const BETWEEN_WORDS: Readonly<Record<Between, string>> = {
  nearest: 'the nearest frame',
  mix: 'a mix of both',
  motion: 'made from motion',
};

/** Range of speeds, per cent. */
export const SLOWEST = 2,
  FASTEST = 1600;
/** Longest hold, seconds. */
export const LONGEST_HOLD = 60;
/** Most places of a retime. */
export const MOST_PLACES = 100;

/** A place of the clip, in its own frames. */
export interface RetimePlace {
  readonly frame: FrameIndex;
  /** Per cent of the clip's own speed. */
  readonly speed: number;
  /** How speed changes towards the next place. */
  readonly to: RetimeWay;
  /** Seconds of standing still at the place. */
  readonly hold?: Seconds;
}
/** A retime. */
export interface Retime {
  /**
   * One or more, in the order of their frames. Before the first its speed holds, after the last the
   * last one's.
   */
  readonly places: readonly RetimePlace[];
  /** Plays from the last frame to the first. */
  readonly backwards: boolean;
  readonly between: Between;
}

/** Maps frames of the retimed clip to moments of the clip. */
export interface RetimeMap {
  /** Number of frames of the retimed clip. */
  readonly frames: number;
  /**
   * The clip's moment at a frame, in its own frames: an integer number of 256ths, within the clip.
   */
  readonly at: (frame: FrameIndex) => number;
  /** The same without rounding, at any moment. */
  readonly exactly: (moment: number) => number;
  /**
   * The clip's time at a time of the retimed clip, both in frames and running on to the end of the
   * last one, as sound does: backwards it begins at that end.
   */
  readonly continuous: (time: number) => number;
  /** The inverse of `exactly`; during a hold, its start. */
  readonly when: (source: number) => number;
  /** The first frame at which a frame of the clip is reached or passed. */
  readonly reached: (source: FrameIndex) => FrameIndex;
  /** The clip's frame nearest to what a frame shows. */
  readonly nearest: (frame: FrameIndex) => FrameIndex;
}

/** Tolerance for rounding errors, so that no frame comes late. */
const FORGIVEN = 1e-9;

/**
 * A piece of the curve: from a place of the clip, a length in frames of the clip, with a speed
 * changing from one value to another.
 */
interface Piece {
  readonly from: number;
  readonly length: number;
  readonly first: number;
  readonly last: number;
  /** Start and duration in retimed frames, and the hold before it. */
  readonly begins: number;
  readonly lasts: number;
  readonly hold: number;
}

/**
 * Frames of the clip passed at a share x of a piece's time. Speed follows 3x² − 2x³ in time,
 * without corners at the ends. Its antiderivative is exact, so no error accumulates.
 */
const passed = ({ lasts, first, last }: Piece, x: number): number =>
  lasts * (first * x + (last - first) * x * x * x * (1 - x / 2));

function pieces({ places }: Retime, frames: number, rate: Rate): Piece[] {
  const made: Piece[] = [];
  let begins = 0;
  const add = (from: number, to: number, first: number, last: number, hold: number): void => {
    const length = to - from;
    // The mean of such a speed is the mean of its ends.
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

/** The clip's moment after a time in a piece. */
const within = (piece: Piece, time: number): number =>
  piece.from +
  (piece.lasts === 0 ? 0 : Math.min(piece.length, passed(piece, Math.min(1, time / piece.lasts))));

/** The time after which a piece has passed a number of frames of the clip. */
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

/** Whether a retime changes nothing. */
export const isIdleRetime = (r: Retime | null | undefined): boolean =>
  !r || (!r.backwards && r.places.every((p) => p.speed === 100 && !p.hold));

/** First and last frame of a map's source, and whether it runs backwards. */
interface Source {
  readonly first: FrameIndex;
  readonly last: FrameIndex;
  readonly backwards: boolean;
}

/** A map from a curve of time and its inverse. */
function mapOf(
  frames: number,
  { first, last, backwards }: Source,
  curve: Pick<RetimeMap, 'exactly' | 'continuous' | 'when'>,
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
      // Compared after rounding: within half of 1/256 a moment is the frame itself.
      while (frame > 0 && reaches(frame - 1)) frame--;
      return frame;
    },
  };
}

/**
 * The map of a stretch of footage at its own speed, both ends included. Frames outside it are the
 * footage's spare frames.
 */
export const stretch = (first: FrameIndex, last: FrameIndex, footage: number): RetimeMap =>
  mapOf(
    last - first + 1,
    { first: 0, last: footage - 1, backwards: false },
    {
      exactly: (moment) => first + moment,
      continuous: (time) => first + time,
      when: (source) => source - first,
    },
  );

/** The map of a retimed stretch of footage; `map` counts the stretch's first frame as 0. */
export const stretchMap = (map: RetimeMap, source: Source): RetimeMap =>
  source.first === 0
    ? map
    : mapOf(map.frames, source, {
        exactly: (moment) => source.first + map.exactly(moment),
        continuous: (time) => source.first + map.continuous(time),
        when: (moment) => map.when(moment - source.first),
      });

/**
 * The map of a retime over a clip of `frames` frames. Places may lie outside the clip; the parts of
 * their ramps inside count.
 */
export function retimeMap(retime: Retime, frames: number, rate: Rate): RetimeMap {
  const all = pieces(retime, frames, rate),
    last = frames - 1;
  /** The time on a clock that starts with the first piece. */
  const clockAt = (source: number): number => {
    const piece = all.findLast((p) => p.from <= source) ?? all[0]!;
    // The place is reached when its hold begins.
    if (source === piece.from) return piece.begins - piece.hold;
    return piece.begins + timeWithin(piece, Math.min(piece.length, source - piece.from));
  };
  const begins = all[0]!.from < 0 ? clockAt(0) : 0,
    end = all.at(-1)!;
  const ends = end.from > frames ? clockAt(frames) : end.begins + end.lasts;
  const length = Math.max(1, snapped(ends - begins));
  const running = (time: number): number => {
    const clock = begins + time;
    const piece = all.findLast((p) => p.begins - p.hold <= clock) ?? all[0]!;
    return Math.max(0, within(piece, Math.max(0, clock - piece.begins)));
  };
  const forwards = (time: number): number =>
    Math.min(last, running(Math.max(0, Math.min(length - 1, time))));
  const { backwards } = retime;
  return mapOf(
    length,
    { first: 0, last, backwards },
    {
      exactly: (moment) => (backwards ? last - forwards(moment) : forwards(moment)),
      continuous: (time) => (backwards ? frames - running(time) : running(time)),
      when: (source) => clockAt(backwards ? last - source : source) - begins,
    },
  );
}

/**
 * Two retimes in sequence: `second` counts in the time that `first` makes of `source`. Rounds once,
 * at the end.
 */
export function composedMap(first: RetimeMap, second: RetimeMap, source: Source): RetimeMap {
  return mapOf(second.frames, source, {
    exactly: (moment) => first.exactly(second.exactly(moment)),
    continuous: (time) => first.continuous(second.continuous(time)),
    when: (moment) => second.when(first.when(moment)),
  });
}
