import { column, hash, iadd, iand, imul, ishr, ixor, luma, mix, type Node, row, toFloat, wholeToInt } from '../../kernel';
import { onColour } from '../../image/convert';
import { each, operation, type Picturing } from '../../plan/graph';
import { type BuiltStep, type Moment, num, number, pixels } from '../declare';

/** One round of multiply and xor-shift over numbers that large odd factors have spread already: enough for grain. */
function scatter(x: Node): Node {
  const h = imul(ixor(x, ishr(x, 15)), 0x2c1b3c6d);
  return ixor(h, ishr(h, 12));
}
const byteOf = (h: Node, i: number): Node => toFloat(i === 3 ? ishr(h, 24) : iand(i === 0 ? h : ishr(h, i * 8), 255));

/** Rises softly from 0 to 1 over 0…1. */
const fade = (t: Node): Node => t.mul(t).mul(t.mul(-2).add(3));

/**
 * Smooth noise of some of four channels on a lattice of whole numbers, of variance 1 about 0 at its points: the bytes of
 * one hash a point, uniform, and nearly Gaussian once they are mixed.
 */
function lattice(x: Node, y: Node, seed: Node, channels: readonly number[]): Node[] {
  const fx = x.floor(),
    fy = y.floor(),
    u = fade(x.sub(fx)),
    v = fade(y.sub(fy));
  const at = iadd(iadd(imul(wholeToInt(fx), 0x27d4eb2f), imul(wholeToInt(fy), 0x165667b1)), seed);
  const corners = [0, 0x27d4eb2f, 0x165667b1, (0x27d4eb2f + 0x165667b1) | 0].map((step) => scatter(iadd(at, step)));
  const uv = u.mul(v);
  const weights = [u.neg().add(1).sub(v).add(uv), u.sub(uv), v.sub(uv), uv];
  return channels.map((channel) =>
    corners
      .map((h, i) => byteOf(h, channel).mul(weights[i]!))
      .reduce((a, b) => a.add(b))
      .mul(3.4641016 / 255)
      .sub(1.7320508),
  );
}

/**
 * The grain of a frame in three channels, whatever the picture: it changes with neither the picture nor the amount, and
 * stays at hand while those are moved.
 */
function grainOf(size: number, coloured: number, at: Moment): Picturing {
  const lines = 1080 / at.height;
  return operation({
    shape: 'grain',
    inputs: [],
    planes: 3,
    domain: 'none',
    width: at.width,
    height: at.height,
    kept: true,
    params: [1 / size, coloured, lines, (0.5 - at.width / 2) * lines, (0.5 - at.height / 2) * lines],
    ints: [at.seed, at.frame],
    build: (b) => {
      const seed = hash(b.int(0), b.int(1));
      const x = toFloat(column()).mul(b.param(2)).add(b.param(3)),
        y = toFloat(row()).mul(b.param(2)).add(b.param(4));
      // Two sizes of grain, turned against the lattice so that no rows show.
      const turned = (k: number): [Node, Node] => {
        const s = b.param(0).mul(k);
        return [x.mul(0.83).sub(y.mul(0.55)).mul(s).add(4096), x.mul(0.55).add(y.mul(0.83)).mul(s).add(4096)];
      };
      const [clumps] = lattice(...turned(0.53), seed, [0]),
        noise = lattice(...turned(1), hash(seed, 1), [0, 1, 2, 3]).map((n) => n.mul(1.25));
      const shared = noise[3]!.add(clumps!.mul(0.8));
      return [0, 1, 2].map((i) => mix(shared, noise[i]!, b.param(1)));
    },
  });
}

export const grain: BuiltStep = {
  id: 'grain',
  family: 'film',
  label: 'Grain',
  help: 'Film grain: strongest in the mid tones, renewed with every frame, the same in every render.',
  domain: 'encoded',
  parameters: [
    number('amount', 'Amount', '%', 0, 100, 0, { soft: [0, 50] }),
    number('size', 'Size', 'lines', 1, 24, 3.5, { soft: [1, 10] }),
    number('colour', 'Colour', '%', 0, 100, 35),
  ],
  build: (input, v, at) => {
    const size = Math.max(num(v, 'size'), 1e-3);
    // What falls below two pixels fades to its mean, which is nothing.
    const amount = (num(v, 'amount') / 100) * 0.22 * Math.min(1, Math.max(0, pixels(size, at) - 1));
    if (amount === 0) return input;
    return operation({
      shape: `grained-${input.planes}`,
      inputs: [each(input), each(grainOf(size, num(v, 'colour') / 100, at))],
      planes: input.planes,
      domain: 'encoded',
      params: [amount],
      build: (b) =>
        onColour(b.pixel(0), (c) => {
          const y = luma(c).clamp(0, 1);
          const reach = y.mul(y.neg().add(1)).mul(3.4).add(0.15).mul(b.param(0));
          return c.map((x, i) => x.add(b.pixel(1)[i]!.mul(reach)));
        }),
    });
  },
};
