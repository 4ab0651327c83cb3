/**
 * Scopes of a picture in code values: waveforms, vectorscope, histograms, and the shares that are
 * crushed, clipped or outside. Returns counts; the page draws them.
 */
import { LUMA } from '../image';
/** Code values of a picture (0…1, not clamped). */
export interface CodePlanes {
  readonly width: number;
  readonly height: number;
  /** Red, green and blue; rows of `stride` numbers. */
  readonly planes: readonly [Float32Array, Float32Array, Float32Array];
  readonly stride: number;
}
/** Columns from `x0` up to but excluding `x1`, rows from `y0` up to but excluding `y1`. */
export interface Region {
  readonly x0: number;
  readonly y0: number;
  readonly x1: number;
  readonly y1: number;
}

/** Range of waveforms and histograms: a tenth below black to a tenth above white. */
export const SCOPE_RANGE = [-0.1, 1.1] as const;
/** Sizes of the scopes' arrays. */
export const LEVELS = 120,
  WAVE_COLUMNS = 180,
  VECTOR_SIDE = 128;

/** Figures of a region. */
export interface Figures {
  /** Mean of luma in code values. */
  readonly lightness: number;
  /** Standard deviation of luma in code values. */
  readonly contrast: number;
  /**
   * Standard deviation of noise in code values, by the mean absolute difference from the neighbours
   * (Immerkær 1996).
   */
  readonly noise: number;
}

/** Counts of a picture's pixels. */
export interface Scopes extends Figures {
  /** Counts by column and level, lowest level first: luma, red, green, blue. */
  readonly waves: readonly [Uint32Array, Uint32Array, Uint32Array, Uint32Array];
  /** Counts by Cb (across) and Cr (up), −½…½. */
  readonly vector: Uint32Array;
  /** Counts by level: luma, red, green, blue. */
  readonly histograms: readonly [Uint32Array, Uint32Array, Uint32Array, Uint32Array];
  /**
   * Shares of pixels: all channels at or below black; any at or above white; any outside 0…1 by
   * more than an 8-bit code.
   */
  readonly crushed: number;
  readonly clipped: number;
  readonly outside: number;
  readonly pixels: number;
}

const [LOW, HIGH] = SCOPE_RANGE;
const levelOf = (v: number): number =>
  Math.max(0, Math.min(LEVELS - 1, Math.floor(((v - LOW) / (HIGH - LOW)) * LEVELS)));
const lumaAt = (p: CodePlanes, i: number): number =>
  LUMA[0] * p.planes[0][i]! + LUMA[1] * p.planes[1][i]! + LUMA[2] * p.planes[2][i]!;

const whole = (p: CodePlanes): Region => ({ x0: 0, y0: 0, x1: p.width, y1: p.height });

/** Scopes of a region, reading every `step`-th column and row. */
export function scopesOf(p: CodePlanes, region: Region = whole(p), step = 1): Scopes {
  const waves = four(() => new Uint32Array(WAVE_COLUMNS * LEVELS));
  const histograms = four(() => new Uint32Array(LEVELS));
  const vector = new Uint32Array(VECTOR_SIDE * VECTOR_SIDE);
  const across = Math.max(1, region.x1 - region.x0);
  let crushed = 0,
    clipped = 0,
    outside = 0,
    pixels = 0;
  for (let y = region.y0; y < region.y1; y += step)
    for (let x = region.x0; x < region.x1; x += step) {
      const i = y * p.stride + x;
      const r = p.planes[0][i]!,
        g = p.planes[1][i]!,
        b = p.planes[2][i]!,
        l = LUMA[0] * r + LUMA[1] * g + LUMA[2] * b;
      const column =
        Math.min(WAVE_COLUMNS - 1, Math.floor(((x - region.x0) * WAVE_COLUMNS) / across)) * LEVELS;
      count(0, l);
      count(1, r);
      count(2, g);
      count(3, b);
      const cb = (b - l) / 1.8556,
        cr = (r - l) / 1.5748;
      vector[place(cr) * VECTOR_SIDE + place(cb)]!++;
      const least = Math.min(r, g, b),
        most = Math.max(r, g, b);
      if (most <= 0) crushed++;
      if (most >= 1) clipped++;
      if (least < -1 / 255 || most > 1 + 1 / 255) outside++;
      pixels++;
      function count(which: 0 | 1 | 2 | 3, v: number): void {
        const level = levelOf(v);
        waves[which][column + level]!++;
        histograms[which][level]!++;
      }
    }
  const share = (n: number) => (pixels > 0 ? n / pixels : 0);
  return {
    waves,
    vector,
    histograms,
    crushed: share(crushed),
    clipped: share(clipped),
    outside: share(outside),
    pixels,
    ...figuresOf(p, region, step),
  };
}

const four = (make: () => Uint32Array): [Uint32Array, Uint32Array, Uint32Array, Uint32Array] => [
  make(),
  make(),
  make(),
  make(),
];
const place = (v: number): number =>
  Math.max(0, Math.min(VECTOR_SIDE - 1, Math.floor((v + 0.5) * VECTOR_SIDE)));

/** Luma of a picture's rows; the latest three rows are kept. */
function lumaRows(p: CodePlanes): (y: number) => Float64Array {
  const rows = [0, 1, 2].map(() => ({ y: -1, luma: new Float64Array(p.width) }));
  return (y) => {
    const row = rows[y % 3]!;
    if (row.y !== y) {
      row.y = y;
      for (let x = 0, i = y * p.stride; x < p.width; x++, i++) row.luma[x] = lumaAt(p, i);
    }
    return row.luma;
  };
}

/** Lightness, contrast and noise of a region. Noise is 0 for regions smaller than 3×3. */
export function figuresOf(p: CodePlanes, region: Region = whole(p), step = 1): Figures {
  let sum = 0,
    squares = 0,
    n = 0,
    rough = 0,
    laplacians = 0;
  const { x0, x1, y0, y1 } = region,
    rowAt = lumaRows(p);
  for (let y = y0; y < y1; y += step) {
    const row = rowAt(y),
      isEdge = y <= y0 || y + 1 >= y1;
    const up = isEdge ? row : rowAt(y - 1),
      down = isEdge ? row : rowAt(y + 1);
    for (let x = x0; x < x1; x += step) {
      const l = row[x]!;
      sum += l;
      squares += l * l;
      n++;
      if (isEdge || x <= x0 || x + 1 >= x1) continue;
      const corners = up[x - 1]! + up[x + 1]! + down[x - 1]! + down[x + 1]!;
      rough += Math.abs(corners - 2 * (up[x]! + row[x - 1]! + row[x + 1]! + down[x]!) + 4 * l);
      laplacians++;
    }
  }
  if (n === 0) return { lightness: 0, contrast: 0, noise: 0 };
  const mean = sum / n;
  return {
    lightness: mean,
    contrast: Math.sqrt(Math.max(0, squares / n - mean * mean)),
    // √(π/2) ÷ 6 is the gain of the mask on Gaussian noise, inverted.
    noise: laplacians > 0 ? (Math.sqrt(Math.PI / 2) / 6) * (rough / laplacians) : 0,
  };
}
