/**
 * Speed of the motion in footage relative to the camera: one number per frame, for spacing by
 * distance.
 */
import type { RawFrame } from '../image';
import type { Pair } from './between';
import { lumaOf } from './raw-luma';

/** Percentile of the trusted vectors' lengths that counts as the speed. */
export const SPEED_PERCENTILE = 0.95;
/** Vectors with more doubt than this do not count. */
const DOUBTED = 0.5;
/** With fewer pixels than this the speed is 0. */
const LEAST = 24;
/**
 * Lengths are counted in sixteenths of a pixel, as vectors are stored, up to a number of pixels.
 */
const STEPS = 16,
  LONGEST = 512;

/** A quantile of counted values, from their histogram in steps from `least`. */
function quantile(counts: Uint32Array, share: number, total: number): number {
  let below = 0;
  for (let i = 0; i < counts.length; i++) {
    below += counts[i]!;
    if (below >= share * total) return i;
  }
  return counts.length - 1;
}

/**
 * Speed from a frame to the next in lines (1080 are the footage's height): the 95th percentile of
 * the lengths of trusted vectors, minus the camera's motion, which is their median across and down.
 * With `inside` (one value per pixel) only vectors where it is not 0 are measured; the camera's
 * motion still uses all. 0 if hardly any vector is trusted.
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
  // In hundredths, so that fresh measurements equal stored ones.
  return counted < LEAST
    ? 0
    : Math.round((quantile(lengths, SPEED_PERCENTILE, counted) / STEPS) * (1080 / height) * 100) /
        100;
}

/**
 * Where a matte's frame is lighter than medium grey, at the size of vectors: 1 or 0 per pixel, rows
 * tightly packed.
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
