/** Moves pictures that later frames need to a file in the work folder when memory is full. */
import type { Image, Memory, PastStore } from '../../core/engine';
import { type Region, SpillFile } from '../media/spill';

const bytesOf = (memory: Memory, { address, bytes }: Image): Uint8Array =>
  new Uint8Array(memory.wasm.buffer, address, bytes);

/** A store for such pictures. */
export function pastInFiles(memory: Memory, folder?: string): PastStore<Image> {
  const file = new SpillFile(folder),
    regions = new Map<string, Region>();
  return {
    write: (key, image) => void regions.set(key, file.write([bytesOf(memory, image)])),
    has: (key) => regions.has(key),
    read: (key, into) => file.read(regions.get(key)!, bytesOf(memory, into)),
    drop(key) {
      const region = regions.get(key);
      if (region) file.free(region);
      regions.delete(key);
    },
    close() {
      file.close();
      regions.clear();
    },
  };
}
