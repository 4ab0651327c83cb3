import { hash, iadd, imul, ixor, luma, mix, type Node, smoothstep, toInt, unit, type Pixel } from '../../kernel';
import { num, number, pixels, type PixelStep } from '../declare';

/** Smooth noise on a lattice: four uniform numbers a point, so nearly Gaussian, of variance 1 at the points. */
function lattice(x: Node, y: Node, seed: Node): Node {
  const fx = x.floor(), fy = y.floor(), u = smoothstep(0, 1, x.sub(fx)), v = smoothstep(0, 1, y.sub(fy));
  const ix = toInt(fx), iy = toInt(fy);
  const at = (dx: number, dy: number): Node => {
    const h = hash(ixor(seed, imul(iadd(ix, dx), 0x27d4eb2f)), iadd(iy, dy)), k = hash(h, 0x51ed27);
    // The two halves of two hashes: sum of four uniforms has variance 1/3 about 2.
    const part = (n: Node) => unit(n).add(unit(imul(n, 0x9e3779b1 | 0)));
    return part(h).add(part(k)).sub(2).mul(1.7320508);
  };
  return mix(mix(at(0, 0), at(1, 0), u), mix(at(0, 1), at(1, 1), u), v);
}

export const grain: PixelStep = {
  id: 'grain', family: 'film', label: 'Grain', help: 'Film grain: strongest in the mid tones, renewed with every frame, the same in every render.', domain: 'encoded',
  parameters: [number('amount', 'Amount', '%', 0, 100, 0, { soft: [0, 50] }), number('size', 'Size', 'lines', 1, 24, 3.5, { soft: [1, 10] }), number('colour', 'Colour', '%', 0, 100, 35)],
  // What falls below two pixels fades to its mean, which is nothing.
  numbers: (v, at) => {
    const size = Math.max(num(v, 'size'), 1e-3), px = pixels(size, at);
    return [(num(v, 'amount') / 100) * 0.22 * Math.min(1, Math.max(0, px - 1)), 1 / size, num(v, 'colour') / 100];
  },
  pixel: (c, t) => {
    const seed = hash(t.seed, t.frame);
    // Two sizes of grain, turned against the lattice so that no rows show.
    const at = (k: number): [Node, Node] => { const s = t.n(1).mul(k); return [t.x.mul(0.83).sub(t.y.mul(0.55)).mul(s).add(500), t.x.mul(0.55).add(t.y.mul(0.83)).mul(s).add(500)]; };
    const noise = (n: number) => lattice(...at(1), hash(seed, n)).mul(0.8).add(lattice(...at(0.53), hash(seed, n + 8)).mul(0.5));
    const shared = noise(0);
    const y = luma(c).clamp(0, 1);
    const reach = y.mul(y.neg().add(1)).mul(3.4).add(0.15).mul(t.n(0));
    return (c as Pixel).map((x, i) => x.add(mix(shared, noise(i + 1), t.n(2)).mul(reach)));
  },
};
