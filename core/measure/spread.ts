/** The spread of clips: a few traits of each picture, and how they vary. */
import type { Planes } from '../engine';
import { percentilesOf } from './statistics';

/**
 * In Oklab: mean lightness, 95th minus 5th percentile of it, mean b (blue to yellow), mean a (green
 * to magenta), mean chroma.
 */
export interface Traits {
  readonly lightness: number;
  readonly contrast: number;
  readonly warmth: number;
  readonly magenta: number;
  readonly saturation: number;
}
/** All traits, in the order of display. */
export const TRAITS = [
  'lightness',
  'contrast',
  'warmth',
  'magenta',
  'saturation',
] as const satisfies readonly (keyof Traits)[];

/** Traits of a picture in Oklab. Pixels without coverage (bars) are left out. */
export function traitsOf({ width, height, stride, planes }: Planes): Traits {
  const [l, a, b, cover] = planes as [
    Float32Array,
    Float32Array,
    Float32Array,
    Float32Array | undefined,
  ];
  const light = new Float32Array(width * height);
  let n = 0,
    lightness = 0,
    warmth = 0,
    magenta = 0,
    saturation = 0;
  for (let y = 0; y < height; y++)
    for (let i = y * stride; i < y * stride + width; i++) {
      if (cover && cover[i]! < 0.99) continue;
      light[n++] = l[i]!;
      lightness += l[i]!;
      magenta += a[i]!;
      warmth += b[i]!;
      saturation += Math.sqrt(a[i]! * a[i]! + b[i]! * b[i]!);
    }
  if (n === 0) return { lightness: 0, contrast: 0, warmth: 0, magenta: 0, saturation: 0 };
  const { p5, p95 } = percentilesOf(light.subarray(0, n));
  return {
    lightness: lightness / n,
    contrast: p95 - p5,
    warmth: warmth / n,
    magenta: magenta / n,
    saturation: saturation / n,
  };
}

/** The spread of a trait over clips. */
export interface Spread {
  readonly median: number;
  /** Standard deviation. */
  readonly spread: number;
  /** Indices of values more than 1.5 interquartile ranges beyond the quartiles (Tukey's fences). */
  readonly outliers: readonly number[];
}

/** The spread of one value or more. */
export function spreadOf(values: readonly number[]): Spread {
  const { p25, p50, p75 } = percentilesOf(Float64Array.from(values));
  const mean = values.reduce((s, v) => s + v, 0) / values.length;
  const reach = 1.5 * (p75 - p25);
  return {
    median: p50,
    spread: Math.sqrt(values.reduce((s, v) => s + (v - mean) * (v - mean), 0) / values.length),
    outliers: values.flatMap((v, i) => (v < p25 - reach || v > p75 + reach ? [i] : [])),
  };
}
