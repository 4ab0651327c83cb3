/**
 * Measures a plate's own black and white: the tones of its ground, so that the ground changes
 * nothing.
 */

import type { PlatePoints } from '../clip';

const BINS = 480,
  LOW = -0.1,
  HIGH = 1.1;
/**
 * A ground lies within the outer quarter of the scale and holds at least this share of the plate.
 */
const OUTER = 0.25,
  LEAST_SHARE = 0.2;

/** Noise of the ground reaches this many standard deviations; anything beyond noise was drawn. */
const DEVIATIONS = 3,
  MOST_NOISE = 0.02;

/**
 * Upper end of the dark ground of `values`: the most frequent tone plus noise; the first percentile
 * if there is no ground.
 */
function upperEndOfGround(values: Float32Array): number {
  const counts = new Float64Array(BINS);
  const binOf = (v: number) =>
    Math.max(0, Math.min(BINS - 1, Math.floor(((v - LOW) / (HIGH - LOW)) * BINS)));
  for (const v of values) counts[binOf(v)]!++;
  const smooth = counts.map((_, i) =>
    [-2, -1, 0, 1, 2].reduce((s, d) => s + (counts[i + d] ?? 0), 0),
  );
  let most = 0;
  for (let i = 0; i <= binOf(OUTER); i++) if (smooth[i]! > smooth[most]!) most = i;
  const peak = values.filter((v) => Math.abs(binOf(v) - most) <= 2);
  if (peak.length === 0) return 0;
  const mode = peak.reduce((s, v) => s + v, 0) / peak.length;
  const below = values.filter((v) => v < mode && v > mode - 0.15),
    above = values.filter((v) => v >= mode && v < mode + 0.1).sort();
  const down =
    below.length > 0
      ? Math.sqrt(below.reduce((s, v) => s + (mode - v) * (mode - v), 0) / below.length)
      : 0;
  // The plate's own marks lie above too, so the median describes the noise better than the mean.
  const up = above.length > 0 ? 1.4826 * (above[above.length >> 1]! - mode) : 0;
  const deviation = Math.min(MOST_NOISE, Math.max(down, Math.min(up, 2 * down + 0.01)));
  const reach = Math.max(DEVIATIONS * deviation, 0.004);
  const held = values.filter((v) => Math.abs(v - mode) <= reach).length;
  const end =
    held >= LEAST_SHARE * values.length
      ? mode + DEVIATIONS * deviation
      : values.slice().sort()[Math.floor(values.length * 0.01)]!;
  return Math.max(0, Math.min(OUTER, end));
}

/** Black and white points of a plate from the encoded luma of its covered pixels. */
export function platePointsOf(luma: Float32Array): PlatePoints {
  if (luma.length === 0) return { black: 0, white: 1 };
  return { black: upperEndOfGround(luma), white: 1 - upperEndOfGround(luma.map((v) => 1 - v)) };
}
