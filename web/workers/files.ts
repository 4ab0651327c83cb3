/** Reads and writes files of open formats: one task, one answer. */
import type { CubeValue, LookDocument } from '../../core';
import { bake, type Cdl, inOneLine, lutFromFile, notBakeable, parseCdl, writeCube } from '../../core/formats';

export type FilesTask =
  | { readonly kind: 'lut'; readonly name: string; readonly text: string }
  | { readonly kind: 'cdl'; readonly name: string; readonly text: string }
  | { readonly kind: 'bake'; readonly look: LookDocument; readonly size: number };
export interface FilesAnswer {
  readonly lut: { readonly value: CubeValue; readonly note?: string };
  readonly cdl: { readonly value: Cdl[] };
  readonly bake: { readonly text: string; readonly largestError: number };
}

function answer(task: FilesTask): FilesAnswer[FilesTask['kind']] | { readonly trouble: string } {
  if (task.kind === 'bake') {
    const not = notBakeable(task.look);
    if (not.length > 0) return { trouble: `${task.look.name} cannot be baked to a cube, since these look at more than a colour: ${not.join(', ')}` };
    const { cube, colours, largestError } = bake(task.look, { size: task.size, takes: 'srgb', gives: 'srgb' });
    return { text: writeCube(cube, colours), largestError };
  }
  const read = task.kind === 'lut' ? lutFromFile(task.name, task.text) : parseCdl(task.text);
  return 'fault' in read ? { trouble: inOneLine(task.name, read.fault) } : (read as FilesAnswer['lut'] | FilesAnswer['cdl']);
}

self.onmessage = (e: MessageEvent<FilesTask>) => (self as unknown as Worker).postMessage(answer(e.data));
