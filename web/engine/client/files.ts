/** Files of open formats, processed in a worker so that the page stays responsive. */
import type { LookDocument, LutValue } from '../../../core';
import { type Cdl, type LookPackage, MOST_BYTES } from '../../../core/formats';
import type { FilesAnswer, FilesTask } from '../worker/files';

/** Why a file could not be read. */
export type Trouble = { readonly trouble: string };

function ask<K extends FilesTask['kind']>(
  task: Extract<FilesTask, { kind: K }>,
): Promise<FilesAnswer[K] | Trouble> {
  return new Promise((resolve) => {
    const worker = new Worker(new URL('../worker/files.ts', import.meta.url), { type: 'module' });
    const end = (answer: FilesAnswer[K] | Trouble) => {
      worker.terminate();
      resolve(answer);
    };
    worker.onmessage = (e: MessageEvent<FilesAnswer[K] | Trouble>) => end(e.data);
    worker.onerror = (e) => end({ trouble: `it could not be read: ${e.message}` });
    worker.postMessage(task);
  });
}

const textOf = async (f: File): Promise<string | Trouble> =>
  f.size > MOST_BYTES
    ? { trouble: `${f.name} is larger than ${MOST_BYTES / 2 ** 20} MiB: nothing of this format is` }
    : f.text();

/** The table in a LUT file. */
export async function readLut(f: File): Promise<{ value: LutValue } | Trouble> {
  const text = await textOf(f);
  return typeof text === 'string' ? ask<'lut'>({ kind: 'lut', name: f.name, text }) : text;
}
/** The corrections in a decision list file. */
export async function readCdl(f: File): Promise<{ value: Cdl[] } | Trouble> {
  const text = await textOf(f);
  return typeof text === 'string' ? ask<'cdl'>({ kind: 'cdl', name: f.name, text }) : text;
}
/** A look as the text of a `.cube` file, with its largest error in code values. */
export const bakedCube = (
  look: LookDocument,
  size: number,
): Promise<{ text: string; largestError: number } | Trouble> =>
  ask<'bake'>({ kind: 'bake', look, size });

/** A look package as bytes. */
export const packLook = (look: LookPackage): Promise<{ bytes: Uint8Array } | Trouble> =>
  ask<'pack'>({ kind: 'pack', look });
/** A PNG that carries a look. */
export const cardOf = (
  look: LookPackage,
  png: Uint8Array,
): Promise<{ bytes: Uint8Array } | Trouble> => ask<'card'>({ kind: 'card', look, png });
/** A look from a package, a card or a look document. */
export async function readLookFile(f: File): Promise<{ value: LookPackage } | Trouble> {
  if (f.size > MOST_BYTES)
    return { trouble: `${f.name} is larger than ${MOST_BYTES / 2 ** 20} MiB: no look is` };
  return ask<'unpack'>({
    kind: 'unpack',
    name: f.name,
    bytes: new Uint8Array(await f.arrayBuffer()),
  });
}

/** Offers bytes or text to the user as a file. */
export function download(name: string, contents: string | Uint8Array, type: string): void {
  const a = document.createElement('a');
  a.href = URL.createObjectURL(new Blob([contents as BlobPart], { type }));
  a.download = name;
  a.click();
  URL.revokeObjectURL(a.href);
}
