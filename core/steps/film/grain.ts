import { hash, iadd, iand, imul, ishr, ixor, luma, mix, type Node, type Pixel, toFloat, wholeToInt } from '../../kernel';
import { num, number, pixels, type PixelStep } from '../declare';

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

export const grain: PixelStep = {
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
  // What falls below two pixels fades to its mean, which is nothing.
  numbers: (v, at) => {
    const size = Math.max(num(v, 'size'), 1e-3),
      px = pixels(size, at);
    return [(num(v, 'amount') / 100) * 0.22 * Math.min(1, Math.max(0, px - 1)), 1 / size, num(v, 'colour') / 100];
  },
  pixel: (c, t) => {
    const seed = hash(t.seed, t.frame);
    // Two sizes of grain, turned against the lattice so that no rows show.
    const at = (k: number): [Node, Node] => {
      const s = t.n(1).mul(k);
      return [t.x.mul(0.83).sub(t.y.mul(0.55)).mul(s).add(4096), t.x.mul(0.55).add(t.y.mul(0.83)).mul(s).add(4096)];
    };
    const [clumps] = lattice(...at(0.53), seed, [0]),
      noise = lattice(...at(1), hash(seed, 1), [0, 1, 2, 3]).map((n) => n.mul(1.25));
    const shared = noise[3]!.add(clumps!.mul(0.8));
    const y = luma(c).clamp(0, 1);
    const reach = y.mul(y.neg().add(1)).mul(3.4).add(0.15).mul(t.n(0));
    return (c as Pixel).map((x, i) => x.add(mix(shared, noise[i]!, t.n(2)).mul(reach)));
  },
};
