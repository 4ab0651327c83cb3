/**
 * Look cards: a picture of a look (PNG, ISO/IEC 15948) that carries the look package in a private
 * chunk, `wbLk`. Other programs ignore the chunk; a picture saved again elsewhere may have lost it.
 */
import { crc32 } from './crc';
import { isPng, type LookPackage, readPackage, writePackage } from './look-package';
import { fault, MOST_BYTES, type Parsed } from './parsed';

/** Bytes of a PNG before its first chunk. */
const SIGNATURE = 8;
/** Ancillary, private, safe to copy. */
const CHUNK = 'wbLk';
/** Bytes of a chunk besides its data: length, type and checksum. */
const FRAME = 12;

interface Chunk {
  readonly type: string;
  /** Offset of the chunk, and its data. */
  readonly at: number;
  readonly data: Uint8Array;
  /** The stored checksum, and the bytes it is computed over. */
  readonly sum: number;
  readonly named: Uint8Array;
}
/** Chunks of a PNG, as far as it is complete; undefined if it is no PNG. */
function chunksOf(png: Uint8Array): Chunk[] | undefined {
  if (!isPng(png)) return undefined;
  const view = new DataView(png.buffer, png.byteOffset, png.byteLength);
  const found: Chunk[] = [];
  let at = SIGNATURE;
  while (at + FRAME <= png.length) {
    const length = view.getUint32(at);
    if (at + FRAME + length > png.length) break;
    const named = png.subarray(at + 4, at + 8 + length);
    found.push({
      type: String.fromCharCode(...named.subarray(0, 4)),
      at,
      data: named.subarray(4),
      sum: view.getUint32(at + 8 + length),
      named,
    });
    at += FRAME + length;
  }
  return found;
}

/** Whether the bytes are a PNG that carries a look. */
export const isCard = (bytes: Uint8Array): boolean =>
  chunksOf(bytes)?.some((c) => c.type === CHUNK) ?? false;

/**
 * The PNG with a look added; the picture itself does not change. Throws if the PNG is incomplete.
 */
export function writeCard(png: Uint8Array, look: LookPackage): Uint8Array {
  const end = chunksOf(png)?.find((c) => c.type === 'IEND')?.at;
  if (end === undefined) throw new Error('a card needs a whole PNG');
  const data = writePackage({ ...look, thumbnails: [] });
  const named = new Uint8Array(4 + data.length);
  named.set([...CHUNK].map((c) => c.charCodeAt(0)));
  named.set(data, 4);
  const chunk = new Uint8Array(FRAME + data.length),
    view = new DataView(chunk.buffer);
  view.setUint32(0, data.length);
  chunk.set(named, 4);
  view.setUint32(8 + data.length, crc32(named));
  const out = new Uint8Array(png.length + chunk.length);
  out.set(png.subarray(0, end));
  out.set(chunk, end);
  out.set(png.subarray(end), end + chunk.length);
  return out;
}

/** The look in a card, with the card as its thumbnail. Never throws. */
export function readCard(png: Uint8Array, name: string): Parsed<LookPackage> {
  const chunk = chunksOf(png)?.find((c) => c.type === CHUNK);
  if (!chunk)
    return fault(
      1,
      'this picture carries no look: a card that another program saved anew may have lost it',
    );
  if (crc32(chunk.named) !== chunk.sum || chunk.data.length > MOST_BYTES)
    return fault(1, 'the look in this card is damaged');
  const read = readPackage(chunk.data);
  return 'value' in read ? { value: { ...read.value, thumbnails: [{ name, png }] } } : read;
}
