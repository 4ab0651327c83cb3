/**
 * Drawn paths: closed outlines of Bézier curves, filled with exact coverage, feathered inwards and
 * outwards.
 */
import { Hasher, type Leaf } from '../graph';
import { filled } from '../image';
import { CENTRE, type Path, type PathNode, type PathParameter, type Point } from '../parameters';
import { pixels } from '../steps';
import { matteKind } from './declare';
import { feathered } from './distance';
import { FEATHERS } from './shapes';

/**
 * Straight pieces per curve: at 1080 lines none deviates by a tenth of a pixel from a curve as wide
 * as the frame.
 */
const PIECES = 24;

/** Corners of the outline in shares of the frame, with each curve cut into straight pieces. */
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
      return [0, 1].map((c) => w.reduce((sum, wk, j) => sum + wk * p[j]![c]!, 0)) as [
        number,
        number,
      ];
    });
  });
}
const isStraight = (a: PathNode, b: PathNode): boolean =>
  a[4] === 0 && a[5] === 0 && b[2] === 0 && b[3] === 0;

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
      cover ??= filled(path.length < 3 ? [] : [corners(path)], width, height);
      for (let y = 0; y < height; y++) into(y).set(cover.subarray(y * width, (y + 1) * width));
    },
  };
}

const outline = {
  kind: 'path',
  id: 'path',
  label: 'Path',
  default: [],
} as const satisfies PathParameter;

/** Centroid of the outline's area. */
function centroid(path: Path): Point {
  let [area, x, y] = [0, 0, 0];
  const all = path.length < 3 ? [] : corners(path);
  all.forEach(([ax, ay], i) => {
    const [bx, by] = all[(i + 1) % all.length]!;
    const cross = ax * by - bx * ay;
    area += cross;
    x += (ax + bx) * cross;
    y += (ay + by) * cross;
  });
  return Math.abs(area) < 1e-9
    ? path[0]
      ? [path[0][0], path[0][1]]
      : CENTRE
    : [x / (3 * area), y / (3 * area)];
}

/** A closed outline, drawn by hand. */
export const path = matteKind({
  id: 'path',
  label: 'Drawn path',
  help: 'An outline drawn on the picture.',
  parameters: [outline, ...FEATHERS],
  outline: (v) => v.path.map(([x, y]): Point => [x, y]),
  centre: (v) => centroid(v.path),
  cover: (v, at) =>
    feathered(
      pathLeaf(v.path, at.width, at.height),
      pixels(v['feather-in'], at),
      pixels(v['feather-out'], at),
    ),
});
