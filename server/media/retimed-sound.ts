/** The sound of retimed clips: pitch goes with speed, as long as the pictures to the sample. */
import { open } from 'node:fs/promises';
import {
  alongRetime,
  type Channels,
  interleaved,
  retimedSound,
  samplesOf,
  waveHead,
} from '../../core';
import type { RetimeMap } from '../../core/time';
import type { Footage } from './footage';
import type { Place } from './place';
import { run } from './run';

/** Samples per second of all sound that is computed. */
export const SOUND_RATE = 48_000;
/** The codec of sound that was computed: it is never copied. */
export const COMPUTED = 'pcm_f32le';
/** Samples computed at a time. */
const BLOCK = 1 << 16;
/** Samples of the source that are read beyond those shown: what the widest filter reaches. */
const BEYOND = 1024;
const BYTES = 4;

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
  const begins = samplesOf(first, footage.rate, SOUND_RATE),
    count = samplesOf(first + frames, footage.rate, SOUND_RATE) - begins;
  const along = alongRetime(map, footage.rate, SOUND_RATE);
  const ends = [along(begins), along(begins + count)];
  const from = Math.max(0, Math.floor(Math.min(...ends)) - BEYOND);
  const source = await decoded(place, footage, from, Math.ceil(Math.max(...ends)) + BEYOND);
  const file = await open(to, 'w');
  try {
    await file.write(waveHead(source.length, count, SOUND_RATE));
    for (let at = 0; at < count; at += BLOCK) {
      const n = Math.min(BLOCK, count - at);
      const block = retimedSound(source, (s) => along(s) - from, begins + at, n);
      await file.write(new Uint8Array(interleaved(block).buffer));
    }
  } finally {
    await file.close();
  }
}

/** Samples `from` to `to` (exclusive) of the first track; sound that starts late is preceded by silence. */
async function decoded(
  { open: opened }: Place,
  { sound }: Pick<Footage, 'sound'>,
  from: number,
  to: number,
): Promise<Channels> {
  const channels = sound?.channels ?? 1;
  const cut = `atrim=start_sample=${from}:end_sample=${Math.max(from + 1, to)}`;
  const { out } = await run('ffmpeg', [
    ...opened,
    ...['-map', '0:a:0', '-af', `aresample=${SOUND_RATE}:async=1:first_pts=0,${cut}`],
    ...['-ac', String(channels), '-f', 'f32le', '-c:a', 'pcm_f32le', '-'],
  ]);
  const count = Math.floor(out.length / (BYTES * channels));
  const planes = Array.from({ length: channels }, () => new Float32Array(count));
  for (let i = 0, at = 0; i < count; i++)
    for (let c = 0; c < channels; c++, at += BYTES) planes[c]![i] = out.readFloatLE(at);
  return planes;
}
