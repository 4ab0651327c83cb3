/** Pictures that later frames need, put aside in files of the work folder when they are too many for memory. */
import type { Image, Memory, PastStore } from '../../core/engine';
import { SpilledBytes } from '../media/spill';

const bytesOf = (memory: Memory, { address, bytes }: Image): Uint8Array => new Uint8Array(memory.wasm.buffer, address, bytes);

export function pastInFiles(memory: Memory, folder?: string): PastStore<Image> {
  const files = new Map<string, SpilledBytes>();
  return {
    write: (key, image) => void files.set(key, new SpilledBytes([bytesOf(memory, image)], folder)),
    has: (key) => files.has(key),
    read: (key, into) => files.get(key)!.read(bytesOf(memory, into)),
    drop(key) {
      files.get(key)?.close();
      files.delete(key);
    },
    close() {
      for (const file of files.values()) file.close();
      files.clear();
    },
  };
}
