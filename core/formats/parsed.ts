/** The result type of parsers, and what they share. */
export interface FormatFault {
  /** Line of the fault, counted from 1. */
  readonly line: number;
  readonly message: string;
}
/** What a parser returns: the value, or the first fault. */
export type Parsed<T> = { readonly value: T } | { readonly fault: FormatFault };

/** Largest file that is read, bytes. Callers check the size before they read. */
export const MOST_BYTES = 64 * 2 ** 20;

/** A fault at a line. */
export const fault = (line: number, message: string): { readonly fault: FormatFault } => ({
  fault: { line, message },
});
/** A fault as one line of text, with the file's name. */
export const inOneLine = (name: string, f: FormatFault): string =>
  `${name}, line ${f.line}: ${f.message}`;

const NUMBER = /^[+-]?(\d+\.?\d*|\.\d+)([eE][+-]?\d+)?$/;
/** A finite decimal number; undefined for anything else (`nan`, `inf` and `0x1` included). */
export function numberOf(word: string): number | undefined {
  if (word.length > 60 || !NUMBER.test(word)) return undefined;
  const v = Number(word);
  return Number.isFinite(v) ? v : undefined;
}

/** The shortest decimal that reads back as the same 32-bit float. */
export function shortest(v: number): string {
  const f = Math.fround(v);
  for (let digits = 6; digits < 9; digits++) {
    const text = String(Number(f.toPrecision(digits)));
    if (Math.fround(Number(text)) === f) return text;
  }
  return String(Number(f.toPrecision(9)));
}
