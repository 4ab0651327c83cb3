/**
 * Beats of sound by the method of Dixon, *Automatic Extraction of Tempo and Beat from Expressive
 * Performances*, 2001, in overlapping stretches, so that the tempo may change.
 */
import { setImmediate as others } from 'node:timers/promises';
import MusicTempo from 'music-tempo';
import { type FoundStretch, joinedBeats } from '../../core';

/** Samples a second that the method works at. */
export const BEATS_RATE = 44_100;
/** Seconds of a stretch, and from one to the next. */
const LONG = 12,
  HOP = 6;

/**
 * Beats of mono samples at `BEATS_RATE`, in seconds; none where none are found. Lets others work
 * between stretches. Throws if the signal says so.
 */
export async function beatsIn(mono: Float32Array, signal?: AbortSignal): Promise<number[]> {
  const seconds = mono.length / BEATS_RATE;
  const count = Math.max(1, Math.ceil((seconds - LONG) / HOP) + 1);
  const stretches: FoundStretch[] = [];
  for (let i = 0; i < count; i++) {
    const from = i * HOP,
      to = i === count - 1 ? seconds : from + LONG;
    const part = mono.subarray(Math.round(from * BEATS_RATE), Math.round(to * BEATS_RATE));
    await others(undefined, { signal });
    stretches.push({ from, to, beats: found(part).map((b) => b + from) });
  }
  return joinedBeats(stretches).map((b) => Math.round(b * 1e4) / 1e4);
}
function found(part: Float32Array): readonly number[] {
  try {
    return new MusicTempo(part).beats;
  } catch {
    // Nothing to tell a tempo by: silence, or a single event.
    return [];
  }
}
