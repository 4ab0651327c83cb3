/**
 * The cells of a picture in which flashes are counted: fine, and cut so that halves and quarters of
 * it are exact.
 */
import type { Planes } from '../engine';

/**
 * Cells across and down at the most; both divide by 4, so that a quarter of the width or height
 * ends at a cell's edge.
 */
const ACROSS = 240,
  DOWN = 136;

export interface FlashFrame {
  /** Relative luminance (0…1) of each cell, its mean over the cell's pixels. */
  readonly luminance: Float32Array;
  /**
   * Saturated red of each cell: WCAG's (R − G − B) × 320 where R ÷ (R + G + B) is 0.8 or more, else
   * 0.
   */
  readonly red: Float32Array;
  /** Pixels of each cell; shares of the picture's area are counted in them. */
  readonly pixels: Uint32Array;
}

/** Where cells begin, and the end: whole pixels, as even as they can be. */
const bounds = (size: number, most: number): number[] => {
  const cells = Math.min(size, most);
  return Array.from({ length: cells + 1 }, (_, i) => Math.round((i * size) / cells));
};

/**
 * A frame's cells from linear light as it is shown (each channel held to 0…1 before it is
 * averaged). Fine noise and texture average out within a cell (8 × 8 pixels of 1920 × 1080); what
 * flashes in a larger area does not.
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
