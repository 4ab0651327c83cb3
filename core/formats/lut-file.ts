/** Any file that a LUT step can take, by its ending. */
import type { CubeValue } from '../steps/declare';
import { bakeFunction } from './bake';
import { parseClf } from './clf-file';
import { parseCube } from './cube-file';
import { fault, type FormatFault } from './parsed';

/** Entries a side that a process list is computed to. */
const SIDE = 65;

export type LutRead = { readonly value: CubeValue; readonly note?: string } | { readonly fault: FormatFault };

/** Reads a `.cube` or `.clf` file. A process list becomes one cube; the note says how exact that is. */
export function lutFromFile(fileName: string, text: string): LutRead {
  const name = fileName.replace(/^.*[/\\]/, '');
  const ending = /\.([a-z0-9]+)$/i.exec(name)?.[1]?.toLowerCase();
  if (ending === 'cube') return parseCube(text, name);
  if (ending !== 'clf' && ending !== 'xml') return fault(1, `"${name}" is neither a .cube nor a .clf file`);
  const read = parseClf(text, name);
  if ('fault' in read) return read;
  const { cube, largestError } = bakeFunction(read.value.name, read.value.apply, SIDE);
  return { value: cube, note: `computed to ${SIDE} entries a side; largest error ${largestError.toExponential(1)}` };
}
