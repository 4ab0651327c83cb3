/** Grades of tape as data, and the two line systems. */
import grades from './grades.json';

/** A grade of tape. */
export interface Grade {
  readonly name: string;
  readonly help: string;
  /**
   * Width in MHz at −3 dB, steepness (the order of a Butterworth response), and peaking below that.
   */
  readonly luma: { readonly width: number; readonly order: number; readonly peak: number };
  readonly chroma: { readonly width: number; readonly order: number };
  /**
   * Delay of colour after luma, and how it trails to the right (the time constant of a pole), both
   * in ns.
   */
  readonly delay: number;
  readonly bleed: number;
  /** Rows that colour is averaged over and moved down by. */
  readonly rows: number;
  /** Signal-to-noise ratio in dB (white over effective value). */
  readonly lumaNoise: number;
  readonly chromaNoise: number;
  /** De-emphasis reduces the noise of the demodulated carrier from this frequency on, MHz. */
  readonly deEmphasis: number;
  /** Clipping level of white. */
  readonly white: number;
}
/** All grades. */
export const GRADES = grades as Readonly<Record<'studio' | 'home' | 'home-long', Grade>>;
/** The id of a grade. */
export type GradeId = keyof typeof GRADES;

/** Samples per microsecond (ITU-R BT.601-7: 13.5 MHz for luma in both systems) and per line. */
export const RATE = 13.5,
  ACROSS = 720;

/**
 * ITU-R BT.1700 (SMPTE 170M for 525 lines): active rows and line time, subcarrier and its cycles
 * per line.
 */
export const SYSTEMS = {
  '525': { rows: 480, active: 52.7, cycles: 227.5, alternates: false, firstRow: 1 },
  '625': { rows: 576, active: 52, cycles: 283.7516, alternates: true, firstRow: 0 },
} as const;
/** The id of a line system. */
export type SystemId = keyof typeof SYSTEMS;

/** Samples of the active line, centred on the line. */
export const activeSamples = (system: SystemId): number => SYSTEMS[system].active * RATE;
