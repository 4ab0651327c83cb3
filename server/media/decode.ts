/** Decodes exact frames of footage, as native planes. */
import { createHash } from 'node:crypto';
import { frameBytes, planesIn, type RawFrame } from '../../core';
import { type Footage, sourceFrame } from './footage';
import { planeOrder } from './formats';
import type { Place } from './place';
import { inPlainWords, streamed, ToolFailed } from './run';

/** A decoded frame differs from the one in the index. */
export class WrongFrame extends Error {}

/** Raw frames of the source from `first` on, `count` of them, from ffmpeg. */
async function* decoded(
  place: Place,
  footage: Footage,
  first: number,
  count: number,
  fromStart: boolean,
  signal?: AbortSignal,
): AsyncGenerator<Buffer> {
  const { times } = footage.index;
  // Half a frame early: the seek goes to the keyframe before and drops earlier frames.
  const seek =
    place.kind === 'video' && first > 0 && !fromStart
      ? ['-ss', ((times[first]! + times[first - 1]!) / 2).toFixed(6)]
      : [];
  const skip = seek.length === 0 && first > 0 ? ['-vf', `select=gte(n\\,${first})`] : [];
  yield* streamed(
    [
      ...seek,
      ...place.open,
      ...['-map', '0:v:0'],
      ...skip,
      ...[
        '-frames:v',
        String(count),
        '-fps_mode',
        'passthrough',
        '-pix_fmt',
        footage.pixelFormat,
        '-f',
        'rawvideo',
        '-',
      ],
    ],
    frameBytes(footage.format),
    signal,
  );
}

const md5 = (b: Buffer): string => createHash('md5').update(b).digest('hex');

/**
 * Source frames `first` to `last`, each checked against the index. Containers that seek badly are
 * read from their start.
 */
async function* checked(
  place: Place,
  footage: Footage,
  first: number,
  last: number,
  signal?: AbortSignal,
): AsyncGenerator<Buffer> {
  let next = first,
    why = '';
  for (const fromStart of [false, true]) {
    try {
      for await (const frame of decoded(place, footage, next, last - next + 1, fromStart, signal)) {
        if (md5(frame) !== footage.index.hashes[next]) break;
        yield frame;
        if (next++ === last) return;
      }
    } catch (e) {
      if (!(e instanceof ToolFailed) || signal?.aborted) throw e;
      why = ` (${inPlainWords(e.said).split('\n')[0]})`;
    }
  }
  throw new WrongFrame(
    `frame ${next} cannot be read as it was when the footage came in${why}: import the file again`,
  );
}

/** Content key of a source frame. */
export const rawKey = (footage: Footage, source: number): string => `${footage.hash}:${source}`;

function rawFrame(bytes: Buffer, footage: Footage, source: number): RawFrame {
  // In its own memory: aligned for 16-bit samples, and safe from the next read.
  const planes = planesIn(bytes.buffer, bytes.byteOffset, footage.format);
  const order = planeOrder(footage.format);
  return {
    format: footage.format,
    planes: order ? order.map((i) => planes[i]!) : planes,
    key: rawKey(footage, source),
  };
}

/**
 * Output frames `first` to `last` (at the footage's steady rate). A source frame that is shown
 * twice is decoded once.
 */
export async function* frames(
  place: Place,
  footage: Footage,
  first: number,
  last: number,
  signal?: AbortSignal,
): AsyncGenerator<RawFrame> {
  const from = sourceFrame(footage, first),
    to = sourceFrame(footage, last);
  let frame = first;
  let source = from;
  for await (const bytes of checked(place, footage, from, to, signal)) {
    const raw = rawFrame(bytes, footage, source);
    while (frame <= last && sourceFrame(footage, frame) === source) {
      yield raw;
      frame++;
    }
    source++;
  }
}

/** One output frame. */
export async function frameOf(
  place: Place,
  footage: Footage,
  frame: number,
  signal?: AbortSignal,
): Promise<RawFrame> {
  for await (const raw of frames(place, footage, frame, frame, signal)) return raw;
  throw new WrongFrame(`frame ${frame} cannot be read`);
}
