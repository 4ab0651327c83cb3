/**
 * What FFmpeg does not say of an OpenEXR file: its primaries, and whether all of it is there. By "The
 * OpenEXR File Layout" of the OpenEXR project (versions 1 and 2).
 */
import { open, stat } from 'node:fs/promises';
import { BT709, type Primaries } from '../../core';

/** What a file's header says. */
export interface ExrFacts {
  /** BT.709 with D65 where the file does not say, as the format has it. */
  readonly primaries: Primaries;
  /** Parts of the picture (blocks of rows, tiles) there should be, and those that are whole. */
  readonly parts: number;
  readonly whole: number;
}

const MAGIC = 20000630;
/** Flags of the version field: files with tiles, with deep samples, with several parts. */
const TILED = 0x200,
  OTHERS = 0x800 | 0x1000;
/** Rows of a block, by the number of its compression. */
const ROWS = [1, 1, 1, 16, 32, 16, 32, 32, 32, 256];
/** Largest header that is read, bytes. */
const MOST_HEADER = 1 << 20;

/** Reads a file's header; undefined if it is none, or of a kind whose parts are not counted. */
export async function readExr(path: string): Promise<ExrFacts | undefined> {
  const file = await open(path);
  try {
    const { size } = await stat(path);
    const head = Buffer.alloc(Math.min(size, MOST_HEADER));
    await file.read(head, 0, head.length, 0);
    const found = attributesIn(head);
    if (!found) return undefined;
    const { attributes, end, flags } = found;
    const parts = flags & OTHERS ? 0 : partsOf(attributes, (flags & TILED) !== 0);
    const offsets = Buffer.alloc(8 * parts);
    await file.read(offsets, 0, offsets.length, end);
    const lead = flags & TILED ? 16 : 4,
      length = Buffer.alloc(4);
    let whole = 0;
    for (let i = 0; i < parts; i++) {
      const at = Number(offsets.readBigUInt64LE(8 * i));
      if (at === 0 || at + lead + 4 > size) continue;
      await file.read(length, 0, 4, at + lead);
      if (at + lead + 4 + length.readInt32LE(0) <= size) whole++;
    }
    return { primaries: primariesIn(attributes.get('chromaticities')), parts, whole };
  } catch (e) {
    if (e instanceof RangeError) return undefined;
    throw e;
  } finally {
    await file.close();
  }
}

/** Attributes by name, the end of the header, and the flags. Throws `RangeError` past its end. */
function attributesIn(
  head: Buffer,
): { attributes: Map<string, Buffer>; end: number; flags: number } | undefined {
  if (head.length < 8 || head.readUInt32LE(0) !== MAGIC) return undefined;
  const flags = head.readUInt32LE(4);
  const attributes = new Map<string, Buffer>();
  let at = 8;
  const text = (): string => {
    const end = head.indexOf(0, at);
    if (end < 0) throw new RangeError('the header does not end');
    const found = head.toString('latin1', at, end);
    at = end + 1;
    return found;
  };
  for (let name = text(); name !== ''; name = text()) {
    text();
    const size = head.readInt32LE(at);
    attributes.set(name, head.subarray(at + 4, at + 4 + size));
    at += 4 + size;
  }
  return { attributes, end: at, flags };
}

function partsOf(attributes: ReadonlyMap<string, Buffer>, tiled: boolean): number {
  const window = attributes.get('dataWindow'),
    compression = attributes.get('compression')?.[0];
  if (!window || compression === undefined) return 0;
  const [left, top, right, bottom] = [0, 4, 8, 12].map((i) => window.readInt32LE(i)) as [
    number,
    number,
    number,
    number,
  ];
  const [width, height] = [right - left + 1, bottom - top + 1];
  if (!tiled) return Math.ceil(height / (ROWS[compression] ?? 1));
  const tiles = attributes.get('tiles');
  // Files with pictures of several sizes have more tiles than those of the largest.
  if (!tiles || (tiles[8]! & 15) !== 0) return 0;
  return Math.ceil(width / tiles.readUInt32LE(0)) * Math.ceil(height / tiles.readUInt32LE(4));
}

function primariesIn(said: Buffer | undefined): Primaries {
  if (!said || said.length < 32) return BT709;
  const at = (i: number): readonly [number, number] => [
    said.readFloatLE(8 * i),
    said.readFloatLE(8 * i + 4),
  ];
  return { red: at(0), green: at(1), blue: at(2), white: at(3) };
}
