/**
 * Checksums of a zip's files. The library that unpacks them does not compare them. By PKWARE's
 * APPNOTE 6.3, sections 4.3.12 and 4.3.16.
 */
import { crc32 } from './crc';

const END = 0x06054b50,
  ENTRY = 0x02014b50;
/** Sizes of the records without their names, extras and comments. */
const END_SIZE = 22,
  ENTRY_SIZE = 46,
  LONGEST_COMMENT = 65_535;

/** The CRC of each file by its name; undefined if there is no directory. */
function sumsOf(zip: Uint8Array): Map<string, number> | undefined {
  const view = new DataView(zip.buffer, zip.byteOffset, zip.byteLength);
  const least = Math.max(0, zip.length - END_SIZE - LONGEST_COMMENT);
  let end = zip.length - END_SIZE;
  while (end >= least && view.getUint32(end, true) !== END) end--;
  if (end < least) return undefined;
  const sums = new Map<string, number>();
  let at = view.getUint32(end + 16, true);
  for (let n = view.getUint16(end + 10, true); n > 0; n--) {
    if (at + ENTRY_SIZE > zip.length || view.getUint32(at, true) !== ENTRY) return undefined;
    const [name, extra, comment] = [28, 30, 32].map((o) => view.getUint16(at + o, true)) as [
      number,
      number,
      number,
    ];
    const from = at + ENTRY_SIZE;
    sums.set(
      new TextDecoder().decode(zip.subarray(from, from + name)),
      view.getUint32(at + 16, true),
    );
    at = from + name + extra + comment;
  }
  return sums;
}

/** The name of a file whose bytes are not those that were packed; undefined if all are. */
export function damagedFile(
  zip: Uint8Array,
  files: Readonly<Record<string, Uint8Array>>,
): string | undefined {
  const sums = sumsOf(zip);
  return Object.keys(files).find((name) => sums?.get(name) !== crc32(files[name]!));
}
