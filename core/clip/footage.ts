/**
 * Clips as footage: what their pictures depend on, and which frame of other footage stands beside a
 * clip's.
 */
import type { RawFrame } from '../image';
import {
  type Between,
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

/** What of a clip its pictures under a look depend on. */
export interface ClipFacts extends ClipPicture {
  /** The footage's content hash. */
  readonly content: string;
  readonly rate: Rate;
  /** How many frames the footage has; `lengthOf` tells how many the clip has. */
  readonly frames: number;
  /** The stretch of the footage that it is; none: all of it. */
  readonly inOut?: InOut | null | undefined;
  /**
   * Frames of the footage with which another shot begins; what follows motion or the past stays
   * within a shot.
   */
  readonly cuts?: readonly FrameIndex[] | undefined;
  readonly retime?: Retime | null | undefined;
  /**
   * What the look it wears makes of it then, in the clip's own frames as its own retime leaves
   * them; see `underLook`.
   */
  readonly lookRetime?: Retime | null | undefined;
  /**
   * How fast what moves in the footage moves from each frame to the next, in lines; null where it
   * is not measured. See `speedOf`.
   */
  readonly speeds?: Speeds | undefined;
  /** The project's rate, in which times can be counted; the clip's own where nothing says. */
  readonly projectRate?: Rate | undefined;
  readonly whole?: WholeClip | null | undefined;
}
/** Frames of the footage: the first and the last that a clip shows. */
export interface InOut {
  readonly in: FrameIndex;
  readonly out: FrameIndex;
}
export type Speeds = readonly (number | null)[];
/** What is not measured counts as so many lines a frame. */
const UNMEASURED_SPEED = 20;

/** A frame of other footage, and how it is to be read; none once it has ended. */
export interface OtherFrame {
  readonly raw: RawFrame;
  readonly clip: ClipPicture;
}
export type PinFootage = Readonly<Record<string, OtherFrame | null>>;

/** The clip beside which footage stands: how long it is, and its cues. */
export interface HostClip {
  readonly rate: Rate;
  readonly frames: number;
  readonly pins: ClipPins;
}
export type Lasting = Pick<ClipFacts, 'frames' | 'rate' | 'inOut' | 'retime' | 'lookRetime'>;

/**
 * A clip's two retimes as maps: its own of the footage between in and out, and the look's of what
 * that leaves.
 */
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
/** Places are frames of the footage: they stay on them whatever in and out are. */
const placedFrom = (retime: Retime, first: FrameIndex): Retime =>
  first === 0
    ? retime
    : { ...retime, places: retime.places.map((p) => ({ ...p, frame: p.frame - first })) };

/** Whether frames are shown at other moments than they were shot. */
export const isRetimed = ({
  retime,
  lookRetime,
}: Pick<Lasting, 'retime' | 'lookRetime'>): boolean =>
  !isIdleRetime(retime) || !isIdleRetime(lookRetime);
/** What of the footage the clip is. */
export const inOutOf = ({ inOut, frames }: Pick<Lasting, 'inOut' | 'frames'>): InOut =>
  inOut ?? { in: 0, out: frames - 1 };
/** Which moment of the footage each frame of the clip shows; undefined where each is its own. */
export const retimeOf = (clip: Lasting): RetimeMap | undefined => mapsOf(clip).both;
/**
 * What stands between its frames: as the look says where that retimes it, else as the clip does.
 */
export const betweenOf = ({
  retime,
  lookRetime,
}: Pick<Lasting, 'retime' | 'lookRetime'>): Between =>
  (isIdleRetime(lookRetime) ? retime : lookRetime)?.between ?? 'nearest';
/** How many frames the clip has. */
export const lengthOf = (clip: Lasting): number => retimeOf(clip)?.frames ?? clip.frames;
/** The moment of the footage that a frame of the clip shows, in its frames. */
export const momentAt = (clip: Lasting, frame: number): number =>
  retimeOf(clip)?.at(frame) ?? frame;
/**
 * The frame of the footage that a frame of the clip shows, or lies nearest to; and the first of the
 * clip that shows it.
 */
export const footageAt = (clip: Lasting, frame: number): number =>
  retimeOf(clip)?.nearest(frame) ?? frame;
export const reachedAt = (clip: Lasting, footage: number): number =>
  retimeOf(clip)?.reached(footage) ?? footage;

/**
 * How far what moves has come by each frame of the clip, from the footage's first on, in hundredths
 * of a line; backwards it falls. Summed in whole numbers: how far two frames lie apart does not
 * depend on what is known of those before them.
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

/** The frames of the clip with which another shot begins; among spare frames too. */
function cutsShown(clip: Lasting, cuts: readonly FrameIndex[]): FrameIndex[] {
  const ends = inOutOf(clip);
  if (!isRetimed(clip)) return cuts.map((c) => c - ends.in);
  const falls = momentAt(clip, lengthOf(clip) - 1) < momentAt(clip, 0);
  return cuts
    .filter((c) => c > ends.in && c <= ends.out)
    .map((c) => reachedAt(clip, falls ? c - 1 : c))
    .sort((a, b) => a - b);
}

/** A clip's time as looks count in it. Cues stay on their frames of the footage. */
export function timeOf(
  clip: Lasting & Pick<ClipFacts, 'projectRate' | 'speeds' | 'cuts'> & { readonly pins: ClipPins },
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
    ...(clip.speeds && { way: wayOf(clip, clip.speeds) }),
  };
  if (!byLook) return time;
  const { reached, nearest } = byLook;
  return { ...time, shot: { time: timeOf({ ...clip, lookRetime: null }), reached, nearest } };
}
/** How a pin's footage is read: as it is as a clip, but for what the pin says. */
export const asPinned = <T extends Omit<ClipPicture, 'pixelAspect'>>(
  clip: T,
  { balance, fit, reframe }: FootagePin,
): T => ({
  ...clip,
  ...(balance && { balance }),
  ...(fit && { fit, reframe: null }),
  ...(reframe && { reframe }),
});

/** The frame of the clip from which a pin's footage counts. An unset cue is the middle. */
function countedFrom({ at }: FootagePin, { frames, pins }: HostClip): number {
  if (!at) return 0;
  if (at === 'end') return frames - 1;
  const cue = pins[at.cue]?.[0];
  return Math.min(frames - 1, cue && 'frame' in cue ? cue.frame : Math.floor(frames / 2));
}

/**
 * Which frame of other footage stands beside a clip's frame: from the pin's start at its speed;
 * none where it has ended.
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
