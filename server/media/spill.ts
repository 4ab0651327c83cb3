/**
 * Bytes put aside in one file that has no name any more: it goes with the process, however that
 * ends.
 */
import { randomUUID } from 'node:crypto';
import { closeSync, openSync, readSync, unlinkSync, writeSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

/** Where in the file something lies, in bytes. */
export interface Region {
  readonly at: number;
  readonly length: number;
}

/**
 * Regions of one file, opened when the first is written. A freed region is written again by the
 * next of its length, so that the file is as long as the most that lay in it at once. Throws what
 * the file system says when the disk is full.
 */
export class SpillFile {
  private file: number | undefined;
  private end = 0;
  private readonly freed = new Map<number, number[]>();

  /** In this system's own folder for such files, unless a work folder is given. */
  constructor(private readonly folder = tmpdir()) {}

  /** Writes `parts` one after the other. */
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

  /** Reads a region back into `into`, which is as long. */
  read({ at, length }: Region, into: Uint8Array): void {
    if (this.file === undefined) throw new Error('what was put aside is closed');
    for (let got = 0; got < length;) {
      const read = readSync(this.file, into, got, length - got, at + got);
      if (read === 0) throw new Error('what was put aside cannot be read back');
      got += read;
    }
  }

  /** A region is not needed any more. */
  free({ at, length }: Region): void {
    this.freed.set(length, [...(this.freed.get(length) ?? []), at]);
  }

  /** Bytes that the file has grown to. */
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
