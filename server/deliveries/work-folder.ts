/** Folders of an attempt's chunks before they are joined. */
import { join } from 'node:path';
import { folder } from '../config/settings';
import { CHUNK_ENDING } from '../render';
import type { Item } from './frames';

/** Name of a chunk's video file. */
export const CHUNK = `chunk.${CHUNK_ENDING}`;
/** The video file of a chunk, by its first frame. */
export const chunkFile = (item: Item, first: number): string =>
  join(workFolder(item), `${String(first).padStart(8, '0')}.${CHUNK_ENDING}`);
/** A path in the folder of an item's attempt. */
export const workFolder = (item: Item, ...more: string[]): string =>
  folder('work', item.id, String(item.attempt), ...more);
