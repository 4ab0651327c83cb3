/** What FFmpeg reads without a word although it is doubtful, by kind of file. */
import { type EncodingId, FLOAT, LARGEST_HALF, linearWith } from '../../core';
import { readExr } from './exr';
import { NotFootage } from './footage';
import type { Delivered } from './formats';
import { isWholeGif } from './gif';
import type { Place } from './place';
import { run, streamed } from './run';
import type { Stream } from './stream-facts';

/** Doubts as text, and the encoding where the file itself says it better than its tags. */
export interface Inside {
  readonly doubts: readonly string[];
  readonly encoding?: EncodingId;
}

/** Looks into a file for what its kind hides. Throws `NotFootage` where a part is missing. */
export async function doubtsInside(
  path: string,
  place: Place,
  v: Stream,
  asked: Delivered,
  signal?: AbortSignal,
): Promise<Inside> {
  switch (v.codec_name) {
    case 'exr':
      return ofExr(place.pictures ?? [path], place, v, asked, signal);
    case 'gif':
      return (await isWholeGif(path))
        ? { doubts: [] }
        : { doubts: ['its end is missing: there may have been more frames'] };
    case 'ffv1':
      return (await hasChecksums(place, signal))
        ? { doubts: [] }
        : { doubts: ['its FFV1 frames carry no checksums: damage in them would not show'] };
    default:
      return { doubts: [] };
  }
}

async function ofExr(
  files: readonly string[],
  place: Place,
  v: Stream,
  asked: Delivered,
  signal?: AbortSignal,
): Promise<Inside> {
  const found: string[] = [];
  let encoding: EncodingId | undefined = 'linear';
  for (const [i, file] of files.entries()) {
    const facts = await readExr(file);
    if (!facts) continue;
    if (facts.whole < facts.parts)
      throw new NotFootage(
        `"${place.name}" is cut short${files.length > 1 ? ` in its picture ${i}` : ''} ` +
          `(${facts.whole} of ${facts.parts} parts of the picture are there): ` +
          'copy it again from its source',
      );
    if (i > 0) continue;
    encoding = linearWith(facts.primaries);
    const { red, green, blue, white } = facts.primaries;
    const said = [red, green, blue, white].map((p) => p.map((n) => n.toFixed(4)).join(' '));
    if (!encoding)
      found.push(`its primaries (${said.join(', ')}) are none that are known: read as BT.709`);
  }
  const broken = await brokenSamples(place, v, asked, signal);
  if (broken > 0)
    found.push(
      `${broken} of its samples are infinite or no numbers: read as ${LARGEST_HALF} and 0`,
    );
  return { doubts: found, encoding: encoding ?? 'linear' };
}

/** Number of samples that are infinite or no numbers, in all frames. */
async function brokenSamples(
  place: Place,
  { width, height }: Stream,
  { ask, depth, layout, alpha }: Delivered,
  signal?: AbortSignal,
): Promise<number> {
  if (depth !== FLOAT) return 0;
  const planes = (layout === 'gray' ? 1 : 3) + (alpha ? 1 : 0);
  const args = [...place.open, '-map', '0:v:0', '-fps_mode', 'passthrough', '-pix_fmt', ask];
  let found = 0;
  for await (const frame of streamed(
    [...args, '-f', 'rawvideo', '-'],
    width! * height! * planes * 4,
    signal,
  )) {
    const samples = new Float32Array(frame.buffer, frame.byteOffset, frame.length / 4);
    for (let i = 0; i < samples.length; i++) if (!Number.isFinite(samples[i]!)) found++;
  }
  return found;
}

/** Whether FFV1's frames carry checksums, by what its decoder says of the stream's header. */
async function hasChecksums(place: Place, signal?: AbortSignal): Promise<boolean> {
  const args = ['-v', 'debug', '-debug', 'pict', ...place.open, '-map', '0:v:0'];
  const { said } = await run(
    'ffmpeg',
    [...args, '-frames:v', '1', '-f', 'null', '-'],
    undefined,
    signal,
  );
  return /\bec:1\b/.test(said);
}
