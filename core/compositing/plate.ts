/**
 * Adapts a plate's ground to its blend mode: black where it is laid over, white where it darkens.
 */
import type { PlatePoints } from '../clip';
import { pointwise, imageOp, type ImageNode } from '../graph';
import { inDomain } from '../image';

/** The source tone that leaves the backdrop unchanged. */
export type Neutral = 'black' | 'white' | null;

/**
 * The plate with its black point moved to 0 (or its white point to 1) and clipped there, in the
 * encoded domain; unchanged where the mode has no neutral tone.
 */
export function grounded(
  plate: ImageNode,
  { black, white }: PlatePoints,
  neutral: Neutral,
): ImageNode {
  if (neutral === null || (neutral === 'black' ? black <= 0 : white >= 1)) return plate;
  const from = inDomain(plate, 'encoded');
  const least = 1 / 1024;
  return imageOp({
    shape: `grounded-${neutral}-${from.planes}`,
    inputs: [pointwise(from)],
    planes: from.planes,
    domain: 'encoded',
    params:
      neutral === 'black'
        ? [black, 1 / Math.max(least, 1 - black)]
        : [0, 1 / Math.max(least, white)],
    build: (b) => {
      const pixel = b.pixel(0),
        cover = pixel[3];
      // Colour is premultiplied by coverage, so the points are too.
      const colour = pixel.slice(0, 3).map((c) => {
        const at = c.sub(cover ? cover.mul(b.param(0)) : b.param(0)).mul(b.param(1));
        return neutral === 'black' ? at.max(0) : at.min(cover ?? 1);
      });
      return cover ? [...colour, cover] : colour;
    },
  });
}
