/**
 * Smears pictures along their motion. Where something fast passes over something slow, both must be
 * told apart beyond the outline: the fastest motion around a place directs its readings, and each
 * reading tells whether it reaches the place (after McGuire, Hennessy, Bukowski and Osman, *A
 * Reconstruction Filter for Plausible Motion Blur*, 2012).
 */
import { type Building, type ImageNode, imageOp, pointwise, stencil } from '../../graph';
import { column, float, type Node, row, sample, select, toFloat } from '../../kernel';

/** A smear. */
export interface Smear {
  /** Length in frames of motion. */
  readonly frames: number;
  /** Start as a share of the length: 0 from its place onwards, −1 up to its place. */
  readonly from: number;
  /** The result of the readings: the mean (an exposure) or the lightest (a band). */
  readonly how: 'mean' | 'lightest';
}

/** Number of readings along the way. */
const READINGS = 16;
/** Longest way, as a share of the picture's height. */
const LONGEST = 1 / 6;

type Vector = readonly [Node, Node];
const squared = ([x, y]: Vector): Node => x.mul(x).add(y.mul(y));
const faster = (a: Vector, b: Vector): Vector => {
  const wins = squared(a).lt(squared(b));
  return [select(wins, b[0], a[0]), select(wins, b[1], a[1])];
};
const vectors = (
  shape: string,
  from: ImageNode,
  build: (b: Building) => Vector,
  more: object = {},
): ImageNode =>
  imageOp({
    shape,
    inputs: [stencil(from)],
    planes: 2,
    domain: 'none',
    build: (b) => [...build(b)],
    ...more,
  });

/** Motion during the smear in pixels, limited to the longest. */
const moved = (onward: ImageNode, frames: number): ImageNode =>
  imageOp({
    shape: `smear-way-${onward.planes}`,
    inputs: [pointwise(onward)],
    planes: 2,
    domain: 'none',
    params: [frames, onward.height * LONGEST],
    build: (b) => {
      const [u, v] = b
        .pixel(0)
        .slice(0, 2)
        .map((x) => x.mul(b.param(0))) as [Node, Node];
      const length = squared([u, v]).sqrt();
      const held = b.param(1).div(length.max(b.param(1)));
      return [u.mul(held), v.mul(held)];
    },
  });

/** The fastest motion within `side` pixels of each place, on a picture smaller by that factor. */
function quickest(way: ImageNode): { readonly tiles: ImageNode; readonly side: number } {
  let tiles = way,
    side = 1;
  while (side < way.height * LONGEST * 0.5) {
    const from = tiles;
    const at = (b: Building, dx: number, dy: number): Vector =>
      [0, 1].map((p) => b.tap(0, p, dx, dy, { sx: 'double', sy: 'double' })) as unknown as Vector;
    tiles = vectors(
      'smear-quickest',
      from,
      (b) => faster(faster(at(b, 0, 0), at(b, 1, 0)), faster(at(b, 0, 1), at(b, 1, 1))),
      {
        width: Math.ceil(from.width / 2),
        height: Math.ceil(from.height / 2),
      },
    );
    side *= 2;
  }
  const about = vectors('smear-about', tiles, (b) => {
    let best: Vector | undefined;
    for (let dy = -1; dy <= 1; dy++)
      for (let dx = -1; dx <= 1; dx++) {
        const v = [0, 1].map((p) => b.tap(0, p, dx, dy)) as unknown as Vector;
        best = best ? faster(best, v) : v;
      }
    return best!;
  });
  return { tiles: about, side };
}

/**
 * `input` smeared along `onward` (pixels per frame: right, down), both of one size. Premultiplied
 * light.
 */
export function smeared(
  input: ImageNode,
  onward: ImageNode,
  { frames, from, how }: Smear,
): ImageNode {
  const way = moved(onward, frames);
  const { tiles, side } = quickest(way);
  const { width, height, planes, domain } = input;
  return imageOp({
    shape: `smear-${how}-${planes}`,
    inputs: [stencil(input), stencil(way), stencil(tiles)],
    planes,
    domain,
    wide: true,
    params: [from, 1 / side],
    ints: [width, height, tiles.width, tiles.height],
    build: (b) => {
      const [x, y] = [toFloat(column()), toFloat(row())];
      const start = b.param(0),
        end = start.add(1);
      const inTiles = (v: Node): Node => v.add(0.5).mul(b.param(1)).sub(0.5);
      const lead = [0, 1].map((p) =>
        sample(b.image(2), p, inTiles(x), inTiles(y), b.int(2), b.int(3)),
      ) as unknown as Vector;
      const leadLength = squared(lead).sqrt();
      const own = [0, 1].map((p) => b.tap(1, p, 0, 0)) as unknown as Vector;
      const centre = Array.from({ length: planes }, (_, p) => b.tap(0, p, 0, 0));
      /**
       * Whether something that moves by `v` reaches `d` pixels along the leading direction (softly,
       * within a pixel).
       */
      const comes = (v: Vector, d: Node): Node => {
        const along = v[0].mul(lead[0]).add(v[1].mul(lead[1])).div(leadLength.max(1e-6));
        const [a, z] = [along.mul(start), along.mul(end)];
        return d.sub(a.min(z)).add(0.5).clamp(0, 1).mul(a.max(z).sub(d).add(0.5).clamp(0, 1));
      };
      let sum: Node[] | undefined,
        total: Node = float(0);
      for (let i = 0; i < READINGS; i++) {
        const t = start.add((i + 0.5) / READINGS);
        const [px, py] = [x.sub(lead[0].mul(t)), y.sub(lead[1].mul(t))];
        const read = (image: 0 | 1, p: number): Node =>
          sample(b.image(image), p, px, py, b.int(0), b.int(1));
        const d = leadLength.mul(t);
        const there = comes([read(1, 0), read(1, 1)], d);
        const weight = how === 'mean' ? there.max(comes(own, d)) : there;
        const lit = centre.map((_, p) => read(0, p).mul(weight));
        total = total.add(weight);
        sum = sum ? sum.map((s, p) => (how === 'mean' ? s.add(lit[p]!) : s.max(lit[p]!))) : lit;
      }
      if (how === 'lightest') return centre.map((c, p) => c.max(sum![p]!));
      const rest = float(1).sub(total.mul(1 / READINGS));
      return centre.map((c, p) => sum![p]!.mul(1 / READINGS).add(c.mul(rest)));
    },
  });
}
