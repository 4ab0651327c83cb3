import type { ValidationError } from 'class-validator';

/** A fault of a document: its path (such as `layers[0].steps[1].step`), and a message that says what to do. */
export interface Fault {
  readonly path: string;
  readonly message: string;
}

/** The validator starts messages with the property's name; the path has it already. */
const plainWords = (message: string, property: string): string =>
  message.startsWith(`${property} `) ? message.slice(property.length + 1) : message;

/** What class-validator found, with the paths of each fault. */
export function faultsOf(errors: readonly ValidationError[], at = ''): Fault[] {
  return errors.flatMap((e) => {
    const path = /^\d+$/.test(e.property)
      ? `${at}[${e.property}]`
      : at
        ? `${at}.${e.property}`
        : e.property;
    const own = Object.values(e.constraints ?? {}).map((message) => ({
      path,
      message: plainWords(message, e.property),
    }));
    return [...own, ...faultsOf(e.children ?? [], path)];
  });
}
