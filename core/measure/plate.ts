/**
 * A plate's own black and white: the tones of its ground, so that what should change nothing does
 * not.
 */

import type { PlatePoints } from '../clip';

const BINS = 480,
  LOW = -0.1,
  HIGH = 1.1;
/** A ground lies in the outer part of the scale, and holds at least so much of the plate. */
const OUTER = 0.25,
  LEAST_SHARE = 0.2;

/**
 * So many standard deviations of its noise belong to the ground; what differs more than noise does
 * is drawn.
 */
const DEVIATIONS = 3,
  MOST_NOISE = 0.02;

/**
 * The upper end of the dark ground of `values`: its commonest tone and its noise; or their lowest
 * hundredth, where they have no ground.
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
  // Above lie the plate's own marks too: their middle says more of the noise than their mean.
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

/** The points of a plate's encoded luma, of what of it covers. */
export function platePointsOf(luma: Float32Array): PlatePoints {
  if (luma.length === 0) return { black: 0, white: 1 };
  return { black: upperEndOfGround(luma), white: 1 - upperEndOfGround(luma.map((v) => 1 - v)) };
}
