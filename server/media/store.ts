/** Originals in the data folder, by content hash. */
import { rename } from 'node:fs/promises';
import { basename, extname, join } from 'node:path';
import { folder, inData } from '../settings';
import type { Footage } from './footage';
import { type Place, placeOf } from './probe';

/** Moves what was brought (a file, or a folder of pictures) to its place; returns that place relative to the data folder. */
export async function storeOriginal(path: string, footage: Footage): Promise<string> {
  folder('footage', footage.hash);
  const to =
    footage.kind === 'sequence'
      ? join('footage', footage.hash, 'pictures')
      : join('footage', footage.hash, `original${extname(basename(path)).toLowerCase()}`);
  await rename(path, inData(to));
  return to;
}

/** A place to decode stored footage from. */
export const storedPlace = (file: string, footage: Footage): Promise<Place> =>
  placeOf(inData(file), { rate: footage.rate, ...(footage.kind === 'sequence' && { links: inData(join('footage', footage.hash, 'numbered')) }) });
