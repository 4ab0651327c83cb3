/** Reads and writes files of open formats: one task, one answer. */
import { type LutValue, inWords, type LookDocument, readLook } from '../../../core';
import {
  bake,
  type Cdl,
  inOneLine,
  isPackage,
  isPng,
  type LookPackage,
  lutFromFile,
  notBakeable,
  parseCdl,
  readCard,
  readPackage,
  writeCard,
  writeCube,
  writePackage,
} from '../../../core/formats';

/** Tasks. */
export type FilesTask =
  | { readonly kind: 'lut'; readonly name: string; readonly text: string }
  | { readonly kind: 'cdl'; readonly name: string; readonly text: string }
  | { readonly kind: 'pack'; readonly look: LookPackage }
  /** With a PNG it becomes a card. */
  | { readonly kind: 'card'; readonly look: LookPackage; readonly png: Uint8Array }
  | { readonly kind: 'unpack'; readonly name: string; readonly bytes: Uint8Array }
  | { readonly kind: 'bake'; readonly look: LookDocument; readonly size: number };
/** Answers by task. */
export interface FilesAnswer {
  readonly lut: { readonly value: LutValue };
  readonly cdl: { readonly value: Cdl[] };
  readonly pack: { readonly bytes: Uint8Array };
  readonly card: { readonly bytes: Uint8Array };
  readonly unpack: { readonly value: LookPackage };
  readonly bake: { readonly text: string; readonly largestError: number };
}

/** A look from the bytes of a package, a card or a look document. */
function unpack(
  name: string,
  bytes: Uint8Array,
): FilesAnswer['unpack'] | { readonly trouble: string } {
  if (isPackage(bytes) || isPng(bytes)) {
    const read = isPng(bytes) ? readCard(bytes, name.replace(/\.png$/i, '')) : readPackage(bytes);
    return 'value' in read ? read : { trouble: `“${name}”: ${read.fault.message}` };
  }
  let plain: unknown;
  try {
    plain = JSON.parse(new TextDecoder().decode(bytes));
  } catch {
    return {
      trouble: `“${name}” is neither a look package nor a look document: bring a .wabisabi or .json file, or a look’s card`,
    };
  }
  const read = readLook(plain);
  if ('faults' in read)
    return { trouble: `“${name}” is not a look that can be used: ${inWords(read.faults)}` };
  return { value: { look: read.look, version: 1, thumbnails: [] } };
}

function answer(task: FilesTask): FilesAnswer[FilesTask['kind']] | { readonly trouble: string } {
  if (task.kind === 'pack') return { bytes: writePackage(task.look) };
  if (task.kind === 'card') return { bytes: writeCard(task.png, task.look) };
  if (task.kind === 'unpack') return unpack(task.name, task.bytes);
  if (task.kind === 'bake') {
    const not = notBakeable(task.look);
    if (not.length > 0)
      return {
        trouble: `${task.look.name} cannot be baked to a cube, since these look at more than a colour: ${not.join(', ')}`,
      };
    const { cube, colours, largestError } = bake(task.look, {
      size: task.size,
      takes: 'srgb',
      gives: 'srgb',
    });
    return { text: writeCube(cube, colours), largestError };
  }
  const read = task.kind === 'lut' ? lutFromFile(task.name, task.text) : parseCdl(task.text);
  return 'fault' in read
    ? { trouble: inOneLine(task.name, read.fault) }
    : (read as FilesAnswer['lut'] | FilesAnswer['cdl']);
}

self.onmessage = (e: MessageEvent<FilesTask>) =>
  (self as unknown as Worker).postMessage(answer(e.data));
