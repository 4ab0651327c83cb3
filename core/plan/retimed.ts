/** Frames of a retimed clip, made from the frames of its footage. */
import { FRAME_ASSETS, inBetween } from '../assets';
import { checkpoint, type ImageNode } from '../graph';
import type { Between, ClipTime, FrameIndex, RetimeMap } from '../time';
import type { ClipFrame } from './scene';

/** A retimed clip. */
export interface Retimed {
  readonly map: RetimeMap;
  readonly between: Between;
  /** Time of the retimed clip. */
  readonly time: ClipTime;
  /** Whether a pin's footage belongs to the picture and is retimed with it, as mattes are. */
  readonly follows: (pin: string) => boolean;
  /** Frames of the footage at which another shot begins; no frame is interpolated across them. */
  readonly cuts?: readonly FrameIndex[] | undefined;
}

/**
 * A frame of a retimed clip. `footage` returns frames of its footage, as frames of a clip of their
 * own. Undefined where there is none.
 */
export function retimedFrame(
  footage: (frame: FrameIndex) => ClipFrame | undefined,
  of: Retimed,
): (frame: FrameIndex) => ClipFrame | undefined {
  const made = new Map<FrameIndex, ClipFrame | undefined>();
  const at = (frame: FrameIndex): ClipFrame | undefined => {
    if (!made.has(frame)) made.set(frame, make(frame));
    return made.get(frame);
  };
  const { map, between, time, cuts } = of;

  const momentAt = (frame: FrameIndex): number =>
    between === 'nearest' ? map.nearest(frame) : map.at(frame);
  const held = (frame: FrameIndex): FrameIndex => Math.max(0, Math.min(map.frames - 1, frame));

  function make(frame: FrameIndex): ClipFrame | undefined {
    const moment = momentAt(frame);
    const whole = Math.floor(moment),
      share = moment - whole;
    const first = footage(whole);
    if (!first) return undefined;
    const part: ClipFrame['part'] = (asset) =>
      FRAME_ASSETS[asset].retimed((f) => footage(f)?.part?.(asset), map, frame);
    // Frames of the footage until a number of frames later; between two on the line from here.
    const way = map.at(held(frame + 1)) - map.at(frame);
    const passed = (n: number): number =>
      Number.isInteger(n) ? momentAt(held(frame + n)) - whole : share + n * way;
    const { followed } = first;
    const as = {
      ...{ frame, time, at, part },
      ...(followed && {
        places: followed.after(share).places,
        followed: { ...followed, after: (n: number) => followed.after(passed(n)) },
      }),
    };
    const second = share > 0 && !cuts?.includes(whole + 1) ? footage(whole + 1) : undefined;
    if (!second) return { ...first, ...as };
    const motion = between === 'motion' ? first.part?.('motion')?.between?.(share) : undefined;
    const mixed = (a: ImageNode, b: ImageNode, moved: ImageNode | undefined): ImageNode =>
      a.key === b.key ? a : inBetween(a, b, moved, share);
    return {
      ...first,
      ...as,
      bedrock: checkpoint(mixed(first.bedrock, second.bedrock, motion)),
      before: (how) =>
        mixed(first.before?.(how) ?? first.bedrock, second.before?.(how) ?? second.bedrock, motion),
      ...(first.footage && {
        footage: Object.fromEntries(
          Object.entries(first.footage).map(([pin, a]) => [
            pin,
            mixed(a, second.footage?.[pin] ?? a, of.follows(pin) ? motion : undefined),
          ]),
        ),
      }),
    };
  }
  return at;
}
