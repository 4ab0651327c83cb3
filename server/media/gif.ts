/** Whether a GIF is all there: FFmpeg ends without a word where the file does. */
import { readFile } from 'node:fs/promises';

const EXTENSION = 0x21,
  IMAGE = 0x2c,
  TRAILER = 0x3b;

/** Bytes of a table of colours that a packed field announces. */
const tableOf = (packed: number): number => (packed & 0x80 ? 3 * 2 ** ((packed & 7) + 1) : 0);

/** Whether a file's blocks lead to its trailer (GIF89a, section 27). */
export async function isWholeGif(path: string): Promise<boolean> {
  const bytes = await readFile(path);
  /** The place behind a run of sub-blocks. */
  const behind = (from: number): number => {
    let at = from;
    while (at < bytes.length && bytes[at] !== 0) at += 1 + bytes[at]!;
    return at + 1;
  };
  let at = 13 + tableOf(bytes[10] ?? 0);
  while (at < bytes.length)
    switch (bytes[at]) {
      case TRAILER:
        return true;
      case EXTENSION:
        at = behind(at + 2);
        break;
      case IMAGE:
        at = behind(at + 10 + tableOf(bytes[at + 9] ?? 0) + 1);
        break;
      default:
        return false;
    }
  return false;
}
