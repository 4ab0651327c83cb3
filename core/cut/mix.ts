/**
 * The mix: sounds with levels, fades and pan added up in float at `SOUND_RATE`, to the sample. The
 * same on the server and in the terminal; a page plays what the server mixed.
 */
import { exp2d, log2d, sinTurnsd } from '../kernel';
import type { Channels } from '../sound';
import type { SoundCurve } from './document';

/** A sound as it is heard. */
export interface Heard {
  /** Its first sample in the mix, and its length there. */
  readonly at: number;
  readonly samples: number;
  /** dB; 0 leaves samples as they are. */
  readonly level: number;
  /** −100 left … 100 right, by which the other side is lowered. */
  readonly pan?: number | undefined;
  /** Samples over which it comes and goes. */
  readonly comes?: number | undefined;
  readonly goes?: number | undefined;
  readonly curve?: SoundCurve | undefined;
}
/** Two channels of a block. */
export type Mixed = readonly [Float32Array, Float32Array];

/** dB as a factor; exactly 1 at 0. */
export const gainOf = (decibels: number): number =>
  decibels === 0 ? 1 : exp2d((decibels / 20) * log2d(10));

/**
 * The share of a fade at sample `i` of `of`: it begins near 0 and ends near 1, and two that cross
 * add up to the same (linear), or to the same power.
 */
export function fadeShare(i: number, of: number, curve: SoundCurve): number {
  if (i >= of) return 1;
  const x = (i + 0.5) / of;
  return curve === 'linear' ? x : sinTurnsd(x / 4);
}

/**
 * Samples `first` to `first + count − 1` of a mix. `read` gives a sound's own samples from one on,
 * counted from where it is heard; a single channel goes to both sides, of more than two the first
 * two are heard. Any split into blocks gives the same samples.
 */
export async function mixed<H extends Heard>(
  sounds: readonly H[],
  first: number,
  count: number,
  read: (sound: H, from: number, count: number) => Promise<Channels>,
): Promise<Mixed> {
  const out: Mixed = [new Float32Array(count), new Float32Array(count)];
  // In order, so that sums are the same however they are split.
  for (const sound of sounds) {
    const from = Math.max(first, sound.at),
      to = Math.min(first + count, sound.at + sound.samples);
    if (from >= to) continue;
    const channels = await read(sound, from - sound.at, to - from);
    if (channels.length > 0) add(out, sound, channels, from, first);
  }
  return out;
}

function add(out: Mixed, sound: Heard, channels: Channels, from: number, first: number): void {
  const { at, samples, level, pan = 0, comes = 0, goes = 0, curve = 'equal-power' } = sound;
  const gain = gainOf(level),
    [left, right] = [gain * Math.min(1, 1 - pan / 100), gain * Math.min(1, 1 + pan / 100)];
  const [one, two = one] = channels as [Float32Array, Float32Array?];
  for (let i = 0; i < one.length; i++) {
    const k = from - at + i;
    const share = fadeShare(k, comes, curve) * fadeShare(samples - 1 - k, goes, curve);
    out[0][from - first + i]! += one[i]! * left * share;
    out[1][from - first + i]! += two![i]! * right * share;
  }
}
