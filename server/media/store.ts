/** Originals in the data folder, by content hash. */
import { randomUUID } from 'node:crypto';
import { copyFile, link, mkdir, readdir, rename, stat } from 'node:fs/promises';
import { basename, extname, join, relative } from 'node:path';
import { folder, inData } from '../config/settings';
import type { Footage } from './footage';
import { type Place, placeOf } from './place';

/**
 * Gives a file a second name by a hard link, or copies it where links are impossible. Existing
 * files are left, because names are content hashes.
 */
async function sameFile(from: string, to: string): Promise<void> {
  try {
    await link(from, to);
  } catch (e) {
    const { code } = e as NodeJS.ErrnoException;
    if (code === 'EEXIST') return;
    if (!['EPERM', 'ENOTSUP', 'EMLINK', 'EXDEV'].includes(code ?? '')) throw e;
    const part = `${to}.${randomUUID()}`;
    await copyFile(from, part);
    await rename(part, to);
  }
}

/**
 * Stores imported files (a file, or a folder of pictures) and returns the path relative to the data
 * folder. The source stays until the import is done, so that an interrupted import can restart.
 */
export async function storeOriginal(path: string, footage: Footage): Promise<string> {
  folder('footage', footage.hash);
  if (footage.kind === 'sequence') {
    const to = join('footage', footage.hash, 'pictures');
    await mkdir(inData(to), { recursive: true });
    for (const name of await readdir(path))
      await sameFile(join(path, name), inData(join(to, name)));
    return to;
  }
  const to = join('footage', footage.hash, `original${extname(basename(path)).toLowerCase()}`);
  await sameFile(path, inData(to));
  return to;
}

/** Stores a sound file under a path of the data folder; its path relative to that, and its size. */
export async function storeSound(
  path: string,
  to: string,
): Promise<{ readonly file: string; readonly bytes: number }> {
  await sameFile(path, to);
  return { file: relative(inData(''), to), bytes: (await stat(to)).size };
}

/** A place to decode stored footage from. */
export const storedPlace = (
  file: string,
  footage: Pick<Footage, 'kind' | 'rate' | 'hash' | 'sequence'>,
): Promise<Place> =>
  placeOf(inData(file), {
    rate: footage.rate,
    ...(footage.kind === 'sequence' && {
      links: inData(join('footage', footage.hash, 'numbered')),
      sequence: footage.sequence,
    }),
  });
