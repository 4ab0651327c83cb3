/** Halving, enlarging, Gaussian blur as a pyramid, and fitting one picture into another's frame. */
import { expd, flush, float, mix, type Node, sample, select, toFloat, column, row, type Pixel } from '../kernel';
import { around, type Building, operation, type Picturing } from '../plan/graph';

const planesOf = (n: number, f: (plane: number) => Node): Pixel => Array.from({ length: n }, (_, p) => f(p));

/** Half the size (rounded up) by [1 3 3 1]/8 each way, on a grid fixed at the top left: pixel k covers 2k−1 … 2k+2. */
export function halve(from: Picturing): Picturing {
  const across = operation({
    shape: `halve-x-${from.planes}`,
    inputs: [around(from)],
    planes: from.planes,
    domain: from.domain,
    width: Math.ceil(from.width / 2),
    height: from.height,
    build: (b) => planesOf(from.planes, (p) => quarter((d) => b.tap(0, p, d, 0, { sx: 'double' }))),
  });
  return operation({
    shape: `halve-y-${from.planes}`,
    inputs: [around(across)],
    planes: from.planes,
    domain: from.domain,
    width: across.width,
    height: Math.ceil(from.height / 2),
    build: (b) => planesOf(from.planes, (p) => flush(quarter((d) => b.tap(0, p, 0, d, { sy: 'double' })))),
  });
}
const quarter = (at: (d: number) => Node): Node =>
  at(-1)
    .add(at(2))
    .mul(0.125)
    .add(at(0).add(at(1)).mul(0.375));

/** Twice the size, ¾ of the nearest and ¼ of the next: the inverse geometry of `halve`. */
export function enlarge(from: Picturing, width: number, height: number): Picturing {
  const weigh = (nearest: Node, before: Node, after: Node, place: Node): Node => {
    const half = place.mul(0.5);
    return nearest.mul(0.75).add(select(half.floor().eq(half), before, after).mul(0.25));
  };
  const down = operation({
    shape: `enlarge-y-${from.planes}`,
    inputs: [around(from)],
    planes: from.planes,
    domain: from.domain,
    width: from.width,
    height,
    build: (b) =>
      planesOf(from.planes, (p) =>
        weigh(b.tap(0, p, 0, 0, { sy: 'half' }), b.tap(0, p, 0, -1, { sy: 'half' }), b.tap(0, p, 0, 1, { sy: 'half' }), toFloat(row())),
      ),
  });
  return operation({
    shape: `enlarge-x-${from.planes}`,
    inputs: [around(down)],
    planes: from.planes,
    domain: from.domain,
    width,
    height,
    build: (b) =>
      planesOf(from.planes, (p) =>
        weigh(b.tap(0, p, 0, 0, { sx: 'half' }), b.tap(0, p, -1, 0, { sx: 'half' }), b.tap(0, p, 1, 0, { sx: 'half' }), toFloat(column())),
      ),
  });
}

const REACH = [4, 8, 13] as const;

/** Weights of a sampled Gaussian, centre first, summing to 1 over both sides. */
function weights(sigma: number, reach: number): number[] {
  if (sigma <= 0) return [1, ...Array<number>(reach).fill(0)];
  const w = Array.from({ length: reach + 1 }, (_, i) => expd((-i * i) / (2 * sigma * sigma)));
  const sum = w[0]! + 2 * w.slice(1).reduce((a, b) => a + b, 0);
  return w.map((v) => v / sum);
}

function direct(from: Picturing, sigma: number): Picturing {
  const reach = REACH.find((r) => r >= 3 * sigma) ?? REACH[2];
  const params = weights(sigma, reach);
  const pass = (source: Picturing, along: 'x' | 'y') =>
    operation({
      shape: `gauss-${along}-${reach}-${from.planes}`,
      inputs: [around(source)],
      planes: from.planes,
      domain: from.domain,
      params,
      wide: true,
      build: (b: Building) =>
        planesOf(from.planes, (p) => {
          const at = (d: number) => (along === 'x' ? b.tap(0, p, d, 0) : b.tap(0, p, 0, d));
          let sum = at(0).mul(b.param(0));
          for (let i = 1; i <= reach; i++) sum = sum.add(at(-i).add(at(i)).mul(b.param(i)));
          return flush(sum);
        }),
    });
  return pass(pass(from, 'x'), 'y');
}

/**
 * Gaussian blur of `sigma` pixels, edges clamped: halved until two coarse pixels of it remain, blurred there, enlarged.
 * Each halving and each enlarging adds ¾ of its own pixel's square to the variance, which is taken off before.
 */
export function blur(from: Picturing, sigma: number): Picturing {
  if (sigma <= 0) return from;
  let levels = 0;
  const rest = (l: number) => (sigma * sigma - (1.5 * (4 ** l - 1)) / 3) / 4 ** l;
  while (rest(levels + 1) >= 4 && Math.min(from.width, from.height) / 2 ** (levels + 1) >= 2) levels++;
  const sizes: [number, number][] = [];
  let picture = from;
  for (let l = 0; l < levels; l++) {
    sizes.push([picture.width, picture.height]);
    picture = halve(picture);
  }
  picture = direct(picture, Math.sqrt(rest(levels)));
  for (const [w, h] of sizes.reverse()) picture = enlarge(picture, w, h);
  return picture;
}

export type Fit = 'fit' | 'fill';

/**
 * A picture brought into a frame of `width` × `height`: whole with clear bars (fit) or covering it (fill), centred.
 * `aspect` is the shape of one source pixel (width ÷ height). Made smaller by halving first, then bilinear.
 */
export function fitInto(from: Picturing, width: number, height: number, fit: Fit, aspect = 1): Picturing {
  if (from.width === width && from.height === height && aspect === 1) return from;
  const shownWidth = from.width * aspect;
  const ratios = [width / shownWidth, height / from.height];
  // A shape that differs by less than half a pixel is the same shape.
  const same = Math.abs(shownWidth * ratios[1]! - width) < 0.5 || Math.abs(from.height * ratios[0]! - height) < 0.5;
  const scale = fit === 'fit' ? Math.min(...ratios) : Math.max(...ratios);
  const [kx, ky] = same ? [width / from.width, height / from.height] : [scale * aspect, scale];
  let small = from,
    sx = kx,
    sy = ky;
  while (sx <= 0.5 && sy <= 0.5) {
    small = halve(small);
    sx *= 2;
    sy *= 2;
  }
  const bars = fit === 'fit' && !same;
  const planes = bars ? 4 : from.planes;
  // Pixel centres: source = (out + ½ − size/2) ÷ k + sourceSize/2 − ½, measured on the picture before halving.
  const place = (out: number, source: number, k: number, halved: number) => ({
    step: 1 / (k * halved),
    start: ((0.5 - out / 2) / k + source / 2) / halved - 0.5,
  });
  const x = place(width, from.width, kx, sx / kx),
    y = place(height, from.height, ky, sy / ky);
  return operation({
    shape: `fit-${from.planes}-${bars ? 'bars' : 'full'}`,
    inputs: [around(small)],
    planes,
    domain: from.domain,
    width,
    height,
    params: [x.start, x.step, y.start, y.step, (kx * from.width) / 2, (ky * from.height) / 2, width / 2 - 0.5, height / 2 - 0.5],
    ints: [small.width, small.height],
    build: (b) => {
      const px = toFloat(column()),
        py = toFloat(row());
      const sxAt = px.mul(b.param(1)).add(b.param(0)),
        syAt = py.mul(b.param(3)).add(b.param(2));
      const colour = planesOf(from.planes, (p) => sample(b.image(0), p, sxAt, syAt, b.int(0), b.int(1)));
      if (!bars) return colour;
      const inside = (v: Node, centre: Node, half: Node) => half.sub(v.sub(centre).abs()).add(0.5).clamp(0, 1);
      const cover = inside(px, b.param(6), b.param(4)).mul(inside(py, b.param(7), b.param(5)));
      const alpha = from.planes === 4 ? colour[3]!.mul(cover) : cover;
      return [...colour.slice(0, 3).map((c) => c.mul(cover)), alpha];
    },
  });
}

/** `a` and `b` mixed by a number in their common domain; planes are brought to the larger count. */
export const blend2 = (a: Pixel, b: Pixel, t: Node): Pixel => {
  const planes = Math.max(a.length, b.length);
  const plane = (p: Pixel, i: number) => p[i] ?? float(1);
  return planesOf(planes, (i) => mix(plane(a, i), plane(b, i), t));
};
