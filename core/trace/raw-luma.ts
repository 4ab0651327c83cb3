/** The luma of decoded frames, at the size that their motion is measured at. */
import type { RawFrame } from '../image';
import { halved, type Luma } from './luma';

/** Halvings before it is looked at: half the footage's size up to 1080 lines, a quarter above. */
const halvings = (width: number, height: number): number =>
  Math.min(width, height) <= 1080 ? 1 : 2;

/**
 * A frame's luma as its samples say it (0…255 from black to white of the code), at the size its
 * motion is measured.
 */
export function lumaOf({ format, planes }: RawFrame): Luma {
  const { width, height, depth, layout, full } = format;
  // Video range from black to white; what lies beyond goes on beyond.
  const [black, scale] =
    full || layout !== 'yuv'
      ? [0, 255 / (2 ** depth - 1)]
      : [16 * 2 ** (depth - 8), 255 / (219 * 2 ** (depth - 8))];
  const [a, b, c] = planes;
  const data = new Float32Array(width * height);
  if (layout === 'yuv') for (let i = 0; i < data.length; i++) data[i] = (a![i]! - black) * scale;
  // Coded red, green and blue by BT.709: only brightness that moves is looked at.
  else
    for (let i = 0; i < data.length; i++)
      data[i] = (a![i]! * 0.2126 + (b ?? a)![i]! * 0.7152 + (c ?? a)![i]! * 0.0722) * scale;
  let luma: Luma = { width, height, data };
  for (let i = 0; i < halvings(width, height); i++) luma = halved(luma);
  return luma;
}
