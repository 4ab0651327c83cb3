/**
 * Where a layer's picture lies in the look frame: position, size, turn or four corners, and what
 * lies beyond its edges.
 */
import { stencil, imageOp, type ImageNode } from '../graph';
import { halve, inDomain } from '../image';
import {
  column,
  cosTurnsd,
  fetch,
  float,
  int,
  type Node,
  row,
  sample,
  select,
  sinTurnsd,
  toFloat,
} from '../kernel';
import { choice, flag, number, point, type Point, type ValuesOf } from '../parameters';
import { inLines } from '../steps';

const OWN_CORNERS = [
  ['upper-left', 'Upper left', [0, 0]],
  ['upper-right', 'Upper right', [1, 0]],
  ['lower-right', 'Lower right', [1, 1]],
  ['lower-left', 'Lower left', [0, 1]],
] as const;

/** The parameters of a layer's placement. */
export const PLACEMENT = [
  point('position', 'Position'),
  number('scale-x', 'Width', '%', -2000, 2000, 100, { soft: [0, 200] }),
  number('scale-y', 'Height', '%', -2000, 2000, 100, { soft: [0, 200] }),
  number('turn', 'Turn', '°', -3600, 3600, 0, { soft: [-180, 180] }),
  point('turns-about', 'Turns about'),
  choice(
    'edge',
    'Beyond its edge',
    { clear: 'clear', clamp: 'clamp', repeat: 'repeat', mirror: 'mirrored repeat' },
    'clear',
  ),
  flag('cover', 'Cover', false, {
    help: 'Enlarges it as far as needed so that no edge is uncovered.',
  }),
  number('shutter', 'Shutter', '°', 0, 720, 0, {
    soft: [0, 360],
    help: 'How long what moves smears: at 360° from one frame to the next, at 0 not at all.',
  }),
  number('copies', 'Copies', '', 1, 40, 1, {
    soft: [1, 12],
    help: 'As often it lies there, each behind the one before.',
  }),
  number('copy-across', 'Each across', 'lines', -4000, 4000, 0, {
    soft: [-200, 200],
    help: 'How far each copy lies beside the one before.',
  }),
  number('copy-down', 'Each down', 'lines', -4000, 4000, 0, { soft: [-200, 200] }),
  number('copy-delay', 'Each later', 'frames', 0, 250, 0, {
    soft: [0, 25],
    help: 'So much later each copy goes where movers lead the one before.',
  }),
  number('copy-fade', 'Each fainter', '%', 0, 100, 0, { help: 'Of what the one before has.' }),
  flag('by-corners', 'By corners', false, {
    help: 'Four corners instead of position, size and turn.',
  }),
  ...OWN_CORNERS.map(([id, label, at]) => point(id, label, at)),
] as const;
/** A layer's placement. */
export type PlacementValues = ValuesOf<typeof PLACEMENT>;

/**
 * The placement of copy number `k`, moved on from that of the layer. `w` and `h`: size of the frame
 * in pixels.
 */
export function copyPlaced(v: PlacementValues, k: number, w: number, h: number): PlacementValues {
  const [dx, dy] = [(v['copy-across'] * k * h) / (1080 * w), (v['copy-down'] * k) / 1080];
  const moved = (id: 'position' | (typeof OWN_CORNERS)[number][0]): readonly [string, Point] => {
    const [x, y] = v[id];
    return [id, [x + dx, y + dy]];
  };
  return dx === 0 && dy === 0
    ? v
    : {
        ...v,
        ...Object.fromEntries((['position', ...OWN_CORNERS.map(([id]) => id)] as const).map(moved)),
      };
}

/**
 * From a place in the frame to a place in the picture, both in pixels from the upper left corner,
 * as a 3×3 matrix in rows.
 */
type Matrix = readonly [number, number, number, number, number, number, number, number, number];

const MOST = 1e4;
const away = (v: number): number => (Math.abs(v) < 1e-4 ? (v < 0 ? -1e-4 : 1e-4) : v);

/** By position, size and turn. The anchor is the place in the picture that lies at the position. */
function affine(v: PlacementValues, w: number, h: number): Matrix {
  const size = { width: w, height: h };
  const [px, py] = inLines(v.position, size),
    [ax, ay] = inLines(v['turns-about'], size);
  const turn = v.turn / 360;
  const [c, s] = [cosTurnsd(turn), sinTurnsd(turn)];
  let [kx, ky] = [away(v['scale-x'] / 100), away(v['scale-y'] / 100)];
  const [halfW, halfH] = [(540 * w) / h, 540];
  if (v.cover) {
    // The frame's corners, in the picture's own axes about its anchor, must lie inside the picture.
    let more = 1;
    for (const x of [-halfW, halfW])
      for (const y of [-halfH, halfH]) {
        const u = ((x - px) * c + (y - py) * s) / kx,
          t = ((y - py) * c - (x - px) * s) / ky;
        const room = (d: number, a: number, half: number) =>
          d === 0 ? 1 : Math.abs(d) / Math.max(Math.abs((d > 0 ? half : -half) - a), 1e-3);
        more = Math.max(more, room(u, ax, halfW), room(t, ay, halfH));
      }
    more = Math.min(more * (1 + 1 / h), 100);
    kx *= more;
    ky *= more;
  }
  // Units: lines from the middle of the frame to pixels from its corner, and back.
  const lines = 1080 / h;
  const [m0, m1, m3, m4] = [c / kx, s / kx, -s / ky, c / ky];
  const start = (a: number, mx: number, my: number, half: number) =>
    (a + half) / lines - (mx * (px + halfW) + my * (py + halfH)) / lines;
  return [m0, m1, start(ax, m0, m1, halfW), m3, m4, start(ay, m3, m4, halfH), 0, 0, 1];
}

/**
 * Maps the unit square onto a quadrilateral (Heckbert, 1989), inverted: from the frame into the
 * picture. Null where the quadrilateral is degenerate.
 */
function byCorners(v: PlacementValues, w: number, h: number): Matrix | null {
  const [a, b, c, d] = OWN_CORNERS.map(([id]) => {
    const [x, y] = v[id] as Point;
    return [x * w, y * h] as const;
  }) as [Point, Point, Point, Point];
  const dx1 = b[0] - c[0],
    dy1 = b[1] - c[1],
    dx2 = d[0] - c[0],
    dy2 = d[1] - c[1];
  const sx = a[0] - b[0] + c[0] - d[0],
    sy = a[1] - b[1] + c[1] - d[1];
  const area = dx1 * dy2 - dx2 * dy1;
  if (Math.abs(area) < 1e-9) return null;
  const g = (sx * dy2 - dx2 * sy) / area,
    k = (dx1 * sy - sx * dy1) / area;
  const m = [
    b[0] - a[0] + g * b[0],
    d[0] - a[0] + k * d[0],
    a[0],
    b[1] - a[1] + g * b[1],
    d[1] - a[1] + k * d[1],
    a[1],
    g,
    k,
    1,
  ] as const;
  const back = inverse(m);
  return (
    back &&
    ([
      back[0] * w,
      back[1] * w,
      back[2] * w,
      back[3] * h,
      back[4] * h,
      back[5] * h,
      back[6],
      back[7],
      back[8],
    ] as const)
  );
}
function inverse(m: Matrix): Matrix | null {
  const [a, b, c, d, e, f, g, h, i] = m;
  const A = e * i - f * h,
    B = f * g - d * i,
    C = d * h - e * g;
  const det = a * A + b * B + c * C;
  if (Math.abs(det) < 1e-12) return null;
  return [
    A / det,
    (c * h - b * i) / det,
    (b * f - c * e) / det,
    B / det,
    (a * i - c * g) / det,
    (c * d - a * f) / det,
    C / det,
    (b * g - a * h) / det,
    (a * e - b * d) / det,
  ];
}

const matrixOf = (v: PlacementValues, w: number, h: number): Matrix | null =>
  v['by-corners'] ? byCorners(v, w, h) : affine(v, w, h);

/**
 * The largest distance that the corners and the middle of a picture move between two placements, in
 * pixels of a frame of `w` × `h`.
 */
export function wayBetween(a: PlacementValues, b: PlacementValues, w: number, h: number): number {
  const [from, to] = [a, b].map((v) => {
    const matrix = matrixOf(v, w, h);
    return matrix && inverse(matrix);
  });
  if (!from || !to) return 0;
  const at = (m: Matrix, x: number, y: number): Point => {
    const d = m[6] * x + m[7] * y + m[8];
    return [(m[0] * x + m[1] * y + m[2]) / d, (m[3] * x + m[4] * y + m[5]) / d];
  };
  const places: Point[] = [
    [0, 0],
    [w, 0],
    [w, h],
    [0, h],
    [w / 2, h / 2],
  ];
  return Math.max(
    ...places.map(([x, y]) => {
      const [p, q] = [at(from, x, y), at(to, x, y)];
      const [dx, dy] = [p[0] - q[0], p[1] - q[1]];
      return Math.sqrt(dx * dx + dy * dy);
    }),
  );
}

const still = (m: Matrix): boolean =>
  [1, 0, 0, 0, 1, 0, 0, 0, 1].every((x, i) => Math.abs(m[i]! - x) < 1e-6);

/**
 * A picture of the frame's size, placed in the frame. Sampling is bilinear in light; minification
 * halves first. Edges towards transparency are one pixel wide. `measured` is a place that only the
 * picture tells (one pixel: shares across and down); everything moves by its distance from the
 * middle.
 */
export function place(picture: ImageNode, v: PlacementValues, measured?: ImageNode): ImageNode {
  const follows = v['by-corners'] ? undefined : measured;
  const { width: w, height: h } = picture;
  const matrix = matrixOf(v, w, h);
  if (!matrix)
    return imageOp({
      shape: 'clear',
      inputs: [],
      planes: 4,
      domain: 'light',
      width: w,
      height: h,
      build: () => [0, 0, 0, 0].map((x) => float(x)),
    });
  if (still(matrix) && !follows) return picture;
  let from = inDomain(picture, 'light');
  // Number of picture pixels under one frame pixel, at the frame's middle. Above two the picture is
  // halved first.
  const middle = matrix[6] * (w / 2) + matrix[7] * (h / 2) + matrix[8];
  const density =
    Math.sqrt(Math.abs(matrix[0] * matrix[4] - matrix[1] * matrix[3])) /
    Math.max(1e-6, Math.abs(middle));
  let halvings = 0;
  while (density / 2 ** halvings > 2.01 && Math.min(from.width, from.height) > 8) {
    from = halve(from);
    halvings++;
  }
  const k = 2 ** -halvings;
  const edge = v.edge;
  const planes = edge === 'clear' || v['by-corners'] ? 4 : from.planes;
  return imageOp({
    shape: `place-${edge}-${from.planes}-${planes}${follows ? '-follows' : ''}`,
    inputs: [stencil(from), ...(follows ? [stencil(follows)] : [])],
    planes,
    domain: 'light',
    width: w,
    height: h,
    params: [...matrix.slice(0, 6).map((x) => x * k), ...matrix.slice(6)],
    ints: [from.width, from.height, w, h],
    build: (b) => {
      const off = (i: number): Node | number =>
        follows
          ? fetch(b.image(1), i, int(0), int(0))
              .sub(0.5)
              .mul(toFloat(b.int(2 + i)))
          : 0;
      const x = toFloat(column()).add(0.5).sub(off(0)),
        y = toFloat(row()).add(0.5).sub(off(1));
      const along = (i: number): Node =>
        x
          .mul(b.param(i))
          .add(y.mul(b.param(i + 1)))
          .add(b.param(i + 2));
      const depth = along(6);
      // Beyond the horizon of a steep quadrilateral there is nothing.
      const front = depth.le(1e-6).not();
      const per = float(1).div(depth.max(1e-6));
      const at = (i: number): Node => along(i).mul(per).sub(0.5).clamp(-MOST, MOST);
      const [sx, sy] = [at(0), at(3)];
      const found = Array.from({ length: from.planes }, (_, p) =>
        sample(b.image(0), p, sx, sy, b.int(0), b.int(1), edge),
      );
      if (planes === 3) return found;
      const inside = (s: Node, size: Node) => s.add(1).min(toFloat(size).sub(s)).clamp(0, 1);
      const whole =
        found[3] ?? (edge === 'clear' ? inside(sx, b.int(0)).mul(inside(sy, b.int(1))) : float(1));
      return [...found.slice(0, 3), whole].map((c) => select(front, c, 0));
    },
  });
}
