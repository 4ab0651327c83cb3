/**
 * Makes interlaced footage progressive: separates the two fields of each frame, and interpolates
 * missing rows with FFmpeg's bwdif.
 */
import type { Fields } from '../../core';
import type { Footage } from './footage';
import type { Place } from './place';
import { run } from './run';

/** How footage is made progressive. */
export interface Progressive {
  readonly first: Exclude<Fields, 'none'>;
  /** Frames made from each pair of fields. */
  readonly each: 1 | 2;
}

/** Writes it losslessly with sound and tags. Reports progress 0…1. */
export async function makeProgressive(
  place: Place,
  footage: Footage,
  { first, each }: Progressive,
  to: string,
  onProgress: (share: number) => void,
  signal?: AbortSignal,
): Promise<void> {
  const parity = first === 'top' ? 'tff' : 'bff';
  const filters = `setfield=${parity},bwdif=mode=${each === 1 ? 'send_frame' : 'send_field'}:parity=${parity}:deint=all`;
  const frames = footage.index.hashes.length * each;
  await run(
    'ffmpeg',
    [
      '-progress',
      'pipe:1',
      ...place.open,
      ...['-map', '0:v:0', '-map', '0:a:0?', '-c:a', 'copy'],
      ...[
        '-vf',
        filters,
        '-pix_fmt',
        footage.pixelFormat,
        '-c:v',
        'ffv1',
        '-level',
        '3',
        '-g',
        '1',
        '-field_order',
        'progressive',
      ],
      ...['-f', 'matroska', to],
    ],
    (line) => {
      const frame = /^frame=(\d+)/.exec(line);
      if (frame) onProgress(Math.min(1, Number(frame[1]) / frames));
    },
    signal,
  );
}
