/** The motion of footage: what is measured of two decoded frames, at which size. */
import type { RawFrame } from '../image';
import { type Pair, paired } from './between';
import { halved, type Luma } from './luma';
import { motionBetween, type Tracked, tracked } from './motion';
import { speedOf } from './speed';

/** Changes with the method: what was measured by another is measured again. */
export const MOTION_METHOD = 'motion-2';

/** Halvings before it is looked at: half the footage's size up to 1080 lines, a quarter above. */
const halvings = (width: number, height: number): number => (Math.min(width, height) <= 1080 ? 1 : 2);

/** A frame's luma as its samples say it (0…255 from black to white of the code), at the size its motion is measured. */
export function lumaOf({ format, planes }: RawFrame): Luma {
  const { width, height, depth, layout, full } = format;
  // Video range from black to white; what lies beyond goes on beyond.
  const [black, scale] = full || layout !== 'yuv' ? [0, 255 / (2 ** depth - 1)] : [16 * 2 ** (depth - 8), 255 / (219 * 2 ** (depth - 8))];
  const [a, b, c] = planes;
  const data = new Float32Array(width * height);
  if (layout === 'yuv') for (let i = 0; i < data.length; i++) data[i] = (a![i]! - black) * scale;
  // Coded red, green and blue by BT.709: only brightness that moves is looked at.
  else for (let i = 0; i < data.length; i++) data[i] = (a![i]! * 0.2126 + (b ?? a)![i]! * 0.7152 + (c ?? a)![i]! * 0.0722) * scale;
  let luma: Luma = { width, height, data };
  for (let i = 0; i < halvings(width, height); i++) luma = halved(luma);
  return luma;
}

export const trackedFrame = (raw: RawFrame): Tracked => tracked(lumaOf(raw));

/** The speed of a whole clip is told at no more than so many lines. */
const QUICK_LINES = 150;
/** How far what moves goes from one frame to the next (see `speedOf`), measured at a small size: some hundredths of a second. */
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
