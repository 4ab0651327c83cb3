import { createWriteStream } from 'node:fs';
import { join } from 'node:path';
import type { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import yazl from 'yazl';

/**
 * Puts files of a folder into one archive, uncompressed (pictures are compressed already). Throws
 * if one is missing.
 */
export async function zipFolder(
  folder: string,
  names: readonly string[],
  to: string,
): Promise<void> {
  const zip = new yazl.ZipFile();
  // Errors are emitted by the archive, not by its stream, which would wait for ever.
  zip.on('error', (e: Error) => (zip.outputStream as Readable).destroy(e));
  // A fixed time, so that the same pictures give the same archive.
  for (const name of names)
    zip.addFile(join(folder, name), name, {
      compress: false,
      mtime: new Date('2000-01-01T00:00:00Z'),
    });
  zip.end();
  await pipeline(zip.outputStream, createWriteStream(to));
}
