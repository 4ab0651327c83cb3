/** Sounds of a project in words. */
import { loudnessInWords, SOUND_RATE } from '../../core';
import type { SoundView } from '../data/views';

/** Minutes and seconds of a moment of a sound, to a tenth. */
export function clock(second: number): string {
  const tenths = Math.floor(second * 10 + 1e-6);
  return `${Math.floor(tenths / 600)}:${((tenths % 600) / 10).toFixed(1).padStart(4, '0')}`;
}
/** Seconds of a sound. */
export const secondsOf = ({ samples }: Pick<SoundView, 'samples'>): number => samples / SOUND_RATE;

const CHANNELS: Readonly<Record<number, string>> = { 1: 'mono', 2: 'stereo' };
/** Length, channels, rate and loudness. */
export const soundFacts = (s: SoundView): string =>
  [
    clock(secondsOf(s)),
    CHANNELS[s.channels] ?? `${s.channels} channels`,
    `${s.rate / 1000} kHz${s.rate === SOUND_RATE ? '' : `, used at ${SOUND_RATE / 1000}`}`,
    s.codec,
    ...(s.tracks > 1 ? [`the first of ${s.tracks} tracks`] : []),
    loudnessInWords(s),
  ].join(' · ');
