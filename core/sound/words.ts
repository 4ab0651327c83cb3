/** How loud a sound is, in words. */
import type { Loudness } from './loudness';

/** Loudness as it is kept: null, or −∞, where it is silent. */
export type KeptLoudness = { readonly [K in keyof Loudness]: number | null };

const figure = (v: number | null): string =>
  (v !== null && Number.isFinite(v) ? v.toFixed(1) : '−∞').replace('-', '−');
/** Integrated, the loudest three seconds, and the true peak. */
export function loudnessInWords({ integrated, shortTerm, truePeak }: KeptLoudness): string {
  if (figure(truePeak) === '−∞') return 'silent';
  const peak = `true peak ${figure(truePeak)} dBTP`;
  return figure(integrated) === '−∞'
    ? `too short or soft for LUFS, ${peak}`
    : `${figure(integrated)} LUFS, at most ${figure(shortTerm)} over three seconds, ${peak}`;
}
