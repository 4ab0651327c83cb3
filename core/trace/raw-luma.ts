/** Luma of decoded frames, at the size for motion measurement. */
import { type RawFrame, topCode } from '../image';
import { halved, type Luma } from './luma';

/** Number of halvings: half the footage's size up to 1080 lines, a quarter above. */
const halvings = (width: number, height: number): number =>
  Math.min(width, height) <= 1080 ? 1 : 2;

/**
 * A frame's luma from its samples (0…255 from black to white of the code), at the size for motion
 * measurement.
 */
export function lumaOf(raw: RawFrame): Luma {
  let luma = fullLuma(raw);
  for (let i = 0; i < halvings(raw.format.width, raw.format.height); i++) luma = halved(luma);
  return luma;
}
/** A frame's luma from its samples, at the footage's size. */
export function fullLuma({ format, planes }: RawFrame): Luma {
  const { width, height, depth, layout, full } = format;
  // Video range from black to white, continued beyond.
  const [black, scale] =
    full || layout !== 'yuv'
      ? [0, 255 / topCode(format)]
      : [16 * 2 ** (depth - 8), 255 / (219 * 2 ** (depth - 8))];
  const [a, b, c] = planes;
  const data = new Float32Array(width * height);
  if (layout === 'yuv') for (let i = 0; i < data.length; i++) data[i] = (a![i]! - black) * scale;
  // Red, green and blue codes weighted by BT.709; only moving brightness matters.
  else
    for (let i = 0; i < data.length; i++)
      data[i] = (a![i]! * 0.2126 + (b ?? a)![i]! * 0.7152 + (c ?? a)![i]! * 0.0722) * scale;
  return { width, height, data };
}
