/**
 * Places to decode from (a file, or numbered links to the pictures of a folder), and content
 * hashes.
 */
import { createHash } from 'node:crypto';
import { createReadStream } from 'node:fs';
import { lstat, readdir, rm, stat } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { basename, extname, join } from 'node:path';
import { randomUUID } from 'node:crypto';
import { type SequenceChoice, USUAL_SEQUENCE } from '../../core';
import { type Rate } from '../../core/time';
import { type Footage, NotFootage } from './footage';
import { input, patternIn, run } from './run';
import { numberPictures } from './sequence';

/** SHA-256 of a file. */
export async function hashOf(file: string): Promise<string> {
  const h = createHash('sha256');
  for await (const part of createReadStream(file)) h.update(part as Buffer);
  return h.digest('hex');
}

/** File extensions of pictures. */
export const PICTURES = new Set([
  '.png',
  '.jpg',
  '.jpeg',
  '.tif',
  '.tiff',
  '.webp',
  '.bmp',
  '.exr',
  '.dpx',
  '.tga',
]);
/** Whether a file's name is a picture's. */
export const isPicture = (name: string): boolean =>
  !basename(name).startsWith('.') && PICTURES.has(extname(name).toLowerCase());
const natural = new Intl.Collator('en', { numeric: true });

/** Pictures of a folder in natural order, of the most frequent extension. */
export async function picturesIn(folder: string): Promise<string[]> {
  const all = (await readdir(folder)).filter(isPicture).sort(natural.compare);
  const counts = new Map<string, number>();
  for (const n of all)
    counts.set(extname(n).toLowerCase(), (counts.get(extname(n).toLowerCase()) ?? 0) + 1);
  const kind = [...counts].sort((a, b) => b[1] - a[1])[0]?.[0];
  return all.filter((n) => extname(n).toLowerCase() === kind).map((n) => join(folder, n));
}

const MATROSKA = new Set(['.webm', '.mkv']);
/**
 * Coverage of VP8 and VP9 is stored beside the picture; only the format's own library decodes it.
 */
async function coverageDecoder(path: string): Promise<{ decoder?: string }> {
  const shown = [
    '-select_streams',
    'v:0',
    '-show_entries',
    'stream=codec_name:stream_tags=alpha_mode',
    '-of',
    'csv=p=0',
  ];
  const { out } = await run('ffprobe', [...shown, ...input(path)]).catch(() => ({ out: '' }));
  const found = /^(vp[89]),1/.exec(out.toString());
  return found ? { decoder: found[1] === 'vp9' ? 'libvpx-vp9' : 'libvpx' } : {};
}

/** A place to decode from: a file, or a numbered pattern for a sequence. */
export interface Place {
  readonly kind: Footage['kind'];
  readonly open: readonly string[];
  readonly file: string;
  /** Its name for people. */
  readonly name: string;
  /** Decoder to use where ffmpeg's default would lose the coverage. */
  readonly decoder?: string;
  /** A sequence's folder of numbered links, and its pictures in order. */
  readonly folder?: string;
  readonly pictures?: readonly string[];
  readonly sequence?: SequenceChoice;
  /** What was made good in a sequence, as text, and as a part of its content's name. */
  readonly notes?: readonly string[];
  /** Number of its pictures that are missing. */
  readonly missing?: number;
  readonly variant?: string;
}

/** Options of `placeOf`. */
export interface PlaceOptions {
  /** Rate of a sequence. */
  readonly rate?: Rate | undefined;
  /** Folder for a sequence's numbered links. Default: a temporary one. */
  readonly links?: string | undefined;
  /** What becomes of missing pictures and of those of another size. */
  readonly sequence?: SequenceChoice | undefined;
  /** Name in messages. Default: the file's. */
  readonly name?: string | undefined;
}

/** A path as a place; a folder becomes links numbered from 0. Throws `NotFootage`. */
export async function placeOf(
  path: string,
  { rate = [25, 1], links, name = basename(path), sequence = USUAL_SEQUENCE }: PlaceOptions = {},
): Promise<Place> {
  const found = await stat(path).catch(() => undefined);
  if (!found) throw new NotFootage(`there is no file "${path}": check the path`);
  if (!found.isDirectory()) {
    if (found.size === 0)
      throw new NotFootage(`"${name}" is empty (0 bytes): copy it again from its source`);
    const extension = extname(path).toLowerCase();
    if (PICTURES.has(extension))
      return {
        kind: 'still',
        open: input(path, '-f', 'image2', '-pattern_type', 'none', '-framerate', rate.join('/')),
        file: path,
        name,
      };
    const { decoder } = MATROSKA.has(extension) ? await coverageDecoder(path) : {};
    return {
      kind: 'video',
      open: input(path, ...(decoder ? ['-c:v', decoder] : [])),
      file: path,
      name,
      ...(decoder && { decoder }),
    };
  }
  const pictures = await picturesIn(path);
  if (pictures.length === 0)
    throw new NotFootage(`the folder "${name}" holds no pictures (PNG, JPEG, TIFF, EXR, DPX …)`);
  const folder = links ?? join(tmpdir(), `wabisabi-sequence-${randomUUID()}`);
  const pattern = patternIn(folder, `%08d${extname(pictures[0]!)}`);
  const there = await lstat(folder).catch(() => undefined);
  const numbered = there ? undefined : await numberPictures(pictures, folder, sequence, name);
  return {
    kind: 'sequence',
    open: input(pattern, '-f', 'image2', '-start_number', '0', '-framerate', rate.join('/')),
    file: pattern,
    name,
    folder,
    pictures,
    sequence,
    ...numbered,
  };
}
/** Removes what `placeOf` created for a sequence. */
export const leave = async (place: Place): Promise<void> => {
  if (place.folder) await rm(place.folder, { recursive: true, force: true });
};

/** SHA-256 of a file; for a sequence, of the files' hashes. */
export async function contentHash(path: string, place: Place): Promise<string> {
  if (place.kind !== 'sequence') return hashOf(path);
  const h = createHash('sha256');
  for (const p of await picturesIn((await stat(path)).isDirectory() ? path : join(path, '..')))
    h.update(await hashOf(p));
  if (place.variant) h.update(place.variant);
  return h.digest('hex');
}
