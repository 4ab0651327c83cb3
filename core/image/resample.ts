/**
 * Resampling: halving, enlarging, Gaussian blur as a pyramid, and fitting one picture into
 * another's frame.
 */
import { stencil, type Building, imageOp, type ImageNode } from '../graph';
import {
  column,
  expd,
  float,
  flush,
  mix,
  type Node,
  type Pixel,
  row,
  sample,
  select,
  toFloat,
} from '../kernel';
import { type Framing, frameFit } from './framing';

const planesOf = (n: number, f: (plane: number) => Node): Pixel =>
  Array.from({ length: n }, (_, p) => f(p));

/**
 * Half the width (rounded up), filtered by [1 3 3 1]/8. The grid is fixed at the left: pixel k
 * covers 2k−1 … 2k+2.
 */
export const halveAcross = (from: ImageNode): ImageNode =>
  imageOp({
    shape: `halve-x-${from.planes}`,
    inputs: [stencil(from)],
    planes: from.planes,
    domain: from.domain,
    width: Math.ceil(from.width / 2),
    height: from.height,
    build: (b) => planesOf(from.planes, (p) => quarter((d) => b.tap(0, p, d, 0, { sx: 'double' }))),
  });
/** Half the height (rounded up), filtered likewise from the top. */
export const halveDown = (from: ImageNode): ImageNode =>
  imageOp({
    shape: `halve-y-${from.planes}`,
    inputs: [stencil(from)],
    planes: from.planes,
    domain: from.domain,
    width: from.width,
    height: Math.ceil(from.height / 2),
    build: (b) =>
      planesOf(from.planes, (p) => flush(quarter((d) => b.tap(0, p, 0, d, { sy: 'double' })))),
  });
/** Half the width and half the height. */
export const halve = (from: ImageNode): ImageNode => halveDown(halveAcross(from));
const quarter = (at: (d: number) => Node): Node =>
  at(-1)
    .add(at(2))
    .mul(0.125)
    .add(at(0).add(at(1)).mul(0.375));

/** Twice the size: ¾ of the nearest pixel and ¼ of the next. The grid is that of `halve`. */
export function enlarge(from: ImageNode, width: number, height: number): ImageNode {
  const weigh = (nearest: Node, before: Node, after: Node, place: Node): Node => {
    const half = place.mul(0.5);
    return nearest.mul(0.75).add(select(half.floor().eq(half), before, after).mul(0.25));
  };
  const down = imageOp({
    shape: `enlarge-y-${from.planes}`,
    inputs: [stencil(from)],
    planes: from.planes,
    domain: from.domain,
    width: from.width,
    height,
    build: (b) =>
      planesOf(from.planes, (p) =>
        weigh(
          b.tap(0, p, 0, 0, { sy: 'half' }),
          b.tap(0, p, 0, -1, { sy: 'half' }),
          b.tap(0, p, 0, 1, { sy: 'half' }),
          toFloat(row()),
        ),
      ),
  });
  return imageOp({
    shape: `enlarge-x-${from.planes}`,
    inputs: [stencil(down)],
    planes: from.planes,
    domain: from.domain,
    width,
    height,
    build: (b) =>
      planesOf(from.planes, (p) =>
        weigh(
          b.tap(0, p, 0, 0, { sx: 'half' }),
          b.tap(0, p, -1, 0, { sx: 'half' }),
          b.tap(0, p, 1, 0, { sx: 'half' }),
          toFloat(column()),
        ),
      ),
  });
}

const REACH = [4, 8, 13] as const;

/** Weights of a sampled Gaussian, centre first; both sides together sum to 1. */
function weights(sigma: number, reach: number): number[] {
  if (sigma <= 0) return [1, ...Array<number>(reach).fill(0)];
  const w = Array.from({ length: reach + 1 }, (_, i) => expd((-i * i) / (2 * sigma * sigma)));
  const sum = w[0]! + 2 * w.slice(1).reduce((a, b) => a + b, 0);
  return w.map((v) => v / sum);
}

const byReach = new Map<number, Map<number, readonly number[]>>(REACH.map((r) => [r, new Map()]));
const MOST_WEIGHTS = 256;
/** `weights`, kept for the frames to come. */
function knownWeights(sigma: number, reach: number): readonly number[] {
  const known = byReach.get(reach)!;
  let made = known.get(sigma);
  if (!made) {
    made = weights(sigma, reach);
    if (known.size >= MOST_WEIGHTS) known.clear();
    known.set(sigma, made);
  }
  return made;
}

function direct(from: ImageNode, sigma: number): ImageNode {
  const reach = REACH.find((r) => r >= 3 * sigma) ?? REACH[2];
  const params = knownWeights(sigma, reach);
  const pass = (source: ImageNode, along: 'x' | 'y') =>
    imageOp({
      shape: `gauss-${along}-${reach}-${from.planes}`,
      inputs: [stencil(source)],
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
 * Applies `make` to the picture halved until `sigma` is two coarse pixels, and enlarges the result.
 * Each halving and each enlarging adds variance of ¾ of its own pixel squared; `left` gives the
 * part of a sigma that remains to be applied.
 */
export function coarsely(
  from: ImageNode,
  sigma: number,
  make: (small: ImageNode, left: (sigma: number) => number) => ImageNode,
): ImageNode {
  let levels = 0;
  const rest = (s: number, l: number) => (s * s - (1.5 * (4 ** l - 1)) / 3) / 4 ** l;
  while (rest(sigma, levels + 1) >= 4 && Math.min(from.width, from.height) / 2 ** (levels + 1) >= 2)
    levels++;
  const sizes: [number, number][] = [];
  let small = from;
  for (let l = 0; l < levels; l++) {
    sizes.push([small.width, small.height]);
    small = halve(small);
  }
  const made = make(small, (s) => Math.sqrt(Math.max(0, rest(s, levels))));
  return sizes.reverse().reduce((picture, [w, h]) => enlarge(picture, w, h), made);
}

/** Gaussian blur of `sigma` pixels with clamped edges. Wide blurs run on a smaller picture. */
export const blur = (from: ImageNode, sigma: number): ImageNode =>
  sigma <= 0 ? from : coarsely(from, sigma, (small, left) => direct(small, left(sigma)));

/** How a picture is brought into a frame. `aspect`: width ÷ height of one of its pixels. */
export type Fitting = Omit<Framing, 'clip' | 'frame'> & { readonly aspect?: number };

/**
 * A picture brought into a frame of `width` × `height`; transparent where it does not cover.
 * Minification halves first, then samples bilinearly.
 */
export function fitInto(
  from: ImageNode,
  width: number,
  height: number,
  { aspect = 1, ...fitting }: Fitting,
): ImageNode {
  const { size, middle } = frameFit({
    ...fitting,
    clip: [from.width * aspect, from.height],
    frame: [width, height],
  });
  const whole = size.every((s) => s === 1) && middle.every((m) => m === 0.5);
  if (whole && from.width === width && from.height === height) return from;
  const [kx, ky] = [(size[0] * width) / from.width, (size[1] * height) / from.height];
  let small = from,
    sx = kx,
    sy = ky;
  while (sx <= 0.5 && sy <= 0.5) {
    small = halve(small);
    sx *= 2;
    sy *= 2;
  }
  // Pixel centres: source = (out + ½ − size/2) ÷ k + middle of the source − ½, on the picture
  // before halving.
  const along = (out: number, source: number, k: number, halved: number, at: number) => ({
    step: 1 / (k * halved),
    start: ((0.5 - out / 2) / k + source * at) / halved - 0.5,
    // Position of the picture's own middle in the frame, and half its size there.
    centre: out / 2 - 0.5 + (0.5 - at) * k * source,
    half: (k * source) / 2,
  });
  const x = along(width, from.width, kx, sx / kx, middle[0]),
    y = along(height, from.height, ky, sy / ky, middle[1]);
  const uncovered = ({ centre, half }: typeof x, out: number) =>
    centre - half > -0.49 || centre + half < out - 0.51;
  const bars = uncovered(x, width) || uncovered(y, height);
  return imageOp({
    shape: `fit-${from.planes}-${bars ? 'bars' : 'full'}`,
    inputs: [stencil(small)],
    planes: bars ? 4 : from.planes,
    domain: from.domain,
    width,
    height,
    params: [x.start, x.step, y.start, y.step, x.half, y.half, x.centre, y.centre],
    ints: [small.width, small.height],
    build: (b) => {
      const px = toFloat(column()),
        py = toFloat(row());
      const sxAt = px.mul(b.param(1)).add(b.param(0)),
        syAt = py.mul(b.param(3)).add(b.param(2));
      const colour = planesOf(from.planes, (p) =>
        sample(b.image(0), p, sxAt, syAt, b.int(0), b.int(1)),
      );
      if (!bars) return colour;
      const inside = (v: Node, centre: Node, half: Node) =>
        half.sub(v.sub(centre).abs()).add(0.5).clamp(0, 1);
      const cover = inside(px, b.param(6), b.param(4)).mul(inside(py, b.param(7), b.param(5)));
      const alpha = from.planes === 4 ? colour[3]!.mul(cover) : cover;
      return [...colour.slice(0, 3).map((c) => c.mul(cover)), alpha];
    },
  });
}

/** A mix of `a` (at 0) and `b` (at 1) in their common domain, with the larger number of planes. */
export const blend2 = (a: Pixel, b: Pixel, t: Node): Pixel => {
  const planes = Math.max(a.length, b.length);
  const plane = (p: Pixel, i: number) => p[i] ?? float(1);
  return planesOf(planes, (i) => mix(plane(a, i), plane(b, i), t));
};
