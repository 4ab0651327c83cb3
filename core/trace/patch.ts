/**
 * Patches of a picture, found again in another: position and shape by least squares with gain and
 * offset of brightness (Baker and Matthews, *Lucas-Kanade 20 Years On*, 2004, forward
 * compositional; brightness as in Jin, Favaro and Soatto, 2001), judged by normalised correlation.
 */
import { expd } from '../kernel';
import type { Luma } from './luma';

/**
 * Where a patch lies: its middle, and the picture's direction of one pixel of the patch across (a,
 * c) and down (b, d). Pixels from the upper left corner; the first pixel's middle is at 0.5.
 */
export interface Warp {
  readonly x: number;
  readonly y: number;
  readonly a: number;
  readonly b: number;
  readonly c: number;
  readonly d: number;
}
/** A patch that is neither turned nor scaled. */
export const upright = (x: number, y: number): Warp => ({ x, y, a: 1, b: 0, c: 0, d: 1 });
/** The same place at another size of the picture. */
export const resized = (w: Warp, by: number): Warp => ({ ...w, x: w.x * by, y: w.y * by });

/** Pixels of a square patch with `2 radius + 1` a side, with what comparisons need. */
export interface Patch {
  readonly radius: number;
  readonly data: Float64Array;
  readonly mean: number;
  /** Standard deviation, weighted as comparisons are. */
  readonly spread: number;
}
/** A patch that was found. */
export interface Found {
  readonly warp: Warp;
  /** Normalised correlation, −1…1. */
  readonly like: number;
  /** The worst quarter's share of unexplained brightness, 0 for a perfect match. */
  readonly worst: number;
  /**
   * Standard deviation of the place along its least certain direction, in pixels, from what is not
   * explained and from how the patch's brightness lies.
   */
  readonly vague: number;
}

/** Weights of a patch's pixels by radius: a Gauss bell, summing to 1. */
const bells = new Map<number, Float64Array>();
function bell(radius: number): Float64Array {
  const known = bells.get(radius);
  if (known) return known;
  const n = 2 * radius + 1,
    narrow = 1 / (2 * (0.6 * radius) * (0.6 * radius));
  const made = Float64Array.from({ length: n * n }, (_, i) => {
    const [u, v] = [(i % n) - radius, Math.floor(i / n) - radius];
    return expd(-(u * u + v * v) * narrow);
  });
  const sum = made.reduce((s, w) => s + w, 0);
  bells.set(
    radius,
    made.map((w) => w / sum),
  );
  return bells.get(radius)!;
}

/** Samples a grid around a warp; false if much of it lies outside the picture. */
function grid({ width, height, data }: Luma, w: Warp, radius: number, into: Float64Array): boolean {
  const n = 2 * radius + 1;
  let outside = 0;
  for (let j = 0, o = 0; j < n; j++)
    for (let i = 0; i < n; i++, o++) {
      const [u, v] = [i - radius, j - radius];
      let x = w.x + w.a * u + w.b * v - 0.5,
        y = w.y + w.c * u + w.d * v - 0.5;
      if (x < 0 || y < 0 || x > width - 1 || y > height - 1) {
        outside++;
        x = Math.max(0, Math.min(width - 1, x));
        y = Math.max(0, Math.min(height - 1, y));
      }
      const x0 = Math.min(width - 2, Math.floor(x)),
        y0 = Math.min(height - 2, Math.floor(y)),
        fx = x - x0,
        fy = y - y0,
        at = y0 * width + x0;
      const top = data[at]! + fx * (data[at + 1]! - data[at]!),
        below = data[at + width]! + fx * (data[at + width + 1]! - data[at + width]!);
      into[o] = top + fy * (below - top);
    }
  return outside <= 0.35 * n * n;
}
function moments(data: Float64Array, weights: Float64Array): readonly [number, number] {
  let mean = 0,
    square = 0;
  for (let i = 0; i < weights.length; i++) mean += weights[i]! * data[i]!;
  for (let i = 0; i < weights.length; i++) {
    const d = data[i]! - mean;
    square += weights[i]! * d * d;
  }
  return [mean, Math.sqrt(square)];
}

/** The patch of a picture at a warp; undefined where much of it lies outside. */
export function patchAt(luma: Luma, warp: Warp, radius: number): Patch | undefined {
  const n = 2 * radius + 1,
    data = new Float64Array(n * n);
  if (luma.width < 2 || luma.height < 2 || !grid(luma, warp, radius, data)) return undefined;
  const [mean, spread] = moments(data, bell(radius));
  return { radius, data, mean, spread };
}

/** Solves a symmetric positive system in place (Cholesky); false if it is singular. */
function solve(m: Float64Array, r: Float64Array, n: number): boolean {
  for (let i = 0; i < n; i++) {
    for (let j = 0; j <= i; j++) {
      let s = m[i * n + j]!;
      for (let k = 0; k < j; k++) s -= m[i * n + k]! * m[j * n + k]!;
      if (i === j) {
        if (s <= 1e-12) return false;
        m[i * n + i] = Math.sqrt(s);
      } else m[i * n + j] = s / m[j * n + j]!;
    }
    let s = r[i]!;
    for (let k = 0; k < i; k++) s -= m[i * n + k]! * r[k]!;
    r[i] = s / m[i * n + i]!;
  }
  for (let i = n - 1; i >= 0; i--) {
    let s = r[i]!;
    for (let k = i + 1; k < n; k++) s -= m[k * n + i]! * r[k]!;
    r[i] = s / m[i * n + i]!;
  }
  return true;
}

/** Iterations end when the patch moves by less than this, in pixels. */
const SETTLED = 0.004;
/** How slowly the shape gives way, against the place. */
const STIFF = 0.15;
/** Least spread of a patch, in 255ths, that anything can be told from. */
const FLAT = 0.6;

/**
 * Finds a patch in a picture from a start: its position alone (`free` 2), or its shape as well (6).
 * Undefined if it runs out of the picture, loses its shape, or has nothing to be told by.
 */
export function findPatch(
  patch: Patch,
  luma: Luma,
  start: Warp,
  free: 2 | 6,
  iterations = 24,
): Found | undefined {
  const { radius, data: wanted, mean: meanT, spread: spreadT } = patch;
  if (spreadT < FLAT || luma.width < 4 || luma.height < 4) return undefined;
  const n = 2 * radius + 1,
    big = n + 2,
    weights = bell(radius),
    seen = new Float64Array(big * big),
    inner = new Float64Array(n * n),
    columns = free + 2;
  const m = new Float64Array(columns * columns),
    r = new Float64Array(columns),
    j = new Float64Array(columns);
  const normal = new Float64Array(columns * columns);
  let warp = start;
  const take = (): readonly [number, number] | undefined => {
    if (!grid(luma, warp, radius + 1, seen)) return undefined;
    for (let y = 0; y < n; y++)
      inner.set(seen.subarray((y + 1) * big + 1, (y + 1) * big + 1 + n), y * n);
    const both = moments(inner, weights);
    return both[1] < FLAT / 4 ? undefined : both;
  };
  for (let i = 0; i < iterations; i++) {
    const both = take();
    if (!both) return undefined;
    const [mean, spread] = both,
      gain = spreadT / spread;
    m.fill(0);
    r.fill(0);
    for (let v = 0, o = 0; v < n; v++)
      for (let u = 0; u < n; u++, o++) {
        const at = (v + 1) * big + u + 1;
        const gu = ((seen[at + 1]! - seen[at - 1]!) * gain) / 2,
          gv = ((seen[at + big]! - seen[at - big]!) * gain) / 2,
          level = (seen[at]! - mean) * gain,
          e = wanted[o]! - meanT - level,
          w = weights[o]!;
        j[0] = gu;
        j[1] = gv;
        if (free === 6) {
          const [x, y] = [(u - radius) / radius, (v - radius) / radius];
          j[2] = gu * x;
          j[3] = gu * y;
          j[4] = gv * x;
          j[5] = gv * y;
        }
        j[free] = level;
        j[free + 1] = 1;
        for (let a = 0; a < columns; a++) {
          const wa = w * j[a]!;
          r[a] = r[a]! + wa * e;
          for (let b = 0; b <= a; b++) m[a * columns + b] = m[a * columns + b]! + wa * j[b]!;
        }
      }
    for (let a = 0; a < columns; a++)
      m[a * columns + a] = m[a * columns + a]! * (1 + (a > 1 && a < free ? STIFF : 1e-4)) + 1e-6;
    normal.set(m);
    if (!solve(m, r, columns)) return undefined;
    const long = Math.sqrt(r[0]! * r[0]! + r[1]! * r[1]!),
      held = Math.min(1, radius / 2 / Math.max(1e-9, long));
    const [du, dv] = [r[0]! * held, r[1]! * held];
    const [p, q, s, t] =
      free === 6 ? [2, 3, 4, 5].map((k) => (r[k]! * held) / radius) : [0, 0, 0, 0];
    const { x, y, a, b, c, d } = warp;
    warp = {
      x: x + a * du + b * dv,
      y: y + c * du + d * dv,
      a: a * (1 + p!) + b * s!,
      b: a * q! + b * (1 + t!),
      c: c * (1 + p!) + d * s!,
      d: c * q! + d * (1 + t!),
    };
    if (long < SETTLED) break;
  }
  const area = warp.a * warp.d - warp.b * warp.c;
  if (!(area > 0.25 && area < 4)) return undefined;
  const both = take();
  if (!both) return undefined;
  const { like, worst } = judged(patch, inner, both);
  const left = Math.max(1e-4, 2 * (1 - like)) * spreadT * spreadT;
  return { warp, like, worst, vague: Math.sqrt(left * variance(normal, columns, radius)) };
}

/**
 * The larger eigenvalue of the place's covariance for residuals of variance 1, from the normal
 * matrix (lower half; its weights sum to 1), all else being free.
 */
function variance(normal: Float64Array, n: number, radius: number): number {
  const columnOf = (k: number): Float64Array | undefined => {
    const m = Float64Array.from(normal),
      r = new Float64Array(n);
    r[k] = 1;
    return solve(m, r, n) ? r : undefined;
  };
  const [x, y] = [columnOf(0), columnOf(1)];
  if (!x || !y) return Infinity;
  // Weights of a bell count as many pixels as the inverse of the sum of their squares.
  const pixels = bell(radius).reduce((s, w) => s + w * w, 0);
  const half = (x[0]! + y[1]!) / 2,
    apart = (x[0]! - y[1]!) / 2;
  return pixels * (half + Math.sqrt(apart * apart + x[1]! * y[0]!));
}

/** How much a patch is like a picture at a warp, as it lies. */
export function likeness(patch: Patch, luma: Luma, warp: Warp): number {
  const n = 2 * patch.radius + 1,
    seen = new Float64Array(n * n);
  if (patch.spread < FLAT || !grid(luma, warp, patch.radius, seen)) return -1;
  const both = moments(seen, bell(patch.radius));
  return both[1] < FLAT / 4 ? -1 : judged(patch, seen, both).like;
}

/** How much two patches are alike, and how much of the worst quarter is not explained. */
function judged(
  { radius, data, mean: meanT, spread: spreadT }: Patch,
  seen: Float64Array,
  [mean, spread]: readonly [number, number],
): Pick<Found, 'like' | 'worst'> {
  const n = 2 * radius + 1,
    weights = bell(radius);
  const left = [0, 0, 0, 0],
    all = [0, 0, 0, 0];
  let product = 0;
  for (let v = 0, o = 0; v < n; v++)
    for (let u = 0; u < n; u++, o++) {
      const [t, s] = [(data[o]! - meanT) / spreadT, (seen[o]! - mean) / spread],
        w = weights[o]!;
      product += w * t * s;
      const quarter = (v < radius ? 0 : 2) + (u < radius ? 0 : 1);
      left[quarter] = left[quarter]! + w * (t - s) * (t - s);
      all[quarter] = all[quarter]! + w * (t * t + s * s);
    }
  // Where there is next to nothing, next to nothing can be unexplained.
  return { like: product, worst: Math.max(...left.map((l, i) => l / (all[i]! + 0.1))) };
}

/**
 * How well a place can be followed: the smaller eigenvalue of its structure tensor, as a root, in
 * 255ths a pixel (Shi and Tomasi, *Good Features to Track*, 1994).
 */
export function cornerness(luma: Luma, x: number, y: number, radius: number): number {
  const patch = patchAt(luma, upright(x, y), radius + 1);
  if (!patch) return 0;
  const big = 2 * radius + 3,
    n = 2 * radius + 1,
    weights = bell(radius);
  let [xx, xy, yy] = [0, 0, 0];
  for (let v = 0, o = 0; v < n; v++)
    for (let u = 0; u < n; u++, o++) {
      const at = (v + 1) * big + u + 1;
      const gx = (patch.data[at + 1]! - patch.data[at - 1]!) / 2,
        gy = (patch.data[at + big]! - patch.data[at - big]!) / 2,
        w = weights[o]!;
      xx += w * gx * gx;
      xy += w * gx * gy;
      yy += w * gy * gy;
    }
  const half = (xx + yy) / 2;
  return Math.sqrt(Math.max(0, half - Math.sqrt(((xx - yy) / 2) * ((xx - yy) / 2) + xy * xy)));
}

/**
 * The place within a distance where a patch is most like the picture, each whole pixel tried; with
 * the next best that lies apart from it.
 */
export function searched(
  patch: Patch,
  luma: Luma,
  middle: Warp,
  distance: number,
): { readonly best: Warp; readonly like: number; readonly second: number } | undefined {
  const { radius } = patch,
    weights = bell(radius),
    n = 2 * radius + 1;
  if (patch.spread < FLAT) return undefined;
  const seen = new Float64Array(n * n);
  const tried: { warp: Warp; like: number }[] = [];
  for (let dy = -distance; dy <= distance; dy++)
    for (let dx = -distance; dx <= distance; dx++) {
      const warp = { ...middle, x: middle.x + dx, y: middle.y + dy };
      if (warp.x < 0 || warp.y < 0 || warp.x > luma.width || warp.y > luma.height) continue;
      if (!grid(luma, warp, radius, seen)) continue;
      const both = moments(seen, weights);
      if (both[1] < FLAT / 2) continue;
      tried.push({ warp, like: judged(patch, seen, both).like });
    }
  const best = tried.reduce<(typeof tried)[number] | undefined>(
    (top, t) => (top && top.like >= t.like ? top : t),
    undefined,
  );
  if (!best) return undefined;
  const apart = ({ warp }: (typeof tried)[number]): boolean =>
    Math.abs(warp.x - best.warp.x) > radius || Math.abs(warp.y - best.warp.y) > radius;
  const second = tried.filter(apart).reduce((top, t) => Math.max(top, t.like), -1);
  return { best: best.warp, like: best.like, second };
}
