/** Smooth noise over three dimensions from integer hashes: the same on any machine. */
import { hash, iadd, mix, type Node, toInt, unit } from '../kernel';

/** Perlin's fade (2002), with continuous slope and curvature between cells. */
const fade = (t: Node): Node =>
  t
    .mul(t)
    .mul(t)
    .mul(t.mul(t.mul(6).sub(15)).add(10));

const slopeOf = (t: Node): Node => {
  const s = t.mul(t.sub(1));
  return s.mul(s).mul(30);
};

interface Cell {
  readonly slice: (dz: number, f: (at: (dx: number, dy: number) => Node) => Node) => Node;
  readonly u: Node;
  readonly v: Node;
  readonly w: Node;
  readonly parts: readonly [Node, Node];
}
function cellOf(x: Node, y: Node, z: Node, seed: Node): Cell {
  const [fx, fy, fz] = [x.floor(), y.floor(), z.floor()];
  const [ix, iy, iz] = [toInt(fx), toInt(fy), toInt(fz)];
  const at = (dx: number, dy: number, dz: number): Node =>
    unit(hash(iadd(ix, dx), iadd(iy, dy), iadd(iz, dz), seed))
      .mul(2)
      .sub(1);
  const parts = [x.sub(fx), y.sub(fy)] as const;
  return {
    slice: (dz, f) => f((dx, dy) => at(dx, dy, dz)),
    u: fade(parts[0]),
    v: fade(parts[1]),
    w: fade(z.sub(fz)),
    parts,
  };
}

/** Value noise in −1…1, one cell per unit in each direction. */
export function smoothNoise(x: Node, y: Node, z: Node, seed: Node): Node {
  const { slice, u, v, w } = cellOf(x, y, z, seed);
  const plane = (at: (dx: number, dy: number) => Node): Node =>
    mix(mix(at(0, 0), at(1, 0), u), mix(at(0, 1), at(1, 1), u), v);
  return mix(slice(0, plane), slice(1, plane), w);
}

/** The slopes of that noise along x and along y. */
export function noiseSlope(x: Node, y: Node, z: Node, seed: Node): readonly [Node, Node] {
  const { slice, u, v, w, parts } = cellOf(x, y, z, seed);
  const alongX = (at: (dx: number, dy: number) => Node): Node =>
    mix(at(1, 0).sub(at(0, 0)), at(1, 1).sub(at(0, 1)), v);
  const alongY = (at: (dx: number, dy: number) => Node): Node =>
    mix(at(0, 1).sub(at(0, 0)), at(1, 1).sub(at(1, 0)), u);
  return [
    mix(slice(0, alongX), slice(1, alongX), w).mul(slopeOf(parts[0])),
    mix(slice(0, alongY), slice(1, alongY), w).mul(slopeOf(parts[1])),
  ];
}
