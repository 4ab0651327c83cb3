/**
 * Random numbers along a raster: one per row, and noise per sample, new with every frame and
 * generation.
 */
import { imageOp, type ImageNode } from '../../graph';
import {
  column,
  hash,
  iadd,
  iand,
  imul,
  ishr,
  ixor,
  type Node,
  row,
  toFloat,
  toInt,
  unit,
} from '../../kernel';
import { named } from '../../graph';
import type { FrameContext } from '../declare';

/** The seed of a step in a generation of copies. */
export const seedIn = (at: FrameContext, generation: number): number => named(at.seed, generation);

/** Uniform in −1 ≤ u < 1, from integers. */
export const eitherOf = (...parts: (Node | number)[]): Node =>
  unit(hash(...parts))
    .mul(2)
    .sub(1);

/** Smooth noise down the rows in −1…1: a new number every `rows` rows, smoothly interpolated. */
export function rowNoise(rows: Node, seed: Node, y: Node = toFloat(row())): Node {
  const at = y.div(rows),
    whole = at.floor(),
    t = at.sub(whole);
  const i = toInt(whole);
  const [a, b] = [eitherOf(seed, i), eitherOf(seed, iadd(i, 1))];
  const bent = t.mul(t).mul(t.mul(-2).add(3));
  return a.add(b.sub(a).mul(bent));
}

/** Share of numbers in −1…1, mixed at a place between two of them, that lie below `v`. */
function below(v: number, place: number): number {
  const [long, short] = [Math.max(place, 1 - place), Math.min(place, 1 - place)];
  // The sum of two uniform numbers, of half widths `long` and `short`: a trapezoid.
  const x = Math.max(-1, Math.min(1, v)),
    flat = long - short;
  if (short < 1e-9) return (x + 1) / 2;
  if (x < -flat) return ((x + 1) * (x + 1)) / (8 * long * short);
  if (x > flat) return 1 - ((1 - x) * (1 - x)) / (8 * long * short);
  return 0.5 + x / (2 * long);
}
/** The number that a share of `rowNoise` lies below: its quantile, by bisection. */
export function rowNoiseBelow(share: number): number {
  const places = Array.from({ length: 64 }, (_, i) => {
    const t = (i + 0.5) / 64;
    return t * t * (3 - 2 * t);
  });
  let [low, high] = [-1, 1];
  if (share <= 0) return -2;
  if (share >= 1) return 2;
  for (let i = 0; i < 40; i++) {
    const middle = (low + high) / 2;
    const found = places.reduce((s, p) => s + below(middle, p), 0) / places.length;
    if (found < share) low = middle;
    else high = middle;
  }
  return (low + high) / 2;
}

/** A second hash from a hash. */
const again = (h: Node, odd: number): Node => {
  const m = imul(ixor(h, ishr(h, 15)), odd);
  return ixor(m, ishr(m, 13));
};

/**
 * White noise on the raster: three planes of variance 1, nearly Gaussian (the sum of a hash's four
 * bytes).
 */
export function whiteNoise(raster: ImageNode, seed: number, frame: number): ImageNode {
  const bytes = (h: Node): Node =>
    [0, 8, 16, 24]
      .map((s) => toFloat(iand(s === 0 ? h : ishr(h, s), 255)))
      .reduce((a, b) => a.add(b))
      .sub(510)
      .mul(1 / 147.8017);
  return imageOp({
    shape: 'raster-white',
    inputs: [],
    planes: 3,
    domain: 'none',
    width: raster.width,
    height: raster.height,
    ints: [named(seed, frame)],
    build: (b) => {
      // Rows and columns are spread far apart before mixing.
      const first = hash(
        iadd(b.int(0), iadd(imul(row(), 0x27d4eb2f), imul(column(), 0x165667b1))),
        1,
      );
      return [bytes(first), bytes(again(first, 0x2c1b3c6d)), bytes(again(first, 0x297a2d39))];
    },
  });
}
