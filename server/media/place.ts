/** A place to decode from: a file, or numbered links to the pictures of a folder; its content's hash. */
import { createHash } from 'node:crypto';
import { createReadStream } from 'node:fs';
import { lstat, mkdir, readdir, rm, stat, symlink } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { basename, extname, join, resolve } from 'node:path';
import { randomUUID } from 'node:crypto';
import { type Rate } from '../../core/time';
import { type Footage, NotFootage } from './footage';
import { input, run } from './run';

export async function hashOf(file: string): Promise<string> {
  const h = createHash('sha256');
  for await (const part of createReadStream(file)) h.update(part as Buffer);
  return h.digest('hex');
}

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
const natural = new Intl.Collator('en', { numeric: true });

/** Pictures of a folder in natural order; the sequence's own extension is the commonest. */
export async function picturesIn(folder: string): Promise<string[]> {
  const all = (await readdir(folder))
    .filter((n) => !n.startsWith('.') && PICTURES.has(extname(n).toLowerCase()))
    .sort(natural.compare);
  const counts = new Map<string, number>();
  for (const n of all)
    counts.set(extname(n).toLowerCase(), (counts.get(extname(n).toLowerCase()) ?? 0) + 1);
  const kind = [...counts].sort((a, b) => b[1] - a[1])[0]?.[0];
  return all.filter((n) => extname(n).toLowerCase() === kind).map((n) => join(folder, n));
}

const MATROSKA = new Set(['.webm', '.mkv']);
/**
 * Coverage of VP8 and VP9 lies beside the picture in its container, where only the format's own
 * library decodes it.
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

/** A place to decode from: the file itself, or a numbered pattern for a sequence of pictures. */
export interface Place {
  readonly kind: Footage['kind'];
  readonly open: readonly string[];
  readonly file: string;
  /** What people call it. */
  readonly name: string;
  /** Where ffmpeg's own choice of decoder would lose the coverage. */
  readonly decoder?: string;
}

export interface PlaceOptions {
  /** Of pictures. */
  readonly rate?: Rate | undefined;
  /** Where a sequence's numbered links are made; a folder of their own by default. */
  readonly links?: string | undefined;
  /** What it is called in messages; by default as the file is. */
  readonly name?: string | undefined;
}

/** `path` as a place: a folder becomes links numbered from 0. Throws `NotFootage`. */
export async function placeOf(
  path: string,
  { rate = [25, 1], links, name = basename(path) }: PlaceOptions = {},
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
  const extension = extname(pictures[0]!);
  const pattern = join(folder, `%08d${extension}`);
  if (!(await lstat(folder).catch(() => undefined))) {
    await mkdir(folder, { recursive: true });
    await Promise.all(
      pictures.map((p, i) =>
        symlink(resolve(p), join(folder, `${String(i).padStart(8, '0')}${extension}`)),
      ),
    );
  }
  return {
    kind: 'sequence',
    open: input(pattern, '-f', 'image2', '-start_number', '0', '-framerate', rate.join('/')),
    file: pattern,
    name,
  };
}
/** Removes what `placeOf` made for a sequence. */
export const leave = async (place: Place): Promise<void> => {
  if (place.kind === 'sequence') await rm(join(place.file, '..'), { recursive: true, force: true });
};

/** SHA-256 of a file; of the files' hashes for a sequence. */
export async function contentHash(path: string, place: Place): Promise<string> {
  if (place.kind !== 'sequence') return hashOf(path);
  const h = createHash('sha256');
  for (const p of await picturesIn((await stat(path)).isDirectory() ? path : join(path, '..')))
    h.update(await hashOf(p));
  return h.digest('hex');
}
