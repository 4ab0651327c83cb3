import { Remembered } from './remembered';
/**
 * A function of one number as a table over float bits: indexed by the number's exponent and top
 * mantissa bits, so that the relative step is the same everywhere (for the encodings 1e-7 of the
 * value).
 */
export interface FloatBitsLayout {
  readonly kind: 'floatbits';
  /** The table covers 2^eMin ≤ |x| < 2^eMax. Above, it keeps its last value. */
  readonly eMin: number;
  readonly eMax: number;
  /** The function is odd: f(−x) = −f(x). If not, `low` serves all x below 2^eMin. */
  readonly odd: boolean;
  /** Slope and offset of the line below 2^eMin (of the biased number). */
  readonly low: readonly [number, number];
  /**
   * Mantissa bits that index the entries of an octave. Default: 8. Two more reduce the error to a
   * sixteenth.
   */
  readonly bits?: number;
  /** Added to the number first. Default: 0. For functions that are steepest elsewhere than at 0. */
  readonly bias?: number;
}
/** Mantissa bits of a layout. */
export const mantissaBits = (l: FloatBitsLayout): number => l.bits ?? 8;
/** A function of one number as a table with equal steps from `lo` to `hi`. */
export interface UniformLayout {
  readonly kind: 'uniform';
  readonly lo: number;
  readonly hi: number;
  /** Number of entries, both ends included. Outside, the function continues by its end slopes. */
  readonly n: number;
}
/** A cube of `n` × `n` × `n` colours, red changing fastest. */
export interface CubeLayout {
  readonly kind: 'cube';
  readonly n: number;
  /** Trilinear interpolation instead of tetrahedral. */
  readonly trilinear?: boolean;
}
/** How a table is laid out. */
export type TableLayout = FloatBitsLayout | UniformLayout | CubeLayout;

/** A table of a function of one number. */
export interface CurveTable {
  /** Content key: equal keys mean equal tables. */
  readonly key: string;
  readonly layout: FloatBitsLayout | UniformLayout;
  /** The function itself, in double precision. */
  readonly fn: (x: number) => number;
}
/** A table of colours. */
export interface CubeTable {
  readonly key: string;
  readonly layout: CubeLayout;
  /** Red, green and blue of each entry. */
  readonly colours: Float32Array;
}
/** Any table. */
export type TableSpec = CurveTable | CubeTable;

/** One channel of a cube at a colour, in double precision; tetrahedral interpolation. */
export function tetrahedral(
  { layout: { n }, colours }: Pick<CubeTable, 'layout' | 'colours'>,
  c: readonly number[],
  channel: number,
): number {
  const at = c.map((v) => Math.max(0, Math.min(1, v)) * (n - 1));
  const low = at.map((v) => Math.min(n - 2, Math.floor(v)));
  const steps = [1, n, n * n];
  const parts = at
    .map((v, i) => ({ part: v - low[i]!, step: steps[i]! }))
    .sort((a, b) => b.part - a.part);
  let index = low[0]! + low[1]! * n + low[2]! * n * n;
  let value = colours[index * 3 + channel]! * (1 - parts[0]!.part);
  parts.forEach(({ part, step }, i) => {
    index += step;
    value += colours[index * 3 + channel]! * (part - (parts[i + 1]?.part ?? 0));
  });
  return value;
}

/** One channel of a cube at a colour, in double precision; trilinear interpolation. */
export function trilinear(
  { layout: { n }, colours }: Pick<CubeTable, 'layout' | 'colours'>,
  c: readonly number[],
  channel: number,
): number {
  const at = c.map((v) => Math.max(0, Math.min(1, v)) * (n - 1));
  const low = at.map((v) => Math.min(n - 2, Math.floor(v)));
  let value = 0;
  for (let corner = 0; corner < 8; corner++) {
    const on = [corner & 1, (corner >> 1) & 1, corner >> 2];
    const weight = on.reduce((w, up, i) => w * (up ? at[i]! - low[i]! : 1 - (at[i]! - low[i]!)), 1);
    const index = low[0]! + on[0]! + (low[1]! + on[1]!) * n + (low[2]! + on[2]!) * n * n;
    value += weight * colours[index * 3 + channel]!;
  }
  return value;
}

/**
 * The table's f32 contents: pairs of (value, difference to the next). A uniform table ends with a
 * pair (slope below, slope above). A cube's entries are padded to four numbers.
 */
export function tableData(spec: TableSpec): Float32Array {
  if ('colours' in spec) return paddedToFour(spec.colours);
  const { layout } = spec;
  if (layout.kind === 'floatbits') {
    const mantissa = mantissaBits(layout),
      octave = 2 ** mantissa,
      n = (layout.eMax - layout.eMin) * octave;
    const at = (i: number) =>
      Math.fround(
        spec.fn(
          2 ** (layout.eMin + Math.floor(i / octave)) * (1 + (i % octave) / octave) -
            (layout.bias ?? 0),
        ),
      );
    const out = new Float32Array(n * 2 + 2);
    for (let i = 0; i < n; i++) {
      out[i * 2] = at(i);
      out[i * 2 + 1] = at(i + 1) - at(i);
    }
    out[n * 2] = at(n);
    return out;
  }
  const { lo, hi, n } = layout;
  const h = (hi - lo) / (n - 1);
  const at = (i: number) => Math.fround(spec.fn(lo + i * h));
  const out = new Float32Array(n * 2 + 2);
  for (let i = 0; i < n; i++) {
    out[i * 2] = at(i);
    out[i * 2 + 1] = i + 1 < n ? at(i + 1) - at(i) : 0;
  }
  out[n * 2] = (spec.fn(lo + h / 16) - spec.fn(lo)) / (h / 16);
  out[n * 2 + 1] = (spec.fn(hi) - spec.fn(hi - h / 16)) / (h / 16);
  return out;
}

/** The same function in a table with four times as many entries, for results exact to 1e-6. */
export const fine = (t: CurveTable): CurveTable =>
  t.layout.kind === 'floatbits'
    ? { ...t, key: `${t.key}-fine`, layout: { ...t.layout, bits: mantissaBits(t.layout) + 2 } }
    : { ...t, key: `${t.key}-fine`, layout: { ...t.layout, n: (t.layout.n - 1) * 4 + 1 } };

function paddedToFour(colours: Float32Array): Float32Array {
  const out = new Float32Array((colours.length / 3) * 4);
  for (let i = 0; i < colours.length / 3; i++) out.set(colours.subarray(i * 3, i * 3 + 3), i * 4);
  return out;
}

const cache = new Remembered<Float32Array>(300);

/** `tableData` with a cache by the table's key. */
export const cachedTable = (spec: TableSpec): Float32Array =>
  cache.of(spec.key, () => tableData(spec));
