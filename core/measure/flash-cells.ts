/**
 * The grid of cells in which flashes are counted, cut so that halves and quarters of the picture
 * consist of whole cells.
 */
import type { Planes } from '../engine';

/**
 * Most cells across and down. Both are divisible by 4, so that a quarter of the width or height
 * ends at a cell's edge.
 */
const ACROSS = 240,
  DOWN = 136;

/** One frame in cells. */
export interface FlashFrame {
  /** Relative luminance of each cell (0…1): the mean over its pixels. */
  readonly luminance: Float32Array;
  /**
   * Saturated red of each cell: WCAG's (R − G − B) × 320 if R ÷ (R + G + B) is at least 0.8, else
   * 0.
   */
  readonly red: Float32Array;
  /** Number of pixels of each cell; shares of the picture's area are counted in pixels. */
  readonly pixels: Uint32Array;
}

/** Start of each cell, and the end of the last: whole pixels, as even as possible. */
const bounds = (size: number, most: number): number[] => {
  const cells = Math.min(size, most);
  return Array.from({ length: cells + 1 }, (_, i) => Math.round((i * size) / cells));
};

/**
 * A frame's cells from its linear light as displayed (channels clamped to 0…1 before averaging).
 * Fine noise and texture average out within a cell (8 × 8 pixels at 1920 × 1080); flashes of larger
 * areas do not.
 */
export function flashFrame({ width, height, stride, planes }: Planes): FlashFrame {
  const xs = bounds(width, ACROSS),
    ys = bounds(height, DOWN);
  const across = xs.length - 1,
    down = ys.length - 1;
  const sums = [0, 1, 2].map(() => new Float64Array(across * down)) as [
    Float64Array,
    Float64Array,
    Float64Array,
  ];
  sums.forEach((sum, p) => {
    const plane = planes[p]!;
    for (let j = 0; j < down; j++)
      for (let y = ys[j]!; y < ys[j + 1]!; y++)
        for (let i = 0, at = y * stride; i < across; i++) {
          let s = 0;
          for (let x = xs[i]!; x < xs[i + 1]!; x++) {
            const v = plane[at + x]!;
            s += v < 0 ? 0 : v > 1 ? 1 : v;
          }
          sum[j * across + i]! += s;
        }
  });
  const n = across * down;
  const luminance = new Float32Array(n),
    red = new Float32Array(n),
    pixels = new Uint32Array(n);
  for (let k = 0; k < n; k++) {
    const [i, j] = [k % across, Math.floor(k / across)];
    const count = (xs[i + 1]! - xs[i]!) * (ys[j + 1]! - ys[j]!);
    const [r, g, b] = [sums[0][k]! / count, sums[1][k]! / count, sums[2][k]! / count];
    pixels[k] = count;
    luminance[k] = 0.2126 * r + 0.7152 * g + 0.0722 * b;
    const sum = r + g + b;
    red[k] = sum > 0 && r / sum >= 0.8 ? Math.max(0, (r - g - b) * 320) : 0;
  }
  return { luminance, red, pixels };
}
