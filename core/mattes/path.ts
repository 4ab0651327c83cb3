/** A drawn path: a closed outline of Bézier curves, filled exactly pixel by pixel, feathered inwards and outwards. */
import { Hasher } from '../plan/hash';
import type { Leaf } from '../plan/graph';
import { num, type Path, type PathNode, type PathParameter } from '../steps/declare';
import { inPixels, type MatteKind } from './declare';
import { feathered } from './distance';
import { FEATHERS } from './shapes';

/** Straight pieces a curve is cut into: at 1080 lines none strays a tenth of a pixel from a curve as wide as the frame. */
const PIECES = 24;

/** The outline as corners in shares of the frame, the curve from each node to the next cut into straight pieces. */
export function corners(path: Path): [number, number][] {
  return path.flatMap((a, i): [number, number][] => {
    const b = path[(i + 1) % path.length]!;
    if (isStraight(a, b)) return [[a[0], a[1]]];
    const p = [
      [a[0], a[1]],
      [a[0] + a[4], a[1] + a[5]],
      [b[0] + b[2], b[1] + b[3]],
      [b[0], b[1]],
    ] as const;
    return Array.from({ length: PIECES }, (_, k) => {
      const t = k / PIECES,
        s = 1 - t;
      const w = [s * s * s, 3 * s * s * t, 3 * s * t * t, t * t * t];
      return [0, 1].map((c) => w.reduce((sum, wk, j) => sum + wk * p[j]![c]!, 0)) as [number, number];
    });
  });
}
const isStraight = (a: PathNode, b: PathNode): boolean => a[4] === 0 && a[5] === 0 && b[2] === 0 && b[3] === 0;

/**
 * The share of each pixel that the outline encloses (non-zero winding: what is wound about twice is covered once).
 * Each edge adds its signed area to the pixels it crosses; summing along a row gives the winding.
 */
export function filled(outline: readonly (readonly [number, number])[], width: number, height: number): Float32Array {
  const sums = new Float32Array((width + 2) * height);
  const stride = width + 2;
  const edge = (x0: number, y0: number, x1: number, y1: number): void => {
    if (y0 === y1) return;
    const sign = y0 < y1 ? 1 : -1;
    if (sign < 0) [x0, y0, x1, y1] = [x1, y1, x0, y0];
    const slope = (x1 - x0) / (y1 - y0);
    const from = Math.max(0, y0),
      to = Math.min(height, y1);
    for (let y = Math.floor(from); y < to; y++) {
      const ya = Math.max(from, y),
        yb = Math.min(to, y + 1);
      if (yb <= ya) continue;
      band(y * stride, x0 + (ya - y0) * slope, x0 + (yb - y0) * slope, (yb - ya) * sign);
    }
  };
  /** Inside one row: what lies right of the piece from `xa` to `xb`, which is `tall` high, is covered. */
  const band = (row: number, xa: number, xb: number, tall: number): void => {
    const [l, r] = xa < xb ? [xa, xb] : [xb, xa];
    if (l >= width) return;
    if (l < 0) {
      const off = r <= 0 ? tall : (tall * -l) / (r - l);
      sums[row]! += off;
      if (r > 0) band(row, 0, r, tall - off);
      return;
    }
    if (r > width) return band(row, l, width, tall * ((width - l) / (r - l)));
    const first = Math.floor(l),
      last = Math.floor(r);
    if (first === last) {
      const cover = tall * (first + 1 - (l + r) / 2);
      sums[row + first]! += cover;
      sums[row + first + 1]! += tall - cover;
      return;
    }
    // The covered share of a pixel is the mean of how far right the piece has come within it.
    const per = tall / (r - l);
    let before = 0;
    for (let x = first; x <= last; x++) {
      const a = Math.max(l, x),
        b = Math.min(r, x + 1);
      const share = per * ((b - a) * (x + 1 - (a + b) / 2) + Math.max(0, Math.min(r, x) - l));
      sums[row + x]! += share - before;
      before = share;
    }
    sums[row + last + 1]! += tall - before;
  };
  for (let i = 0; i < outline.length; i++) {
    const [ax, ay] = outline[i]!,
      [bx, by] = outline[(i + 1) % outline.length]!;
    edge(ax * width, ay * height, bx * width, by * height);
  }
  const cover = new Float32Array(width * height);
  for (let y = 0; y < height; y++) {
    let sum = 0;
    for (let x = 0; x < width; x++) {
      sum += sums[y * stride + x]!;
      cover[y * width + x] = Math.min(1, Math.abs(sum));
    }
  }
  return cover;
}

function pathLeaf(path: Path, width: number, height: number): Leaf {
  const h = new Hasher().text('path');
  path.forEach((node) => node.forEach((v) => h.float(v)));
  let cover: Float32Array | undefined;
  return {
    kind: 'leaf',
    key: h.int(width).int(height).hex(),
    width,
    height,
    planes: 1,
    domain: 'none',
    load: (_, into) => {
      cover ??= filled(path.length < 3 ? [] : corners(path), width, height);
      for (let y = 0; y < height; y++) into(y).set(cover.subarray(y * width, (y + 1) * width));
    },
  };
}

const outline: PathParameter = { kind: 'path', id: 'path', label: 'Path', default: [] };

export const path: MatteKind = {
  id: 'path',
  label: 'Drawn path',
  help: 'An outline drawn on the picture.',
  parameters: [outline, ...FEATHERS],
  cover: (v, at) =>
    feathered(pathLeaf(v['path'] as Path, at.width, at.height), inPixels(num(v, 'feather-in'), at), inPixels(num(v, 'feather-out'), at)),
};
