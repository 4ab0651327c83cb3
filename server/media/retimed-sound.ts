/** The sound of retimed clips: pitch goes with speed, as long as the pictures to the sample. */
import { open, rm } from 'node:fs/promises';
import {
  alongRetime,
  interleaved,
  retimedSound,
  samplesOf,
  SOUND_RATE,
  waveHead,
} from '../../core';
import type { RetimeMap } from '../../core/time';
import type { Footage } from './footage';
import type { Place } from './place';
import { soundSamples } from './sound-samples';

/** The codec of sound that was computed: it is never copied. */
export const COMPUTED = 'pcm_f32le';
/** Samples computed at a time. */
const BLOCK = 1 << 16;
/** Samples of the source that are read beyond those shown: what the widest filter reaches. */
const BEYOND = 1024;

/** Frames of a retimed clip: the first, and how many. */
export interface Played {
  readonly map: RetimeMap;
  readonly first: number;
  readonly frames: number;
}

/**
 * Writes the first track of footage's sound along a retime as a wave file in float, at `SOUND_RATE`.
 * Throws `ToolFailed`.
 */
export async function writeRetimedSound(
  place: Place,
  footage: Pick<Footage, 'rate' | 'sound'>,
  { map, first, frames }: Played,
  to: string,
): Promise<void> {
  const begins = samplesOf(first, footage.rate),
    count = samplesOf(first + frames, footage.rate) - begins;
  const along = alongRetime(map, footage.rate);
  const ends = [along(begins), along(begins + count)];
  const from = Math.max(0, Math.floor(Math.min(...ends)) - BEYOND);
  const until = Math.max(from + 1, Math.ceil(Math.max(...ends)) + BEYOND);
  const source = await soundSamples(place.open, footage.sound?.channels ?? 1, [
    `atrim=start_sample=${from}:end_sample=${until}`,
  ]);
  const file = await open(to, 'w');
  try {
    await file.write(waveHead(source.length, count, SOUND_RATE));
    for (let at = 0; at < count; at += BLOCK) {
      const n = Math.min(BLOCK, count - at);
      const block = retimedSound(source, (s) => along(s) - from, begins + at, n);
      await file.write(new Uint8Array(interleaved(block).buffer));
    }
  } catch (e) {
    await rm(to, { force: true });
    throw e;
  } finally {
    await file.close();
  }
}
