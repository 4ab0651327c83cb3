/** What parsers answer, and what they share. */
export interface FormatFault {
  /** Counted from 1. */
  readonly line: number;
  readonly message: string;
}
export type Parsed<T> = { readonly value: T } | { readonly fault: FormatFault };

/** No table or list worth reading is larger; whoever reads a file looks at its size first. */
export const MOST_BYTES = 64 * 2 ** 20;

export const fault = (line: number, message: string): { readonly fault: FormatFault } => ({
  fault: { line, message },
});
export const inOneLine = (name: string, f: FormatFault): string =>
  `${name}, line ${f.line}: ${f.message}`;

const NUMBER = /^[+-]?(\d+\.?\d*|\.\d+)([eE][+-]?\d+)?$/;
/** A finite number as files write it; undefined for anything else (also `nan`, `inf`, `0x1`). */
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
