/**
 * How far each pixel of a matte lies from its edge, within a reach: a dilation by a paraboloid,
 * which is separable and gives exact round distances for a matte that is 0 or 1 (Felzenszwalb and
 * Huttenlocher, 2012). Far reaches are measured on a halved picture, so that the cost does not grow
 * with them.
 */
import { stencil, pointwise, imageOp, type ImageNode } from '../graph';
import { enlarge, halve } from '../image';
import {
  column,
  fetch,
  float,
  iadd,
  imax,
  imin,
  isub,
  type Node,
  reduce,
  row,
  toFloat,
} from '../kernel';

/** Pixels up to which neighbours are looked at one by one. */
const NEAR = 12;

const one = (x: Node): Node => x.neg().add(1);

/** The largest of a line of neighbours, each lowered by the square of how far off it is. */
function pass(from: ImageNode, along: 'x' | 'y', reach: number, turned: boolean): ImageNode {
  return imageOp({
    shape: `distance-${along}-${turned ? 'in' : 'out'}`,
    inputs: [stencil(from)],
    planes: 1,
    domain: 'none',
    wide: true,
    params: [1 / (reach * reach)],
    ints: [Math.floor(reach), 2 * Math.floor(reach) + 1, from.width - 1, from.height - 1],
    build: (b) => {
      const [most] = reduce(b.int(1), [0], (turn, [sum]) => {
        const d = isub(turn, b.int(0));
        const at = (v: Node, last: Node) => imin(imax(iadd(v, d), 0), last);
        const found =
          along === 'x'
            ? fetch(b.image(0), 0, at(column(), b.int(2)), row())
            : fetch(b.image(0), 0, column(), at(row(), b.int(3)));
        const far = toFloat(d);
        return [sum!.max((turned ? one(found) : found).sub(far.mul(far).mul(b.param(0))))];
      });
      return [most!];
    },
  });
}

/**
 * Distance in pixels from what is covered (or, `inside`, from what is not), 0 there and at most
 * `reach`.
 */
export function distance(matte: ImageNode, reach: number, inside: boolean): ImageNode {
  let small = matte,
    scale = 1;
  const sizes: [number, number][] = [];
  while (reach / scale > NEAR && Math.min(small.width, small.height) >= 8) {
    sizes.push([small.width, small.height]);
    small = halve(small);
    scale *= 2;
  }
  const within = Math.max(1, reach / scale);
  const paraboloid = pass(pass(small, 'x', within, inside), 'y', within, false);
  let far: ImageNode = imageOp({
    shape: 'distance-root',
    inputs: [pointwise(paraboloid)],
    planes: 1,
    domain: 'none',
    params: [within * scale],
    build: (b) => [one(b.pixel(0)[0]!.clamp(0, 1)).sqrt().mul(b.param(0))],
  });
  for (const [w, h] of sizes.reverse()) far = enlarge(far, w, h);
  return far;
}

/** A matte grown by so many pixels all round (shrunk where negative), its edge one pixel wide. */
export function grown(matte: ImageNode, by: number): ImageNode {
  if (by === 0) return matte;
  const reach = Math.abs(by) + 1;
  const far = distance(matte, reach, by < 0);
  return imageOp({
    shape: `grown-${by < 0 ? 'less' : 'more'}`,
    inputs: [pointwise(far)],
    planes: 1,
    domain: 'none',
    params: [reach],
    build: (b) => {
      const cover = b.param(0).sub(b.pixel(0)[0]!).clamp(0, 1);
      return [by < 0 ? one(cover) : cover];
    },
  });
}

/** A matte whose edge falls smoothly from `inner` pixels inside it to `outer` pixels outside. */
export function feathered(matte: ImageNode, inner: number, outer: number): ImageNode {
  if (inner <= 0 && outer <= 0) return matte;
  const [i, o] = [Math.max(inner, 0.5), Math.max(outer, 0.5)];
  const [into, out] = [distance(matte, i + 1, true), distance(matte, o + 1, false)];
  return imageOp({
    shape: 'feathered',
    inputs: [pointwise(into), pointwise(out)],
    planes: 1,
    domain: 'none',
    params: [i, 1 / (i + o)],
    build: (b) => {
      // From the centre of the last pixel inside to the edge is half a pixel, from either side.
      const signed = b.pixel(0)[0]!.sub(0.5).max(0).sub(b.pixel(1)[0]!.sub(0.5).max(0));
      const t = b.param(0).sub(signed).mul(b.param(1)).clamp(0, 1);
      return [one(t.mul(t).mul(float(3).sub(t.mul(2))))];
    },
  });
}
