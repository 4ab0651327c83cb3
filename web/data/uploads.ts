/** Uploads: files that were dropped or chosen, and their import into a project. */
import { isCard, MOST_BYTES } from '../../core/formats';
import { call, upload } from './http';

/** A file, or a folder of pictures that become one clip. */
export interface Batch {
  readonly name: string;
  readonly files: readonly File[];
}
/** File names of pictures. */
export const PICTURE = /\.(png|jpe?g|tiff?|webp|bmp|exr|dpx|tga)$/i;
/** One batch per file. */
export const batchesOf = (files: Iterable<File>): Batch[] =>
  [...files].map((f) => ({ name: f.name, files: [f] }));

/** File names that may hold a look; pictures only if they are cards. */
const LOOK_FILE = /\.(wabisabi|json)$/i,
  MAYBE_CARD = /\.png$/i;
let takesLook: ((f: File) => void) | undefined;
/** Registers the Shelf as the receiver of dropped looks. Returns a function that ends this. */
export function takeLooks(take: (f: File) => void): () => void {
  takesLook = take;
  return () => {
    if (takesLook === take) takesLook = undefined;
  };
}
/**
 * Separates looks from footage among dropped batches and gives them to the receiver. Returns its
 * messages and the remaining batches.
 */
export async function looksFirst(
  batches: readonly Batch[],
): Promise<{ readonly said: string | null; readonly left: readonly Batch[] }> {
  const isLook = async ({ name, files }: Batch): Promise<boolean> =>
    LOOK_FILE.test(name) ||
    (MAYBE_CARD.test(name) &&
      files.length === 1 &&
      files[0]!.size <= MOST_BYTES &&
      isCard(new Uint8Array(await files[0]!.arrayBuffer())));
  const which = await Promise.all(batches.map(isLook));
  const [looks, left] = [batches.filter((_, i) => which[i]), batches.filter((_, i) => !which[i])];
  if (looks.length === 0) return { said: null, left };
  if (!takesLook)
    return {
      said: `${looks.map((l) => l.name).join(', ')} ${looks.length === 1 ? 'is a look' : 'are looks'}: drop it on the Shelf.`,
      left,
    };
  takesLook(looks[0]!.files[0]!);
  return { said: looks.length > 1 ? 'One look at a time: the first is shown.' : null, left };
}

/** All files in a dropped folder. */
async function filesIn(entry: FileSystemDirectoryEntry): Promise<File[]> {
  const reader = entry.createReader();
  const files: File[] = [];
  for (;;) {
    const part = await new Promise<FileSystemEntry[]>((ok, no) => reader.readEntries(ok, no));
    if (part.length === 0) return files;
    for (const e of part)
      if (e.isFile)
        files.push(await new Promise<File>((ok, no) => (e as FileSystemFileEntry).file(ok, no)));
  }
}
/** Batches from a drop: files, and folders of pictures. */
export async function dropped(items: DataTransferItemList): Promise<Batch[]> {
  const entries = [...items].map((i) => ({ entry: i.webkitGetAsEntry(), file: i.getAsFile() }));
  return Promise.all(
    entries.flatMap(({ entry, file }) =>
      entry?.isDirectory
        ? [
            filesIn(entry as FileSystemDirectoryEntry).then((files) => ({
              name: entry.name,
              files: files.filter((f) => PICTURE.test(f.name)),
            })),
          ]
        : file
          ? [Promise.resolve({ name: file.name, files: [file] })]
          : [],
    ),
  );
}

/**
 * Uploads a batch to a project and hands it to a worker; reports progress 0…1. An aborted upload
 * leaves nothing behind.
 */
export async function sendBatch(
  project: string,
  { name, files }: Batch,
  onShare: (share: number) => void,
  stop: AbortSignal,
  role: 'clip' | 'plate' = 'clip',
): Promise<void> {
  let made: string | undefined;
  const release = holdPage(() => made);
  try {
    if (files.length === 0)
      throw new Error('the folder holds no pictures (PNG, JPEG, TIFF, EXR, DPX …)');
    const empty = files.find((f) => f.size === 0);
    if (empty) throw new Error(`"${empty.name}" is empty (0 bytes): copy it again from its source`);
    const total = files.reduce((n, f) => n + f.size, 0);
    made = (
      await call<{ id: string }>('POST', `/api/projects/${project}/imports`, {
        name,
        files: files.map((f) => f.name),
        role,
      })
    ).id;
    let before = 0;
    for (const [i, f] of files.entries()) {
      await upload(
        `/api/imports/${made}/${i}`,
        f,
        (s) => onShare((before + s * f.size) / total),
        stop,
      );
      before += f.size;
    }
    await call('POST', `/api/imports/${made}`);
  } catch (e) {
    if (made) await call('DELETE', `/api/imports/${made}`).catch(() => {});
    throw e;
  } finally {
    release();
  }
}

/**
 * While an upload runs, closing the page asks first; if it is closed, what is there of the upload is
 * removed. Returns how to end this.
 */
function holdPage(upload: () => string | undefined): () => void {
  if (typeof addEventListener === 'undefined') return () => {};
  const ask = (e: Event) => e.preventDefault();
  const leave = () => {
    const id = upload();
    if (id) void call('DELETE', `/api/imports/${id}`, undefined, { lasting: true }).catch(() => {});
  };
  addEventListener('beforeunload', ask);
  addEventListener('pagehide', leave);
  return () => {
    removeEventListener('beforeunload', ask);
    removeEventListener('pagehide', leave);
  };
}

/** Imports batches one after another; returns what was rejected, as text. */
export async function batchesIn(
  project: string,
  batches: readonly Batch[],
  onShare: (name: string, share: number) => void,
  role: 'clip' | 'plate' = 'clip',
): Promise<string[]> {
  const refused: string[] = [];
  for (const [i, b] of batches.entries()) {
    const report = (share: number) => onShare(b.name, (i + share) / batches.length);
    report(0);
    await sendBatch(project, b, report, new AbortController().signal, role).catch((e: Error) =>
      refused.push(`${b.name}: ${e.message}`),
    );
  }
  return refused;
}
