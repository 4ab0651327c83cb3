/**
 * A strict reader for the subset of XML that these formats need: no document types, no custom
 * entities, bounded depth.
 */
import { SaxesParser } from 'saxes';
import { fault, type FormatFault, MOST_BYTES } from './parsed';

/** An element with its line (from 1). */
export interface Element {
  readonly name: string;
  readonly attributes: Readonly<Record<string, string>>;
  readonly line: number;
  readonly children: Element[];
  /** Words of its own text; at most `mostWords` are kept. */
  readonly words: string[];
}

class Stop extends Error {
  constructor(readonly at: FormatFault) {
    super(at.message);
  }
}
const MOST_DEPTH = 16,
  MOST_ELEMENTS = 20_000,
  PIECE = 65536;

/**
 * Parses a document and returns its root element. `mostWords` limits the words of all text
 * together.
 */
export function readXml(
  text: string,
  mostWords: number,
): { readonly value: Element } | { readonly fault: FormatFault } {
  if (text.length > MOST_BYTES)
    return fault(1, `the file is larger than ${MOST_BYTES / 2 ** 20} MiB`);
  const parser = new SaxesParser({ position: true });
  const open: Element[] = [];
  let root: Element | undefined,
    words = 0,
    elements = 0,
    rest = '';
  const stop = (message: string): never => {
    throw new Stop({ line: parser.line, message });
  };
  const take = (piece: string, last: boolean): void => {
    const all = (rest + piece).split(/[\s,]+/);
    rest = last ? '' : all.pop()!;
    if (rest.length > 4096) stop('a word is longer than any of this format');
    const filled = all.filter((w) => w !== '');
    words += filled.length;
    if (words > mostWords) stop('there is more text than the format can mean');
    open.at(-1)?.words.push(...filled);
  };
  parser.on('error', (e) => stop(e.message.replace(/^\d+:\d+:\s*/, '').slice(0, 120)));
  parser.on('doctype', () => stop('a document type declaration is not allowed'));
  parser.on('opentag', (tag) => {
    take('', true);
    if (open.length >= MOST_DEPTH) stop(`elements lie more than ${MOST_DEPTH} deep`);
    if (++elements > MOST_ELEMENTS) stop('there are more elements than the format can mean');
    const name = tag.name.replace(/^.*:/, '');
    const made: Element = {
      name,
      attributes: tag.attributes as Record<string, string>,
      line: parser.line,
      children: [],
      words: [],
    };
    open.at(-1)?.children.push(made);
    root ??= made;
    open.push(made);
  });
  parser.on('text', (t) => take(t, false));
  parser.on('closetag', () => {
    take('', true);
    open.pop();
  });
  try {
    for (let at = 0; at < text.length; at += PIECE) parser.write(text.slice(at, at + PIECE));
    parser.close();
  } catch (e) {
    if (e instanceof Stop) return { fault: e.at };
    throw e;
  }
  return root ? { value: root } : fault(1, 'the file holds no element');
}

/** The first child of this name. */
export const childOf = (e: Element, name: string): Element | undefined =>
  e.children.find((c) => c.name === name);
