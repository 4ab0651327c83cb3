/** The sound of a retimed clip for playing, computed beside the page's other work. */
import {
  alongRetime,
  interleaved,
  retimedSound,
  samplesOf,
  SOUND_RATE,
  waveHead,
} from '../../../core';
import type { Rate, RetimeMap } from '../../../core/time';

/** Samples computed before the page has its turn: a few milliseconds. */
const BLOCK = 4096;

/** A retimed clip: its map, and its frames per second. */
export interface RetimedClip {
  readonly map: RetimeMap;
  readonly rate: Rate;
}

/** The sound of footage along a clip's retime, as a wave file. Throws if the signal ends it. */
export async function retimedBlob(
  recorded: Blob,
  { map, rate }: RetimedClip,
  signal: AbortSignal,
): Promise<Blob> {
  const context = new OfflineAudioContext(1, 1, SOUND_RATE);
  const decoded = await context.decodeAudioData(await recorded.arrayBuffer());
  const source = Array.from({ length: decoded.numberOfChannels }, (_, c) =>
    decoded.getChannelData(c),
  );
  const along = alongRetime(map, rate),
    count = samplesOf(map.frames, rate);
  const parts: BlobPart[] = [waveHead(source.length, count, SOUND_RATE) as Uint8Array<ArrayBuffer>];
  for (let at = 0; at < count; at += BLOCK) {
    signal.throwIfAborted();
    parts.push(interleaved(retimedSound(source, along, at, Math.min(BLOCK, count - at))));
    await new Promise((turn) => setTimeout(turn));
  }
  return new Blob(parts, { type: 'audio/wav' });
}
