/** What a clip is, as far as its pictures under a look depend on it. */

/** Values at shares of 1: `p5` is what 5 % lie below. */
export interface Percentiles {
  readonly p1: number;
  readonly p5: number;
  readonly p25: number;
  readonly p50: number;
  readonly p75: number;
  readonly p95: number;
  readonly p99: number;
}

/** The whole clip: luma by shares (encoded, 0…1), and the means of Oklab's a and b. */
export interface WholeClip {
  readonly tones: Percentiles;
  readonly magenta: number;
  readonly warmth: number;
}

/** Encoded luma (0…1) that is nothing in a plate laid over, and all in one that darkens. */
export interface PlatePoints {
  readonly black: number;
  readonly white: number;
}
