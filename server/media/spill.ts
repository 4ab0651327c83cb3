/** A spill file: bytes in an unlinked file, which disappears with the process. */
import { randomUUID } from 'node:crypto';
import { closeSync, openSync, readSync, unlinkSync, writeSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

/** A region of the file, in bytes. */
export interface Region {
  readonly at: number;
  readonly length: number;
}

/**
 * Regions in one file, opened on first write. A freed region is reused by the next one of its
 * length, so that the file is no longer than the most it held at once. Throws the file system's
 * error when the disk is full.
 */
export class SpillFile {
  private file: number | undefined;
  private end = 0;
  private readonly freed = new Map<number, number[]>();

  /** In the system's temporary folder by default. */
  constructor(private readonly folder = tmpdir()) {}

  /** Writes `parts` one after another. */
  write(parts: readonly NodeJS.ArrayBufferView[]): Region {
    const file = (this.file ??= this.open());
    const length = parts.reduce((sum, p) => sum + p.byteLength, 0);
    const region = { at: this.freed.get(length)?.pop() ?? this.end, length };
    this.end = Math.max(this.end, region.at + length);
    let to = region.at;
    try {
      for (const part of parts)
        for (let from = 0; from < part.byteLength;) {
          const wrote = writeSync(file, part, from, part.byteLength - from, to);
          from += wrote;
          to += wrote;
        }
    } catch (e) {
      this.free(region);
      throw e;
    }
    return region;
  }

  /** Reads a region into `into`, which must have its length. */
  read({ at, length }: Region, into: Uint8Array): void {
    if (this.file === undefined) throw new Error('what was put aside is closed');
    for (let got = 0; got < length;) {
      const read = readSync(this.file, into, got, length - got, at + got);
      if (read === 0) throw new Error('what was put aside cannot be read back');
      got += read;
    }
  }

  /** Frees a region. */
  free({ at, length }: Region): void {
    this.freed.set(length, [...(this.freed.get(length) ?? []), at]);
  }

  /** Size of the file, bytes. */
  get size(): number {
    return this.end;
  }

  close(): void {
    if (this.file !== undefined) closeSync(this.file);
    this.file = undefined;
    this.end = 0;
    this.freed.clear();
  }

  private open(): number {
    const path = join(this.folder, `.wabisabi-${randomUUID()}`);
    const file = openSync(path, 'wx+');
    unlinkSync(path);
    return file;
  }
}
