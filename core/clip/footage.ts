/** Clips as footage: what their pictures depend on, and which frame of other footage stands beside a clip's. */
import type { RawFrame } from '../image';
import { type ClipTime, frameAt, frameBeyond, isIdleRetime, type Rate, type Retime, type RetimeMap, retimeMap, startOf } from '../time';
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
  readonly retime?: Retime | null | undefined;
  /** The project's rate, in which times can be counted; the clip's own where nothing says. */
  readonly projectRate?: Rate | undefined;
  readonly whole?: WholeClip | null | undefined;
}
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
type Lasting = Pick<ClipFacts, 'frames' | 'rate' | 'retime'>;

const maps = new WeakMap<Retime, RetimeMap & { readonly of: string }>();
/** Which moment of the footage each frame of the clip shows; undefined where each is its own. */
export function retimeOf({ frames, rate, retime }: Lasting): RetimeMap | undefined {
  if (!retime || isIdleRetime(retime)) return undefined;
  const of = `${frames} ${rate.join('/')}`,
    known = maps.get(retime);
  if (known?.of === of) return known;
  const made = { ...retimeMap(retime, frames, rate), of };
  maps.set(retime, made);
  return made;
}
/** How many frames the clip has. */
export const lengthOf = (clip: Lasting): number => retimeOf(clip)?.frames ?? clip.frames;
/** The moment of the footage that a frame of the clip shows, in its frames. */
export const momentAt = (clip: Lasting, frame: number): number => retimeOf(clip)?.at(frame) ?? frame;
/** The frame of the footage that a frame of the clip shows, or lies nearest to; and the first of the clip that shows it. */
export const footageAt = (clip: Lasting, frame: number): number => retimeOf(clip)?.nearest(frame) ?? frame;
export const reachedAt = (clip: Lasting, footage: number): number => retimeOf(clip)?.reached(footage) ?? footage;

/** A clip's time as looks count in it. Cues stay on their frames of the footage. */
export const timeOf = (clip: Lasting & Pick<ClipFacts, 'projectRate'> & { readonly pins: ClipPins }): ClipTime => ({
  frames: lengthOf(clip),
  rate: clip.rate,
  projectRate: clip.projectRate,
  cues: Object.fromEntries(
    Object.entries(clip.pins).map(([key, all]) => [key, all.flatMap((p) => ('frame' in p ? [reachedAt(clip, p.frame)] : []))]),
  ),
});
/** How a pin's footage is read: as it is as a clip, but for what the pin says. */
export const asPinned = <T extends Omit<ClipPicture, 'pixelAspect'>>(clip: T, { balance, fit }: FootagePin): T => ({
  ...clip,
  ...(balance && { balance }),
  ...(fit && { fit, reframe: null }),
});

/** The frame of the clip from which a pin's footage counts. An unset cue is the middle. */
function countedFrom({ at }: FootagePin, { frames, pins }: HostClip): number {
  if (!at) return 0;
  if (at === 'end') return frames - 1;
  const cue = pins[at.cue]?.[0];
  return Math.min(frames - 1, cue && 'frame' in cue ? cue.frame : Math.floor(frames / 2));
}

/** Which frame of other footage stands beside a clip's frame: from the pin's start at its speed; none where it has ended. */
export function footageFrame(pin: FootagePin, frame: number, clip: HostClip, other: { readonly rate: Rate; readonly frames: number }): number | null {
  const { start, speed, beyond = 'again' } = pin,
    { frames } = other;
  const at = start + frameAt(startOf(frame - countedFrom(pin, clip), clip.rate) * speed, other.rate);
  const shown = frameBeyond(at, frames, beyond);
  return shown < 0 || shown >= frames ? null : shown;
}
