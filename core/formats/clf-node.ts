/** What is read from a node of a process list: numbers, or a fault at its line. */
import { type FormatFault, numberOf } from './parsed';
import type { Element } from './xml';

export class NodeFault extends Error {
  constructor(readonly at: FormatFault) {
    super(at.message);
  }
}
export const wrong = (e: Element, message: string): never => {
  throw new NodeFault({ line: e.line, message: `${e.name}: ${message}` });
};
export function numberIn(e: Element, name: string, standard?: number): number {
  const text = e.attributes[name];
  if (text === undefined) return standard ?? wrong(e, `${name} is missing`);
  return numberOf(text.trim()) ?? wrong(e, `${name} "${text.slice(0, 40)}" is no number`);
}
