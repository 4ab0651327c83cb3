/**
 * Distance of each pixel from a matte's edge, up to a limit: dilation by a paraboloid, which is
 * separable and exact for a matte of 0 and 1 (Felzenszwalb and Huttenlocher, 2012). Large distances
 * are measured on a halved picture, so the cost does not grow with them.
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

/** Distance in pixels up to which neighbours are read one by one. */
const NEAR = 12;

const one = (x: Node): Node => x.neg().add(1);

/** The maximum along a line of neighbours, each minus the square of its distance. */
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
 * Distance in pixels from the covered area (or, `inside`, from the uncovered one); 0 there, at most
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

/** A matte grown by a number of pixels (shrunk if negative), with an edge one pixel wide. */
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

/** A matte whose edge falls smoothly from `inner` pixels inside to `outer` pixels outside. */
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
      // The centre of the last pixel is half a pixel away from the edge, on both sides.
      const signed = b.pixel(0)[0]!.sub(0.5).max(0).sub(b.pixel(1)[0]!.sub(0.5).max(0));
      const t = b.param(0).sub(signed).mul(b.param(1)).clamp(0, 1);
      return [one(t.mul(t).mul(float(3).sub(t.mul(2))))];
    },
  });
}
