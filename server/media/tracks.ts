/** Tracks: the frames they are followed on, and a file for each, by what it is made from. */
import { randomUUID } from 'node:crypto';
import { mkdir, readFile, rename, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { POINTS_METHOD, type Sizes, sizesOf, type Track } from '../../core/trace';
import { inData } from '../config/settings';
import type { Footage } from './footage';
import { FootageReader } from './footage-reader';
import type { Place } from './place';

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

/** Frames of which the sizes are kept: ways backwards read them once more. */
const KEPT = 64;
/** Reads the sizes of footage's frames that points are followed on; close it afterwards. */
export function sizesIn(
  place: Place,
  facts: Footage,
): { readonly at: (frame: number) => Promise<Sizes>; readonly close: () => Promise<void> } {
  const clip = { content: facts.hash, frames: facts.frames, rate: facts.rate };
  const reader = new FootageReader(null, place, facts, clip, {});
  const kept = new Map<number, Sizes>();
  return {
    async at(frame) {
      const known = kept.get(frame);
      if (known) return known;
      const made = sizesOf((await reader.at(frame)).get(frame)!.own);
      kept.set(frame, made);
      for (const oldest of kept.keys()) if (kept.size > KEPT) kept.delete(oldest);
      return made;
    },
    close: () => reader.close(),
  };
}
