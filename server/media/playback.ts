/**
 * Makes rendered files playable on pages: as they are, or as a small copy made on demand for
 * formats that browsers cannot read.
 */
import { randomUUID } from 'node:crypto';
import { once } from 'node:events';
import { rename, rm, stat } from 'node:fs/promises';
import { extname } from 'node:path';
import type { Readable } from 'node:stream';
import { buffer } from 'node:stream/consumers';
import { promisify } from 'node:util';
import yauzl from 'yauzl';
import { DELIVERY_FORMATS } from '../../core';
import type { Rate } from '../../core/time';
import { input, run, Sink } from './run';

/** Endings of files that browsers play. */
const PLAYED = DELIVERY_FORMATS.flatMap((f) => (f.plays ? [`.${f.ending}`] : []));
const LINES = 540;

/** A rendered file with its frames and rate. */
export interface Rendered {
  readonly path: string;
  readonly frames: number;
  readonly rate: Rate;
}
interface Making {
  /** Progress, 0…1. */
  share: number;
  readonly stop: AbortController;
  readonly ended: Promise<void>;
  failed?: Error;
}
const making = new Map<string, Making>();

const copyOf = (path: string): string => `${path}.playback.webm`;
const madeAt = (path: string): Promise<number> =>
  stat(path).then(
    (s) => s.mtimeMs,
    () => 0,
  );
/**
 * Path of the playable file; undefined if there is no copy yet. A file rendered again needs a new
 * copy.
 */
export async function playbackOf(path: string): Promise<string | undefined> {
  if (PLAYED.includes(extname(path).toLowerCase())) return path;
  const copy = copyOf(path);
  return (await madeAt(copy)) > (await madeAt(path)) ? copy : undefined;
}

/** Progress of the copy, 0…1; starts it if needed. Throws the error of making it. */
export async function preparePlayback(file: Rendered): Promise<number> {
  const known = making.get(file.path);
  if (known?.failed) {
    making.delete(file.path);
    throw known.failed;
  }
  // The end is written after the last frame is read.
  if (known) return Math.min(0.99, known.share);
  if (await playbackOf(file.path)) return 1;
  const stop = new AbortController();
  const began: Making = { share: 0, stop, ended: Promise.resolve() };
  const ended = make(file, (share) => (began.share = share), stop.signal).then(
    () => void making.delete(file.path),
    (e: Error) => {
      if (stop.signal.aborted) making.delete(file.path);
      else began.failed = e;
    },
  );
  making.set(file.path, Object.assign(began, { ended }));
  return 0;
}

/** Stops making a copy and removes what there is of it. */
export async function stopPlayback(path: string): Promise<void> {
  const known = making.get(path);
  known?.stop.abort();
  await known?.ended;
}

/** A small picture of even size over black, encoded fast. */
const PICTURE = [
  ...[
    '-vf',
    `format=gbrap16le,premultiply=inplace=1,scale=-2:'2*floor(min(${LINES},ih)/2)':flags=area,format=yuv420p`,
  ],
  ...['-c:v', 'libvpx-vp9', '-deadline', 'realtime', '-cpu-used', '8', '-crf', '24', '-b:v', '0'],
];

async function make(
  { path, frames, rate }: Rendered,
  onShare: (share: number) => void,
  signal: AbortSignal,
): Promise<void> {
  const part = `${copyOf(path)}.${randomUUID()}.webm`;
  try {
    if (extname(path).toLowerCase() === '.zip') {
      const sink = new Sink([
        '-f',
        'image2pipe',
        '-c:v',
        'png',
        '-framerate',
        rate.join('/'),
        '-i',
        'pipe:0',
        ...PICTURE,
        part,
      ]);
      signal.addEventListener('abort', () => sink.kill());
      try {
        let done = 0;
        for await (const picture of picturesIn(path)) {
          signal.throwIfAborted();
          await sink.write(picture);
          onShare(++done / frames);
        }
        await sink.end();
      } catch (e) {
        sink.kill();
        throw e;
      }
    } else {
      const sound = ['-map', '0:v:0', '-map', '0:a:0?', '-c:a', 'libopus', '-b:a', '128k'];
      const args = ['-progress', 'pipe:1', ...input(path), ...sound, ...PICTURE, part];
      await run(
        'ffmpeg',
        args,
        (line) => /^frame=\d/.test(line) && onShare(Math.min(1, Number(line.slice(6)) / frames)),
        signal,
      );
    }
    await rename(part, copyOf(path));
  } finally {
    await rm(part, { force: true });
  }
}

const opened = promisify<string, yauzl.Options, yauzl.ZipFile>(yauzl.open);

/** The files of an archive, one by one. */
async function* picturesIn(archive: string): AsyncGenerator<Uint8Array> {
  const zip = await opened(archive, { lazyEntries: true, autoClose: false });
  const read = promisify<yauzl.Entry, Readable>(zip.openReadStream.bind(zip));
  try {
    for await (const entry of entriesOf(zip)) yield await buffer(await read(entry));
  } finally {
    zip.close();
  }
}
async function* entriesOf(zip: yauzl.ZipFile): AsyncGenerator<yauzl.Entry> {
  for (let k = 0; k < zip.entryCount; k++) {
    const next = once(zip, 'entry') as Promise<[yauzl.Entry]>;
    zip.readEntry();
    yield (await next)[0];
  }
}
