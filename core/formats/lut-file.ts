/** Reads any file that a LUT step accepts, by its extension. */
import { type LutValue, processValue } from '../parameters';
import { parseClf } from './clf-file';
import { parseCube } from './cube-file';
import { fault, type FormatFault } from './parsed';

/** The table that was read, or what is wrong with the file. */
export type LutRead = { readonly value: LutValue } | { readonly fault: FormatFault };

/** Reads a `.cube` or `.clf` file. A process list is kept node by node. */
export function lutFromFile(fileName: string, text: string): LutRead {
  const name = fileName.replace(/^.*[/\\]/, '');
  const ending = /\.([a-z0-9]+)$/i.exec(name)?.[1]?.toLowerCase();
  if (ending === 'cube') return parseCube(text, name);
  if (ending !== 'clf' && ending !== 'xml')
    return fault(1, `"${name}" is neither a .cube nor a .clf file`);
  const read = parseClf(text, name);
  if ('fault' in read) return read;
  return { value: processValue(read.value.name.slice(0, 200), read.value.nodes) };
}
