import type { Loudness } from './loudness';

/** Loudness as it is kept: null where it is silent, or too short or soft to be measured. */
export type KeptLoudness = { readonly [K in keyof Loudness]: number | null };

/** What is known of a sound file. */
export interface SoundFacts extends KeptLoudness {
  readonly codec: string;
  readonly channels: number;
  /** Samples a second in the file. */
  readonly rate: number;
  /** Number of tracks: the first is used. */
  readonly tracks: number;
  /** Length, in samples of `SOUND_RATE`. */
  readonly samples: number;
  /** Seconds of the beats that were found. */
  readonly beats: readonly number[];
}
/** Loudness as it is kept. */
export function keptLoudness(found: Loudness): KeptLoudness {
  const figure = (v: number): number | null => (Number.isFinite(v) ? v : null);
  return {
    integrated: figure(found.integrated),
    shortTerm: figure(found.shortTerm),
    truePeak: figure(found.truePeak),
  };
}
