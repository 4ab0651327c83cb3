/** What a kind of parameter knows: everything that is done to its values, in one place. */

/** What every parameter says of itself. */
export interface ParameterBase {
  readonly id: string;
  readonly label: string;
  readonly help?: string;
}

export type Schema = Readonly<Record<string, unknown>>;

/** What reading words needs from outside: files are read by the command line, not by core. */
export interface Reading {
  /** The table of a LUT file; throws what is wrong with it. */
  readonly lut: (path: string) => unknown;
}

export interface ParameterKind<P extends ParameterBase, V> {
  /** Undefined when a value suits the parameter; else what it must be. Never throws. */
  readonly unsuited: (v: unknown, p: P) => string | undefined;
  /** Its values as JSON Schema. */
  readonly schema: (p: P) => Schema;
  /** From words on a command line; what it answers is checked by `unsuited`. */
  readonly parse: (text: string, reading: Reading) => unknown;
  /**
   * Between two values: the first at share 0, the second at 1. Shares outside 0…1 lead beyond them
   * where the kind can.
   */
  readonly mix: (a: V, b: V, share: number, how?: Mixing) => V;
  /** Any value of the parameter, for tests, from numbers of 0…1. */
  readonly any: (p: P, random: () => number) => V;
}

/** How colours are mixed: as light is, or evenly to the eye (Oklab). */
export const MIXINGS = ['light', 'even'] as const;
export type Mixing = (typeof MIXINGS)[number];

export const isNumbers = (v: unknown, n: number): v is number[] =>
  Array.isArray(v) && v.length === n && v.every((x) => typeof x === 'number' && Number.isFinite(x));
/** Shares of the frame, and a good way beyond it. */
export const isPlace = (v: unknown, n: number): boolean =>
  isNumbers(v, n) && v.every((x) => x >= -4 && x <= 5);
export const numbersSchema = (n: number, description: string): Schema => ({
  type: 'array',
  items: { type: 'number' },
  minItems: n,
  maxItems: n,
  description,
});
export const sharesOf = (text: string): number[] => text.split(',').map((v) => Number(v) / 100);

export const mixNumber = (a: number, b: number, share: number): number =>
  share === 0 ? a : share === 1 ? b : a + (b - a) * share;
export const mixNumbers = <T extends readonly number[]>(a: T, b: T, share: number): T =>
  a.map((v, i) => mixNumber(v, b[i]!, share)) as unknown as T;
/** What cannot lie between two values stays the first until the second is reached. */
export const hold = <V>(a: V, b: V, share: number): V => (share >= 1 ? b : a);
