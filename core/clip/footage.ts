/**
 * Clips as footage: the facts a clip's pictures depend on, its time, and which frame of other
 * footage goes with each of its frames.
 */
import type { Speeds, WholeAssets } from '../assets';
import type { RawFrame } from '../image';
import {
  type Between,
  type Chance,
  type ClipTime,
  composedMap,
  type FrameIndex,
  frameAt,
  frameBeyond,
  isIdleRetime,
  type Rate,
  type Retime,
  type RetimeMap,
  retimeMap,
  startOf,
  stretch,
  stretchMap,
} from '../time';
import type { ClipPicture } from './bedrock';
import type { WholeClip } from './description';
import type { ClipPins, FootagePin } from './pins';

/** The facts of a clip that its pictures under a look depend on. */
export interface ClipFacts extends ClipPicture {
  /** The footage's content hash. */
  readonly content: string;
  readonly rate: Rate;
  /** Number of frames of the footage. `lengthOf` gives the number of frames of the clip. */
  readonly frames: number;
  /** The part of the footage that is the clip. Default: all of it. */
  readonly inOut?: InOut | null | undefined;
  /**
   * Frames of the footage at which another shot begins. Motion and trails never reach across them.
   */
  readonly cuts?: readonly FrameIndex[] | undefined;
  readonly retime?: Retime | null | undefined;
  /**
   * Retime that the clip's look adds, counted in the clip's own frames after its own retime. See
   * `underLook`.
   */
  readonly lookRetime?: Retime | null | undefined;
  /** What was found in the whole footage, if the look asks for it. */
  readonly found?: WholeAssets | undefined;
  /** Rate of the project, for times counted in its frames. Default: the clip's own rate. */
  readonly projectRate?: Rate | undefined;
  readonly whole?: WholeClip | null | undefined;
  readonly chance?: Chance | undefined;
}
/** The first and the last frame of the footage that a clip shows, both included. */
export interface InOut {
  readonly in: FrameIndex;
  readonly out: FrameIndex;
}
/** Lines a frame that stand in for a speed that was not measured. */
const UNMEASURED_SPEED = 20;

/** A frame of other footage with its description; null after that footage has ended. */
export interface OtherFrame {
  readonly raw: RawFrame;
  readonly clip: ClipPicture;
}
/**
 * Frames of other footage by the key of the pin that names them; null where a footage has ended.
 */
export type PinFootage = Readonly<Record<string, OtherFrame | null>>;

/** The clip that other footage accompanies: its length, rate and pins. */
export interface HostClip {
  readonly rate: Rate;
  readonly frames: number;
  readonly pins: ClipPins;
}
/** The facts that a clip's length depends on. */
export type Lasting = Pick<ClipFacts, 'frames' | 'rate' | 'inOut' | 'retime' | 'lookRetime'>;

/** A clip's two retimes as maps: its own (footage between in and out) and then the look's. */
interface Maps {
  readonly own: RetimeMap | undefined;
  readonly byLook: RetimeMap | undefined;
  readonly both: RetimeMap | undefined;
}
const NONE: Maps = { own: undefined, byLook: undefined, both: undefined };
const known = new WeakMap<
  object,
  { readonly of: string; readonly with: readonly unknown[]; readonly maps: Maps }
>();

function mapsOf({ frames, rate, inOut, retime, lookRetime }: Lasting): Maps {
  const mine = isIdleRetime(retime) ? undefined : retime!,
    looks = isIdleRetime(lookRetime) ? undefined : lookRetime!,
    part = inOut ?? undefined;
  const key = looks ?? mine ?? part;
  if (!key) return NONE;
  const of = `${frames} ${rate.join('/')}`,
    last = known.get(key);
  if (last?.of === of && last.with[0] === mine && last.with[1] === part) return last.maps;
  const { in: first, out } = part ?? { in: 0, out: frames - 1 };
  const source = (backwards: boolean) => ({ first, last: out, backwards });
  const own = mine
    ? stretchMap(retimeMap(placedFrom(mine, first), out - first + 1, rate), source(mine.backwards))
    : part && stretch(first, out, frames);
  const byLook = looks && retimeMap(looks, own?.frames ?? frames, rate);
  const both =
    own && byLook
      ? composedMap(own, byLook, source((mine?.backwards ?? false) !== looks.backwards))
      : (byLook ?? own);
  const maps = { own, byLook, both };
  known.set(key, { of, with: [mine, part], maps });
  return maps;
}
/**
 * A retime whose frames count from the first of the footage, rewritten to count from the in point.
 */
const placedFrom = (retime: Retime, first: FrameIndex): Retime =>
  first === 0
    ? retime
    : { ...retime, places: retime.places.map((p) => ({ ...p, frame: p.frame - first })) };

/** Whether the clip shows frames at other moments than they were shot. */
export const isRetimed = ({
  retime,
  lookRetime,
}: Pick<Lasting, 'retime' | 'lookRetime'>): boolean =>
  !isIdleRetime(retime) || !isIdleRetime(lookRetime);
/** The map that a clip's sound runs along; undefined where it runs as it was recorded. */
export const soundMapOf = (clip: Lasting): RetimeMap | undefined =>
  isRetimed(clip) ? retimeOf(clip) : undefined;
/** In and out points of the clip, in frames of the footage. */
export const inOutOf = ({ inOut, frames }: Pick<Lasting, 'inOut' | 'frames'>): InOut =>
  inOut ?? { in: 0, out: frames - 1 };
/**
 * Map from a frame of the clip to a moment of the footage; undefined when frames map to themselves.
 */
export const retimeOf = (clip: Lasting): RetimeMap | undefined => mapsOf(clip).both;
/**
 * How moments between two frames are made: by the look's retime if there is one, else by the
 * clip's.
 */
export const betweenOf = ({
  retime,
  lookRetime,
}: Pick<Lasting, 'retime' | 'lookRetime'>): Between =>
  (isIdleRetime(lookRetime) ? retime : lookRetime)?.between ?? 'nearest';
/** Number of frames of the clip. */
export const lengthOf = (clip: Lasting): number => retimeOf(clip)?.frames ?? clip.frames;
/**
 * The moment of the footage that a frame of the clip shows, in frames of the footage (may be
 * fractional).
 */
export const momentAt = (clip: Lasting, frame: number): number =>
  retimeOf(clip)?.at(frame) ?? frame;
/** The frame of the footage nearest to what a frame of the clip shows. */
export const footageAt = (clip: Lasting, frame: number): number =>
  /** The first frame of the clip at which a frame of the footage is reached or passed. */
  retimeOf(clip)?.nearest(frame) ?? frame;
/** The first frame of the clip that shows a given frame of the footage, or one after it. */
export const reachedAt = (clip: Lasting, footage: number): number =>
  retimeOf(clip)?.reached(footage) ?? footage;

/**
 * Distance travelled by what moves, from the clip's first frame to each frame, in hundredths of a
 * line; decreases while the clip runs backwards. Integers, so that the distance between two frames
 * does not depend on which earlier frames are measured.
 */
function wayOf(clip: Lasting, speeds: Speeds): (frame: number) => number {
  const sums = new Float64Array(clip.frames);
  for (let i = 1; i < sums.length; i++)
    sums[i] = sums[i - 1]! + Math.round(100 * (speeds[i - 1] ?? UNMEASURED_SPEED));
  return (frame) => {
    const moment = Math.max(0, Math.min(clip.frames - 1, momentAt(clip, frame))),
      whole = Math.floor(moment);
    const from = sums[whole]!;
    return from + ((sums[whole + 1] ?? from) - from) * (moment - whole);
  };
}

/** Frames of the clip at which another shot begins, including those among its spare frames. */
function cutsShown(clip: Lasting, cuts: readonly FrameIndex[]): FrameIndex[] {
  const ends = inOutOf(clip);
  if (!isRetimed(clip)) return cuts.map((c) => c - ends.in);
  const falls = momentAt(clip, lengthOf(clip) - 1) < momentAt(clip, 0);
  return cuts
    .filter((c) => c > ends.in && c <= ends.out)
    .map((c) => reachedAt(clip, falls ? c - 1 : c))
    .sort((a, b) => a - b);
}

/** A clip's time as looks see it. Cues stay on their frames of the footage. */
export function timeOf(
  clip: Lasting &
    Pick<ClipFacts, 'projectRate' | 'found' | 'cuts' | 'chance'> & { readonly pins: ClipPins },
): ClipTime {
  const { byLook } = mapsOf(clip),
    ends = inOutOf(clip);
  const time: ClipTime = {
    frames: lengthOf(clip),
    rate: clip.rate,
    projectRate: clip.projectRate,
    cues: Object.fromEntries(
      Object.entries(clip.pins).map(([key, all]) => [
        key,
        all.flatMap((p) =>
          'frame' in p && p.frame >= ends.in && p.frame <= ends.out
            ? [reachedAt(clip, p.frame)]
            : [],
        ),
      ]),
    ),
    ...(clip.cuts && clip.cuts.length > 0 && { cuts: cutsShown(clip, clip.cuts) }),
    ...(clip.inOut &&
      !isRetimed(clip) && { spare: { before: ends.in, after: clip.frames - 1 - ends.out } }),
    ...(clip.found?.speeds && { way: wayOf(clip, clip.found.speeds) }),
    ...(clip.chance && { chance: clip.chance }),
  };
  if (!byLook) return time;
  const { reached, nearest } = byLook;
  return { ...time, shot: { time: timeOf({ ...clip, lookRetime: null }), reached, nearest } };
}
/** A clip's description as a pin uses it: the pin's own settings replace the clip's. */
export const asPinned = <T extends Omit<ClipPicture, 'pixelAspect'>>(
  clip: T,
  { balance, fit, reframe }: FootagePin,
): T => ({
  ...clip,
  ...(balance && { balance }),
  ...(fit && { fit, reframe: null }),
  ...(reframe && { reframe }),
});

/**
 * The frame of the host clip at which a pin's footage starts. A cue that is not set counts as the
 * middle.
 */
function countedFrom({ at }: FootagePin, { frames, pins }: HostClip): number {
  if (!at) return 0;
  if (at === 'end') return frames - 1;
  const cue = pins[at.cue]?.[0];
  return Math.min(frames - 1, cue && 'frame' in cue ? cue.frame : Math.floor(frames / 2));
}

/**
 * The frame of other footage that goes with a frame of the host clip, from the pin's start and
 * speed; null once that footage has ended.
 */
export function footageFrame(
  pin: FootagePin,
  frame: number,
  clip: HostClip,
  other: { readonly rate: Rate; readonly frames: number },
): number | null {
  const { start, speed, beyond = 'again' } = pin,
    { frames } = other;
  const at =
    start + frameAt(startOf(frame - countedFrom(pin, clip), clip.rate) * speed, other.rate);
  const shown = frameBeyond(at, frames, beyond);
  return shown < 0 || shown >= frames ? null : shown;
}
