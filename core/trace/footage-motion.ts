/** Motion of footage, measured between decoded frames. */
import type { RawFrame } from '../image';
import { type Pair, paired } from './between';
import { halved } from './luma';
import { lumaOf } from './raw-luma';
import { motionBetween, type Tracked, tracked } from './motion';
import { speedOf } from './speed';

/** Version of the method. Results of another version are measured again. */
export const MOTION_METHOD = 'motion-2';

/** A decoded frame prepared for motion measurement. */
export const trackedFrame = (raw: RawFrame): Tracked => tracked(lumaOf(raw));

/** Most lines at which the speed of a whole clip is measured. */
const QUICK_LINES = 150;
/**
 * Speed of the motion from one frame to the next (see `speedOf`), measured at a small size; takes
 * some hundredths of a second.
 */
export function speedBetween(first: RawFrame, second: RawFrame): number {
  const [a, b] = [first, second].map((raw) => {
    let luma = lumaOf(raw);
    while (Math.min(luma.width, luma.height) > QUICK_LINES) luma = halved(luma);
    return tracked(luma);
  }) as [Tracked, Tracked];
  return speedOf(motionOfFrames(a, b));
}

/** Motion between two adjacent frames, in both directions. */
export const motionOfFrames = (first: Tracked, second: Tracked): Pair =>
  paired(first, second, motionBetween(first, second), motionBetween(second, first));
