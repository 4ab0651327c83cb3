import { createWriteStream } from 'node:fs';
import { join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import yazl from 'yazl';

/** Files of a folder in one archive, stored as they are (pictures are compressed already). */
export async function zipFolder(
  folder: string,
  names: readonly string[],
  to: string,
): Promise<void> {
  const zip = new yazl.ZipFile();
  // A fixed time: the same pictures give the same archive.
  for (const name of names)
    zip.addFile(join(folder, name), name, {
      compress: false,
      mtime: new Date('2000-01-01T00:00:00Z'),
    });
  zip.end();
  await pipeline(zip.outputStream, createWriteStream(to));
}
