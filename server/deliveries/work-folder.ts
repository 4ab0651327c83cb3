/** Where an attempt at an item keeps its chunks until they are joined. */
import { join } from 'node:path';
import { folder } from '../config/settings';
import { CHUNK_ENDING } from '../render';
import type { Item } from './frames';

export const CHUNK = `chunk.${CHUNK_ENDING}`;
export const chunkFile = (item: Item, first: number): string =>
  join(workFolder(item), `${String(first).padStart(8, '0')}.${CHUNK_ENDING}`);
export const workFolder = (item: Item, ...more: string[]): string =>
  folder('work', item.id, String(item.attempt), ...more);
