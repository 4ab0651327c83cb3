/** The description of a clip: the facts that its pictures under a look depend on. */

/** Percentiles of a distribution: 5 % of all values lie below `p5`. */
export interface Percentiles {
  readonly p1: number;
  readonly p5: number;
  readonly p25: number;
  readonly p50: number;
  readonly p75: number;
  readonly p95: number;
  readonly p99: number;
}

/**
 * Statistics of the whole clip: percentiles of encoded luma (0…1), and the means of Oklab's a and
 * b.
 */
export interface WholeClip {
  readonly tones: Percentiles;
  readonly magenta: number;
  readonly warmth: number;
}

/**
 * Encoded luma (0…1) of a plate's ground: what counts as nothing in a plate laid over, and as
 * everything in a plate that darkens.
 */
export interface PlatePoints {
  readonly black: number;
  readonly white: number;
}
