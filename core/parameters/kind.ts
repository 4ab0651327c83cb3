/** The interface of a kind of parameter: all operations on its values. */

/** What all parameters have. */
export interface ParameterBase {
  readonly id: string;
  readonly label: string;
  readonly help?: string;
}

/** Of a parameter whose id is known to the compiler. */
export interface Named<Id extends string> {
  readonly id: Id;
}

/** A piece of JSON Schema. */
export type Schema = Readonly<Record<string, unknown>>;

/** What parsing needs from outside, because core reads no files. */
export interface Reading {
  /** The table of a LUT file. Throws what is wrong with it. */
  readonly lut: (path: string) => unknown;
}

/** A kind of parameter, for values of type `V`. */
export interface ParameterKind<P extends ParameterBase, V> {
  /** What a value must be to suit the parameter; undefined if it suits. Never throws. */
  readonly unsuited: (v: unknown, p: P) => string | undefined;
  /** Its values as JSON Schema. */
  readonly schema: (p: P) => Schema;
  /** Parses a value from a command line; the result is checked with `unsuited`. */
  readonly parse: (text: string, reading: Reading) => unknown;
  /**
   * Interpolates: the first value at share 0, the second at 1. Extrapolates for shares outside 0…1
   * if the kind can.
   */
  readonly mix: (a: V, b: V, share: number, how?: Mixing) => V;
  /** A random value for tests; `random` returns 0…1. */
  readonly any: (p: P, random: () => number) => V;
}

/** How colours are mixed: in linear light, or perceptually (Oklab). */
export const MIXINGS = ['light', 'even'] as const;
/** One of `MIXINGS`. */
export type Mixing = (typeof MIXINGS)[number];

/** Whether a value is an array of `n` finite numbers. */
export const isNumbers = (v: unknown, n: number): v is number[] =>
  Array.isArray(v) && v.length === n && v.every((x) => typeof x === 'number' && Number.isFinite(x));
/** Whether a value is `n` shares of the frame, −4…5. */
export const isPlace = (v: unknown, n: number): boolean =>
  isNumbers(v, n) && v.every((x) => x >= -4 && x <= 5);
/** The schema of `n` numbers. */
export const numbersSchema = (n: number, description: string): Schema => ({
  type: 'array',
  items: { type: 'number' },
  minItems: n,
  maxItems: n,
  description,
});
/** Shares from comma-separated percentages. */
export const sharesOf = (text: string): number[] => text.split(',').map((v) => Number(v) / 100);

/** Linear interpolation; exact at both ends. */
export const mixNumber = (a: number, b: number, share: number): number =>
  share === 0 ? a : share === 1 ? b : a + (b - a) * share;
/** Linear interpolation of each element. */
export const mixNumbers = <T extends readonly number[]>(a: T, b: T, share: number): T =>
  a.map((v, i) => mixNumber(v, b[i]!, share)) as unknown as T;
/** For values that cannot be interpolated: the first until share 1, then the second. */
export const hold = <V>(a: V, b: V, share: number): V => (share >= 1 ? b : a);
