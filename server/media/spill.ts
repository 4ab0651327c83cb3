/** Bytes put aside in a file of their own that has no name any more: it goes with the process, however that ends. */
import { randomUUID } from 'node:crypto';
import { closeSync, openSync, readSync, unlinkSync, writeSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

/** Files of this system's own folder, unless a work folder is given. Throws what the file system says when the disk is full. */
export class SpilledBytes {
  private readonly file: number;
  private readonly length: number;
  /** `parts` one after the other. */
  constructor(parts: readonly NodeJS.ArrayBufferView[], folder = tmpdir()) {
    const path = join(folder, `.wabisabi-${randomUUID()}`);
    this.file = openSync(path, 'wx+');
    unlinkSync(path);
    let length = 0;
    try {
      for (const part of parts)
        for (let at = 0; at < part.byteLength;) {
          const wrote = writeSync(this.file, part, at, part.byteLength - at, length);
          at += wrote;
          length += wrote;
        }
    } catch (e) {
      closeSync(this.file);
      throw e;
    }
    this.length = length;
  }
  /** Reads all of them back; `into` is as long as they were. */
  read(into: Uint8Array): void {
    for (let at = 0; at < this.length;) {
      const read = readSync(this.file, into, at, this.length - at, at);
      if (read === 0) throw new Error('what was put aside cannot be read back');
      at += read;
    }
  }
  close(): void {
    closeSync(this.file);
  }
}
