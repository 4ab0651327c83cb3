/**
 * Pictures that show one thing about others: how two differ, and what of one is crushed, clipped or
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

/** How far two pictures of code values differ, channel by channel, made `gain` times as large. */
export const difference = (a: ImageNode, b: ImageNode, gain: number): ImageNode =>
  imageOp({
    shape: 'difference',
    inputs: [pointwise(a), pointwise(b)],
    planes: 3,
    domain: 'none',
    params: [gain],
    build: (at) => at.pixel(0).map((v, i) => v.sub(at.pixel(1)[i]!).abs().mul(at.param(0))),
  });

/** Hatching of eight pixels' period, two wide. */
const lines = (along: Node): Node => ilt(iand(along, 7), 2);
const GOLD = [0.79, 0.66, 0.42];

/**
 * Code values as a dim grey, hatched where all channels are at black or below (rising lines on
 * black), where any is at white or above (falling lines on white), and crossed where any is outside
 * 0…1 by more than a code of 8 bits.
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
 * How a matte is shown: the clip tinted where it covers, itself as grey, or the clip cut out on a
 * dim check.
 */
export const MATTE_VIEWS = { tint: 'as a tint', grey: 'as grey', cut: 'cut out' } as const;
export type MatteView = keyof typeof MATTE_VIEWS;

/** Squares of sixteen pixels, two greys. */
const check = (): Node => select(ilt(iand(ixor(column(), row()), 31), 16), 0.16, 0.21);

/** A matte over the code values of what it cuts. */
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
