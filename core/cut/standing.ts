/** Clips as they stand in a cut: with what a place says instead of what is decided about the clip. */
import { type ClipFacts, inOutOf, isRetimed, lengthOf } from '../clip';
import { type ShownDecisions, shownOf } from '../decisions';
import { type LookDocument, underLook } from '../look';
import type { FrameIndex, Rate } from '../time';
import type { Place } from './document';
import { framesFor, latestAt } from './times';

/** A clip as a cut needs it: what is decided about it, the facts of its footage, and its look. */
export interface CutClip extends ShownDecisions {
  readonly id: string;
  readonly name: string;
  /** Content hash of the footage. */
  readonly hash: string;
  readonly rate: Rate;
  /** Number of frames of the footage. */
  readonly frames: number;
  readonly cuts: readonly FrameIndex[];
  /** With its trims; null for none. */
  readonly look: LookDocument | null;
}

/** A clip at its place. */
export interface Standing<C extends CutClip = CutClip> {
  /** The clip with what the place says instead, its in and out among it. */
  readonly clip: C;
  /** Number of frames of that clip, under its look. */
  readonly frames: number;
  /** Project frames at the place's end for which footage is missing; the last frame is held. */
  readonly lacks: number;
  /** The frame of that clip that the place shows at one of its project frames. */
  readonly frameAt: (frame: FrameIndex) => FrameIndex;
}

const lasting = (clip: CutClip, first: FrameIndex, out: FrameIndex): number =>
  lengthOf(underLook({ ...clip, inOut: { in: first, out } }, clip.look));

/** The first frame of the footage at which as many frames of the clip are there as are shown. */
function outFor(clip: CutClip, first: FrameIndex, wanted: number): FrameIndex {
  const last = clip.frames - 1;
  const isPlain = !isRetimed(clip) && !clip.look?.retime;
  if (isPlain) return Math.min(last, first + wanted - 1);
  if (lasting(clip, first, last) <= wanted) return last;
  let [low, high] = [first, last];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (lasting(clip, first, middle) >= wanted) high = middle;
    else low = middle + 1;
  }
  return low;
}

const known = new WeakMap<Place, WeakMap<CutClip, { readonly rate: Rate; standing: Standing }>>();

/**
 * A clip at a place of a cut at a project's rate. The slot stays: where a look or a speed slows the
 * clip down, less of the footage is shown.
 */
export function standing<C extends CutClip>(place: Place, clip: C, rate: Rate): Standing<C> {
  const found = known.get(place)?.get(clip);
  if (found && found.rate[0] === rate[0] && found.rate[1] === rate[1])
    return found.standing as Standing<C>;
  const { in: from, retime, fit, reframe, chance, counts } = place;
  const said: C = {
    ...clip,
    ...(retime !== undefined && { retime }),
    ...(fit && { fit }),
    ...(reframe && { reframe }),
    ...((chance !== undefined || counts !== undefined) && {
      chance: { number: chance ?? clip.chance.number, from: counts ?? clip.chance.from },
    }),
  };
  const wanted = framesFor(place.frames, rate, clip.rate),
    first = Math.min(from, clip.frames - 1);
  const shown: C = { ...said, inOut: { in: first, out: outFor(said, first, wanted) } };
  const frames = lengthOf(underLook(shown, shown.look));
  const at = (frame: FrameIndex): FrameIndex => latestAt(frame, rate, clip.rate);
  let lacks = 0;
  while (lacks < place.frames && at(place.frames - 1 - lacks) >= frames) lacks++;
  const made: Standing<C> = {
    clip: shown,
    frames,
    lacks,
    frameAt: (frame) => Math.max(0, Math.min(frames - 1, at(frame))),
  };
  if (!known.has(place)) known.set(place, new WeakMap());
  known.get(place)!.set(clip, { rate, standing: made });
  return made;
}

/** The facts of a clip at its place that its pictures depend on, but for those of its files. */
export const standingFacts = (
  { clip }: Standing,
  projectRate: Rate,
): Pick<ClipFacts, 'content' | 'rate' | 'frames' | 'cuts' | 'projectRate'> & ShownDecisions => ({
  ...shownOf(clip),
  content: clip.hash,
  rate: clip.rate,
  frames: clip.frames,
  cuts: clip.cuts,
  projectRate,
});

/** Frames of the footage before and after what a place shows. */
export function spareOf(
  place: Place,
  clip: CutClip,
  rate: Rate,
): { before: number; after: number } {
  const { in: first, out } = inOutOf(standing(place, clip, rate).clip);
  return { before: first, after: clip.frames - 1 - out };
}
