/** How loud a sound is, in words. */
import type { KeptLoudness } from './facts';

const figure = (v: number | null): string =>
  (v !== null && Number.isFinite(v) ? v.toFixed(1) : '−∞').replace('-', '−');
/** Integrated loudness alone, or the peak where it could not be measured. */
export const loudnessInShort = ({ integrated, truePeak }: KeptLoudness): string =>
  figure(truePeak) === '−∞'
    ? 'silent'
    : figure(integrated) === '−∞'
      ? `peak ${figure(truePeak)} dBTP`
      : `${figure(integrated)} LUFS`;
/** Integrated, the loudest three seconds, and the true peak. */
export function loudnessInWords({ integrated, shortTerm, truePeak }: KeptLoudness): string {
  if (figure(truePeak) === '−∞') return 'silent';
  const peak = `true peak ${figure(truePeak)} dBTP`;
  return figure(integrated) === '−∞'
    ? `too short or soft for LUFS, ${peak}`
    : `${figure(integrated)} LUFS, at most ${figure(shortTerm)} over three seconds, ${peak}`;
}
