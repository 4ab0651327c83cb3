/** Storage of tracks: a file for each, by the digest of what it is made from. */
import { randomUUID } from 'node:crypto';
import { mkdir, readFile, rename, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { POINTS_METHOD, type Track } from '../../core/trace';
import { inData } from '../config/settings';

const folderOf = (hash: string): string => inData(join('footage', hash, POINTS_METHOD));

/** A stored track; undefined if it is missing or truncated. */
export const storedTrack = (hash: string, of: string): Promise<Track | undefined> =>
  readFile(join(folderOf(hash), `${of}.json`), 'utf8')
    .then((text) => JSON.parse(text) as Track)
    .catch(() => undefined);

/** Stores a track, whole or not at all. */
export async function storeTrack(hash: string, of: string, track: Track): Promise<void> {
  const folder = folderOf(hash);
  await mkdir(folder, { recursive: true });
  const to = join(folder, `${of}.json`),
    part = `${to}.${randomUUID()}`;
  await writeFile(part, JSON.stringify(track));
  await rename(part, to);
}
