/**
 * Statistics of a whole clip from a few of its frames, robust against content; computed once and
 * stored.
 */
import type { Percentiles, PlatePoints } from '../clip';
import type { Planes } from '../engine';
import { LUMA } from '../image';
import { log2d } from '../kernel';
import { platePointsOf } from './plate';
import { figuresOf } from './scopes';

/** Shares at which percentiles are taken. */
export const SHARES = [0.01, 0.05, 0.25, 0.5, 0.75, 0.95, 0.99] as const;
/** Statistics of a clip. */
export interface ClipStatistics {
  /** Number of sampled frames. */
  readonly frames: number;
  /** Percentiles of Oklab's lightness. */
  readonly lightness: Percentiles;
  /** Percentiles of luma in the working encoding, 0…1. */
  readonly tones: Percentiles;
  /** 95th minus 5th percentile of lightness. */
  readonly contrast: number;
  /** Mean and standard deviation of Oklab's chroma. */
  readonly chroma: number;
  readonly spread: number;
  /** Means of Oklab's b (blue to yellow) and a (green to magenta). */
  readonly warmth: number;
  readonly magenta: number;
  /**
   * How many stops more red, and more blue, than green the light of apparent grey has; `sure` is
   * the confidence, 0…1.
   */
  readonly neutral: { readonly red: number; readonly blue: number; readonly sure: number };
  /**
   * Colours that may be skin, if there are enough: their share, and mean hue (degrees), chroma and
   * lightness.
   */
  readonly skin: {
    readonly share: number;
    readonly hue: number;
    readonly chroma: number;
    readonly lightness: number;
  } | null;
  /** Noise in code values (see `Figures`). */
  readonly noise: number;
  /**
   * Speed of the motion relative to the camera (`speedOf`): picture heights per second, median of
   * the samples.
   */
  readonly motion: number;
  /** Black and white as a plate. Missing in statistics stored before these were measured. */
  readonly plate?: PlatePoints;
}

/**
 * One frame: its light and Oklab at a small size, its encoded colour at full size, and the speed of
 * its motion (picture heights per second).
 */
export interface Sample {
  readonly light: Planes;
  readonly lab: Planes;
  readonly moved: number | null;
  readonly encoded: Planes;
}

/** Quantile of sorted numbers, linear between neighbours. */
function quantile(sorted: Float32Array | Float64Array, share: number): number {
  const at = share * (sorted.length - 1),
    i = Math.min(sorted.length - 2, Math.floor(at));
  return sorted.length === 1 ? sorted[0]! : sorted[i]! + (sorted[i + 1]! - sorted[i]!) * (at - i);
}
/** Percentiles of numbers in any order. */
export function percentilesOf(values: Float32Array | Float64Array): Percentiles {
  const sorted = values.slice().sort();
  const [p1, p5, p25, p50, p75, p95, p99] = SHARES.map((s) => quantile(sorted, s)) as [
    number,
    number,
    number,
    number,
    number,
    number,
    number,
  ];
  return { p1, p5, p25, p50, p75, p95, p99 };
}

/** One plane of several pictures, concatenated with rows tightly packed. */
function joined(pictures: readonly Planes[], plane: number): Float32Array {
  const out = new Float32Array(pictures.reduce((n, p) => n + p.width * p.height, 0));
  let at = 0;
  for (const p of pictures)
    for (let y = 0; y < p.height; y++) {
      out.set(p.planes[plane]!.subarray(y * p.stride, y * p.stride + p.width), at);
      at += p.width;
    }
  return out;
}

/** Most pixels at full size that percentiles are taken of; evenly spread. */
const MOST_PIXELS = 2 ** 19;
/**
 * Step between sampled pixels, without common factors with usual widths, so that all columns are
 * sampled.
 */
function thinning(samples: readonly Sample[]): number {
  let step = Math.ceil(
    samples.reduce((n, { encoded: e }) => n + e.width * e.height, 0) / MOST_PIXELS,
  );
  while (step > 1 && [2, 3, 5, 7].some((f) => step % f === 0)) step++;
  return step;
}
/** Luma of every `step`-th pixel; with coverage, of fully covered pixels only. */
function lumaOf(
  { planes, width, height, stride }: Planes,
  step: number,
  onlyCovered = false,
): Float32Array {
  const [r, g, b, cover] = planes as readonly [
    Float32Array,
    Float32Array,
    Float32Array,
    Float32Array?,
  ];
  const out = new Float32Array(Math.ceil((width * height) / step));
  let n = 0;
  for (let i = 0; i < width * height; i += step) {
    const at = Math.floor(i / width) * stride + (i % width);
    if (onlyCovered && cover && cover[at]! <= 0.99) continue;
    out[n++] = LUMA[0] * r[at]! + LUMA[1] * g[at]! + LUMA[2] * b[at]!;
  }
  return out.subarray(0, n);
}
/** Arrays concatenated. */
function end(lists: readonly Float32Array[]): Float32Array {
  const all = new Float32Array(lists.reduce((n, l) => n + l.length, 0));
  lists.reduce((at, l) => (all.set(l, at), at + l.length), 0);
  return all;
}
const meanOf = (v: Float32Array): number => v.reduce((s, x) => s + x, 0) / v.length;

/** Statistics of one sample or more. */
export function statisticsOf(samples: readonly Sample[]): ClipStatistics {
  const [l, a, b] = [0, 1, 2].map((p) =>
    joined(
      samples.map((s) => s.lab),
      p,
    ),
  ) as [Float32Array, Float32Array, Float32Array];
  const light = [0, 1, 2].map((p) =>
    joined(
      samples.map((s) => s.light),
      p,
    ),
  ) as [Float32Array, Float32Array, Float32Array];
  const chroma = l.map((_, i) => Math.sqrt(a[i]! * a[i]! + b[i]! * b[i]!));
  const lightness = percentilesOf(l);
  const meanChroma = meanOf(chroma);
  const step = thinning(samples);
  return {
    frames: samples.length,
    lightness,
    tones: percentilesOf(end(samples.map((s) => lumaOf(s.encoded, step)))),
    contrast: lightness.p95 - lightness.p5,
    chroma: meanChroma,
    spread: Math.sqrt(
      chroma.reduce((s, c) => s + (c - meanChroma) * (c - meanChroma), 0) / chroma.length,
    ),
    warmth: meanOf(b),
    magenta: meanOf(a),
    neutral: neutralOf(light, lightness, l),
    skin: skinOf(l, a, b),
    noise:
      samples.reduce(
        (s, { encoded: e }) => s + figuresOf({ ...e, planes: e.planes.slice(0, 3) as never }).noise,
        0,
      ) / samples.length,
    motion: motionOf(samples),
    plate: platePointsOf(end(samples.map((s) => lumaOf(s.encoded, step, true)))),
  };
}

const ROUNDS = 12;
/**
 * The colour of grey: weighted means of red and blue against green, in stops, over pixels neither
 * dark nor clipped. Weights fall with the distance from the grey found so far; it starts at the
 * mean of all.
 */
function neutralOf(
  light: readonly [Float32Array, Float32Array, Float32Array],
  { p5, p95 }: Percentiles,
  l: Float32Array,
): ClipStatistics['neutral'] {
  const reds: number[] = [],
    blues: number[] = [];
  for (let i = 0; i < l.length; i++) {
    const [r, g, b] = [light[0][i]!, light[1][i]!, light[2][i]!];
    if (l[i]! < p5 || l[i]! > p95 || Math.min(r, g, b) < 1e-4 || Math.max(r, g, b) > 0.98) continue;
    const green = log2d(g);
    reds.push(log2d(r) - green);
    blues.push(log2d(b) - green);
  }
  if (reds.length < 16) return { red: 0, blue: 0, sure: 0 };
  let [red, blue, sum] = [middle(reds), middle(blues), 0];
  for (let round = 0; round < ROUNDS; round++) {
    let r = 0,
      b = 0;
    sum = 0;
    for (let i = 0; i < reds.length; i++) {
      const dr = reds[i]! - red,
        db = blues[i]! - blue;
      // A Cauchy weight: one half at a third of a stop.
      const w = 1 / (1 + (dr * dr + db * db) * 9);
      r += w * reds[i]!;
      b += w * blues[i]!;
      sum += w;
    }
    red = r / sum;
    blue = b / sum;
  }
  return { red, blue, sure: sum / reds.length };
}
/** The median. */
export function middle(values: readonly number[]): number {
  return quantile(Float32Array.from(values).sort(), 0.5);
}

/**
 * Skin of any depth lies in a narrow range of hues. Below this share of the picture it is taken for
 * chance.
 */
const SKIN = {
  from: 35,
  to: 80,
  least: 0.03,
  most: 0.16,
  dark: 0.25,
  bright: 0.92,
  share: 0.015,
} as const;
/** tan 35° and tan 80°: the range of hues without an arctangent. */
const FAN = [0.7002, 5.6713] as const;

function skinOf(l: Float32Array, a: Float32Array, b: Float32Array): ClipStatistics['skin'] {
  let n = 0,
    sa = 0,
    sb = 0,
    sl = 0;
  for (let i = 0; i < l.length; i++) {
    const [x, y] = [a[i]!, b[i]!];
    if (x <= 0 || y < x * FAN[0] || y > x * FAN[1] || l[i]! < SKIN.dark || l[i]! > SKIN.bright)
      continue;
    const c = x * x + y * y;
    if (c < SKIN.least * SKIN.least || c > SKIN.most * SKIN.most) continue;
    n++;
    sa += x;
    sb += y;
    sl += l[i]!;
  }
  const share = n / l.length;
  if (share < SKIN.share) return null;
  return {
    share,
    hue: angleOf(sa / n, sb / n),
    chroma: Math.sqrt((sa / n) * (sa / n) + (sb / n) * (sb / n)),
    lightness: sl / n,
  };
}

/**
 * The angle of a point in the first quadrant, in degrees, by bisection: an arctangent from square
 * roots alone.
 */
function angleOf(x: number, y: number): number {
  let [u, v, angle, step] = [x, y, 0, 45];
  // Rotated back by 45°, 22.5° … as long as it stays above the axis.
  let [cos, sin] = [Math.SQRT1_2, Math.SQRT1_2];
  for (let i = 0; i < 30; i++) {
    const [u2, v2] = [u * cos + v * sin, v * cos - u * sin];
    if (v2 >= 0) {
      [u, v] = [u2, v2];
      angle += step;
    }
    step /= 2;
    [cos, sin] = [Math.sqrt((1 + cos) / 2), sin / Math.sqrt(2 * (1 + cos))];
  }
  return angle;
}

function motionOf(samples: readonly Sample[]): number {
  const moved = samples.flatMap((s) => (s.moved === null ? [] : [s.moved]));
  return moved.length > 0 ? quantile(Float64Array.from(moved).sort(), 0.5) : 0;
}
