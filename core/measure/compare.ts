/**
 * Pictures for comparison: how two pictures differ, and which parts of one are crushed, clipped or
 * outside.
 */
import { pointwise, imageOp, type ImageNode } from '../graph';
import {
  column,
  constant,
  iadd,
  iand,
  ilt,
  isub,
  ixor,
  luma,
  mix,
  type Node,
  type Pixel,
  row,
  select,
} from '../kernel';

/** Absolute difference of two pictures of code values per channel, multiplied by `gain`. */
export const difference = (a: ImageNode, b: ImageNode, gain: number): ImageNode =>
  imageOp({
    shape: 'difference',
    inputs: [pointwise(a), pointwise(b)],
    planes: 3,
    domain: 'none',
    params: [gain],
    build: (at) => at.pixel(0).map((v, i) => v.sub(at.pixel(1)[i]!).abs().mul(at.param(0))),
  });

/** Hatching with a period of eight pixels, lines two pixels wide. */
const lines = (along: Node): Node => ilt(iand(along, 7), 2);
const GOLD = [0.79, 0.66, 0.42];

/**
 * Code values as dim grey with hatching: rising lines on black where all channels are at black or
 * below, falling lines on white where any is at white or above, crossed lines where any is outside
 * 0…1 by more than an 8-bit code.
 */
export const marked = (codes: ImageNode): ImageNode =>
  imageOp({
    shape: 'marked',
    inputs: [pointwise(codes)],
    planes: 3,
    domain: 'none',
    build: (b) => {
      const [red, green, blue] = b.pixel(0) as [Node, Node, Node];
      const most = red.max(green).max(blue),
        least = red.min(green).min(blue);
      const rising = lines(iadd(column(), row())),
        falling = lines(isub(column(), row()));
      const grey = luma(b.pixel(0)).clamp(0, 1).mul(0.5).add(0.12);
      const outside = least.lt(-1 / 255).or(constant(1 + 1 / 255).lt(most));
      return [0, 1, 2].map((i): Pixel[number] => {
        const crushed = select(rising, 0.85, 0),
          clipped = select(falling, 0.1, 1),
          crossed = select(rising.or(falling), GOLD[i]!, 0.05);
        return select(
          outside,
          crossed,
          select(constant(1).le(most), clipped, select(most.le(0), crushed, grey)),
        );
      });
    },
  });

/**
 * Ways to show a matte: the clip tinted where it covers, the matte as grey, or the clip cut out
 * over a checkerboard.
 */
export const MATTE_VIEWS = { tint: 'as a tint', grey: 'as grey', cut: 'cut out' } as const;
/** One of `MATTE_VIEWS`. */
export type MatteView = keyof typeof MATTE_VIEWS;

/** A checkerboard of two greys, squares of sixteen pixels. */
const check = (): Node => select(ilt(iand(ixor(column(), row()), 31), 16), 0.16, 0.21);

/** A matte shown over the code values it applies to. */
export const matteShown = (codes: ImageNode, matte: ImageNode, how: MatteView): ImageNode =>
  imageOp({
    shape: `matte-shown-${how}`,
    inputs: [pointwise(codes), pointwise(matte)],
    planes: 3,
    domain: 'none',
    build: (b) => {
      const c = b.pixel(0),
        a = b.pixel(1)[0]!;
      if (how === 'grey') return [a, a, a];
      if (how === 'cut') return [0, 1, 2].map((i) => mix(check(), c[i]!, a));
      const grey = luma(c).mul(0.6).add(0.2);
      return [0, 1, 2].map((i) => mix(c[i]!, grey.mul(GOLD[i]! * 1.25), a.mul(0.8)));
    },
  });
