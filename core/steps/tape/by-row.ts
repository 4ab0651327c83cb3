/** Chance along a raster: a number for each row, and noise for each sample, new with every frame and generation. */
import { column, hash, iadd, iand, ishr, type Node, row, toFloat, toInt, unit } from '../../kernel';
import { operation, type Picturing } from '../../plan/graph';
import { named } from '../chance';
import type { Moment } from '../declare';

/** The seed of a step in a generation of copies. */
export const seedIn = (at: Moment, generation: number): number => named(at.seed, generation);

/** −1 ≤ u < 1 from whole numbers. */
export const eitherOf = (...parts: (Node | number)[]): Node =>
  unit(hash(...parts))
    .mul(2)
    .sub(1);

/** Smooth noise down the rows, −1…1: one new number every `rows` rows, bent from one to the next. */
export function rowNoise(rows: Node, seed: Node, y: Node = toFloat(row())): Node {
  const at = y.div(rows),
    whole = at.floor(),
    t = at.sub(whole);
  const i = toInt(whole);
  const [a, b] = [eitherOf(seed, i), eitherOf(seed, iadd(i, 1))];
  const bent = t.mul(t).mul(t.mul(-2).add(3));
  return a.add(b.sub(a).mul(bent));
}

/** White noise on the raster: three planes of variance 1, nearly Gaussian (the sum of a hash's four bytes). */
export function whiteNoise(raster: Picturing, seed: number, frame: number): Picturing {
  const bytes = (h: Node): Node =>
    [0, 8, 16, 24]
      .map((s) => toFloat(iand(s === 0 ? h : ishr(h, s), 255)))
      .reduce((a, b) => a.add(b))
      .sub(510)
      .mul(1 / 147.8017);
  return operation({
    shape: 'raster-white',
    inputs: [],
    planes: 3,
    domain: 'none',
    width: raster.width,
    height: raster.height,
    ints: [seed, frame],
    build: (b) => {
      const first = hash(b.int(0), b.int(1), row(), column());
      return [bytes(first), bytes(hash(first, 1)), bytes(hash(first, 2))];
    },
  });
}
