/** Grades of tape as data, and the two line systems. */
import grades from './grades.json';

export interface Grade {
  readonly name: string;
  readonly help: string;
  /**
   * MHz at −3 dB, how steeply it falls (the order of a Butterworth response), and how far it is
   * peaked below that.
   */
  readonly luma: { readonly width: number; readonly order: number; readonly peak: number };
  readonly chroma: { readonly width: number; readonly order: number };
  /**
   * Colour after luma, ns, and how it trails to the right, ns (the time constant of one pole's
   * phase).
   */
  readonly delay: number;
  readonly bleed: number;
  /** Rows that colour is averaged and moved down by. */
  readonly rows: number;
  /** White over the noise's effective value, dB. */
  readonly lumaNoise: number;
  readonly chromaNoise: number;
  /** MHz from which de-emphasis takes the noise of a demodulated carrier down. */
  readonly deEmphasis: number;
  /** Where white is clipped, of 1. */
  readonly white: number;
}
export const GRADES = grades as Readonly<Record<'studio' | 'home' | 'home-long', Grade>>;
export type GradeId = keyof typeof GRADES;

/** Samples a microsecond (ITU-R BT.601-7: 13.5 MHz for luma in both systems) and along a line. */
export const RATE = 13.5,
  ACROSS = 720;

/**
 * ITU-R BT.1700 (SMPTE 170M for 525 lines): active rows and line time, subcarrier and its cycles a
 * line.
 */
export const SYSTEMS = {
  '525': { rows: 480, active: 52.7, cycles: 227.5, alternates: false, firstRow: 1 },
  '625': { rows: 576, active: 52, cycles: 283.7516, alternates: true, firstRow: 0 },
} as const;
export type SystemId = keyof typeof SYSTEMS;

/** Samples that the picture's width takes, in the middle of the line. */
export const activeSamples = (system: SystemId): number => SYSTEMS[system].active * RATE;
