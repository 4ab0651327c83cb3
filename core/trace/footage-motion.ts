/** The motion of footage: what is measured of two decoded frames, at which size. */
import type { RawFrame } from '../image';
import { type Pair, paired } from './between';
import { halved } from './luma';
import { lumaOf } from './raw-luma';
import { motionBetween, type Tracked, tracked } from './motion';
import { speedOf } from './speed';

/** Changes with the method: what was measured by another is measured again. */
export const MOTION_METHOD = 'motion-2';

export const trackedFrame = (raw: RawFrame): Tracked => tracked(lumaOf(raw));

/** The speed of a whole clip is told at no more than so many lines. */
const QUICK_LINES = 150;
/**
 * How far what moves goes from one frame to the next (see `speedOf`), measured at a small size:
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

/** The motion from one frame to the next, both ways. */
export const motionOfFrames = (first: Tracked, second: Tracked): Pair =>
  paired(first, second, motionBetween(first, second), motionBetween(second, first));
