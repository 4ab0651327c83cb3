/**
 * Measures the centre of what a matte covers, for mattes whose parameters do not tell it (keys,
 * files, other layers).
 */
import { stencil, pointwise, imageOp, type ImageNode } from '../graph';
import { column, row, select, toFloat } from '../kernel';

/** Sums of 2 × 2 pixels; outside the picture is 0. */
function summed(from: ImageNode): ImageNode {
  const { planes } = from;
  return imageOp({
    shape: `summed-${planes}`,
    inputs: [stencil(from)],
    planes,
    domain: 'none',
    width: Math.ceil(from.width / 2),
    height: Math.ceil(from.height / 2),
    build: (b) =>
      Array.from({ length: planes }, (_, p) => {
        const at = (dx: number, dy: number) =>
          b.tap(0, p, dx, dy, { edge: 'clear', sx: 'double', sy: 'double' });
        return at(0, 0)
          .add(at(1, 0))
          .add(at(0, 1).add(at(1, 1)));
      }),
  });
}

/**
 * The centre of mass of a matte (one plane) as one pixel of two planes: shares across and down. The
 * middle of the frame if it covers nothing.
 */
export function centreOfCover(cover: ImageNode): ImageNode {
  let sums: ImageNode = imageOp({
    shape: 'moments',
    inputs: [pointwise(cover)],
    planes: 3,
    domain: 'none',
    params: [1 / cover.width, 1 / cover.height],
    build: (b) => {
      const m = b.pixel(0)[0]!;
      return [
        m,
        m.mul(toFloat(column()).add(0.5).mul(b.param(0))),
        m.mul(toFloat(row()).add(0.5).mul(b.param(1))),
      ];
    },
  });
  while (sums.width > 1 || sums.height > 1) sums = summed(sums);
  return imageOp({
    shape: 'centre',
    inputs: [pointwise(sums)],
    planes: 2,
    domain: 'none',
    build: (b) => {
      const [m, x, y] = b.pixel(0);
      // Less than one pixel in sum counts as nothing.
      const none = m!.lt(0.5);
      return [x!, y!].map((v) => select(none, 0.5, v.div(m!.max(0.5))));
    },
  });
}
