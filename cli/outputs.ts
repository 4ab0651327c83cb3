/** Keeps what is written apart from what is read. */
import { type Stats } from 'node:fs';
import { readdir, realpath, stat } from 'node:fs/promises';
import { basename, dirname, join } from 'node:path';
import { isPicture } from '../server/media/place';
import { Usage } from './args';

/** Whether two names lead to one file: by any links, symbolic or hard. */
const same = (a: Stats, b: Stats): boolean => a.dev === b.dev && a.ino === b.ino;
const statOf = (path: string): Promise<Stats | undefined> => stat(path).catch(() => undefined);
const realOf = (path: string): Promise<string> => realpath(path).catch(() => path);

/** The files that a path stands for: itself, or the pictures of a folder. */
async function filesAt(path: string): Promise<string[]> {
  if (!(await statOf(path))?.isDirectory()) return [path];
  return (await readdir(path)).filter(isPicture).map((n) => join(path, n));
}

/**
 * Throws `Usage` if writing to `out` would replace one of the files that are read, or put pictures
 * among those that are. `pictures`: `out` is a folder for numbered pictures.
 */
export async function refuseReplacing(
  out: string,
  read: readonly string[],
  pictures: boolean,
): Promise<void> {
  const there = await statOf(out);
  if (!there) return;
  for (const path of read)
    for (const file of await filesAt(path)) {
      const own = await statOf(file);
      if (own && same(own, there))
        throw new Usage(
          `--out ${out} is "${file}", which is read: give another name, so that it is not replaced`,
        );
      if (!pictures || !isPicture(file)) continue;
      const folders = await Promise.all([file, await realOf(file)].map((f) => statOf(dirname(f))));
      if (folders.some((f) => f && same(f, there)) || (await isIn(out, own)))
        throw new Usage(
          `the folder ${out} holds "${basename(file)}", which is read: ` +
            'give another folder, so that nothing in it is replaced',
        );
    }
}

/** Whether a file lies in a folder under any name. */
async function isIn(folder: string, file: Stats | undefined): Promise<boolean> {
  if (!file) return false;
  for (const name of await readdir(folder).catch(() => [])) {
    const found = await statOf(join(folder, name));
    if (found && same(found, file)) return true;
  }
  return false;
}
