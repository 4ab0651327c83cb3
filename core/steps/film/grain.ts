import { hash, iadd, iand, imul, ishr, ixor, luma, mix, type Node, type Pixel, smoothstep, toFloat, toInt } from '../../kernel';
import { num, number, pixels, type PixelStep } from '../declare';

/** Four numbers of variance 1 about 0 from the four bytes of one hash: uniform, and nearly Gaussian once they are mixed. */
const bytes = (h: Node): Node[] =>
  [0, 8, 16, 24].map((shift) =>
    toFloat(iand(ishr(h, shift), 255))
      .mul(3.4641016 / 255)
      .sub(1.7320508),
  );

/** Smooth noise of four channels on a lattice of whole numbers. */
function lattice(x: Node, y: Node, seed: Node): Node[] {
  const fx = x.floor(),
    fy = y.floor(),
    u = smoothstep(0, 1, x.sub(fx)),
    v = smoothstep(0, 1, y.sub(fy));
  const ix = imul(toInt(fx), 0x27d4eb2f),
    iy = imul(toInt(fy), 0x165667b1);
  const corner = (dx: number, dy: number) => bytes(hash(ixor(ixor(iadd(ix, dx ? 0x27d4eb2f : 0), iadd(iy, dy ? 0x165667b1 : 0)), seed)));
  const [a, b, c, d] = [corner(0, 0), corner(1, 0), corner(0, 1), corner(1, 1)] as const;
  return a.map((_, i) => mix(mix(a[i]!, b[i]!, u), mix(c[i]!, d[i]!, u), v));
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
      return [t.x.mul(0.83).sub(t.y.mul(0.55)).mul(s).add(500), t.x.mul(0.55).add(t.y.mul(0.83)).mul(s).add(500)];
    };
    const [clumps] = lattice(...at(0.53), seed),
      noise = lattice(...at(1), hash(seed, 1)).map((n) => n.mul(1.25));
    const shared = noise[3]!.add(clumps!.mul(0.8));
    const y = luma(c).clamp(0, 1);
    const reach = y.mul(y.neg().add(1)).mul(3.4).add(0.15).mul(t.n(0));
    return (c as Pixel).map((x, i) => x.add(mix(shared, noise[i]!, t.n(2)).mul(reach)));
  },
};
