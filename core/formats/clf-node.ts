/** Reads numbers from a node of a process list; faults name their line. */
import { type FormatFault, numberOf } from './parsed';
import type { Element } from './xml';

/** A fault in a node, thrown inside the parser and returned by it as a value. */
export class NodeFault extends Error {
  constructor(readonly at: FormatFault) {
    super(at.message);
  }
}
/** Throws a `NodeFault` at the element's line. */
export const wrong = (e: Element, message: string): never => {
  throw new NodeFault({ line: e.line, message: `${e.name}: ${message}` });
};
/** A number from an attribute; `standard` if the attribute is missing. Throws `NodeFault`. */
export function numberIn(e: Element, name: string, standard?: number): number {
  const text = e.attributes[name];
  if (text === undefined) return standard ?? wrong(e, `${name} is missing`);
  return numberOf(text.trim()) ?? wrong(e, `${name} "${text.slice(0, 40)}" is no number`);
}
