/**
 * How fast what moves in footage moves, less what the camera does: one figure a frame, for spacing
 * by movement.
 */
import type { RawFrame } from '../image';
import type { Pair } from './between';
import { lumaOf } from './raw-luma';

/**
 * Of what is believed, what is slower than this share moves no faster than the figure says: the
 * 95th percentile.
 */
export const SPEED_PERCENTILE = 0.95;
/** Doubted more than this a vector does not count. */
const DOUBTED = 0.5;
/** Of fewer pixels than this nothing is said. */
const LEAST = 24;
/** Lengths are told apart in sixteenths of a pixel, as vectors are stored, up to so many pixels. */
const STEPS = 16,
  LONGEST = 512;

/**
 * The value below which a share of counted values lies, by their histogram in steps from `least`
 * on.
 */
function quantile(counts: Uint32Array, share: number, total: number): number {
  let below = 0;
  for (let i = 0; i < counts.length; i++) {
    below += counts[i]!;
    if (below >= share * total) return i;
  }
  return counts.length - 1;
}

/**
 * The speed from a frame to the next in lines (1080 are the footage's own height): the 95th
 * percentile of the lengths of the vectors that are believed, once the camera's is taken off, which
 * is their median across and down. With `inside` (a value a pixel) only vectors where it is not 0
 * are measured, the camera's by all. 0 where hardly anything is believed.
 */
export function speedOf(
  { forward: { u, v, width, height }, doubtFirst }: Pair,
  inside?: Uint8Array,
): number {
  const half = LONGEST * STEPS;
  const across = new Uint32Array(2 * half + 1),
    down = new Uint32Array(2 * half + 1);
  const step = (x: number): number => Math.max(-half, Math.min(half, Math.round(x * STEPS)));
  let believed = 0;
  for (let o = 0; o < width * height; o++) {
    if (doubtFirst[o]! > DOUBTED) continue;
    believed++;
    across[step(u[o]!) + half]!++;
    down[step(v[o]!) + half]!++;
  }
  if (believed < 0.02 * width * height) return 0;
  const camera = [across, down].map((counts) => (quantile(counts, 0.5, believed) - half) / STEPS);
  const lengths = new Uint32Array(half + 1);
  let counted = 0;
  for (let o = 0; o < width * height; o++) {
    if (doubtFirst[o]! > DOUBTED || inside?.[o] === 0) continue;
    counted++;
    const [x, y] = [u[o]! - camera[0]!, v[o]! - camera[1]!];
    lengths[Math.min(half, Math.round(Math.sqrt(x * x + y * y) * STEPS))]!++;
  }
  // In hundredths: what was found just now and what is read from a file are the same.
  return counted < LEAST
    ? 0
    : Math.round((quantile(lengths, SPEED_PERCENTILE, counted) / STEPS) * (1080 / height) * 100) /
        100;
}

/**
 * Where a matte's frame is lighter than its middle, at the size of vectors: 1 or 0 a pixel, rows
 * packed.
 */
export function insideOf(
  matte: RawFrame,
  { width, height }: { readonly width: number; readonly height: number },
): Uint8Array {
  const luma = lumaOf(matte);
  const inside = new Uint8Array(width * height);
  for (let y = 0, o = 0; y < height; y++) {
    const row = Math.floor(((y + 0.5) * luma.height) / height) * luma.width;
    for (let x = 0; x < width; x++, o++)
      inside[o] = luma.data[row + Math.floor(((x + 0.5) * luma.width) / width)]! > 127.5 ? 1 : 0;
  }
  return inside;
}
