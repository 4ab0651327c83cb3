import { Remembered } from './remembered';
/**
 * Functions of one number as tables. `floatbits` indexes by the number's own exponent and top 8
 * mantissa bits, so the relative step is the same everywhere (a tenth of a part in a million for
 * the encodings); `uniform` has equal steps.
 */
export interface FloatBitsLayout {
  readonly kind: 'floatbits';
  /** The table covers 2^eMin ≤ |x| < 2^eMax; above it the end value holds. */
  readonly eMin: number;
  readonly eMax: number;
  /** f(−x) = −f(x); otherwise the low line serves all x below 2^eMin. */
  readonly odd: boolean;
  /** Slope and offset of the line below 2^eMin (in the biased number). */
  readonly low: readonly [number, number];
  /**
   * Bits of the mantissa that number the entries of an octave; 8 unless said. Two more leave a
   * sixteenth of the error.
   */
  readonly bits?: number;
  /**
   * Added to the number before anything else; 0 unless said. For functions whose steep place is not
   * at 0.
   */
  readonly bias?: number;
}
export const mantissaBits = (l: FloatBitsLayout): number => l.bits ?? 8;
export interface UniformLayout {
  readonly kind: 'uniform';
  readonly lo: number;
  readonly hi: number;
  /** Entries, the ends included. Outside, the function goes on by its end slopes. */
  readonly n: number;
}
/** `n` × `n` × `n` colours, red changing fastest. */
export interface CubeLayout {
  readonly kind: 'cube';
  readonly n: number;
  /** Interpolated over all eight corners of a cell instead of a tetrahedron's four. */
  readonly trilinear?: boolean;
}
export type TableLayout = FloatBitsLayout | UniformLayout | CubeLayout;

export interface CurveTable {
  /** Names the contents: equal keys mean equal tables. */
  readonly key: string;
  readonly layout: FloatBitsLayout | UniformLayout;
  /** The function itself, in double precision. */
  readonly fn: (x: number) => number;
}
export interface CubeTable {
  readonly key: string;
  readonly layout: CubeLayout;
  /** Red, green, blue of each entry. */
  readonly colours: Float32Array;
}
export type TableSpec = CurveTable | CubeTable;

/**
 * One channel of a cube at a colour, in double precision: from corner to corner in order of falling
 * parts.
 */
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

/** One channel of a cube at a colour, in double precision, over all eight corners of its cell. */
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
 * The table's f32 contents: pairs of (value, difference to the next). A uniform table ends with one
 * more pair, (slope below, slope above). A cube's entries are padded to four numbers.
 */
export function tableData(spec: TableSpec): Float32Array {
  if ('colours' in spec) return paddedToFour(spec.colours);
  const { layout } = spec;
  if (layout.kind === 'floatbits') {
    const octave = 2 ** mantissaBits(layout),
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

/**
 * The same function in a table of four times as many entries, for what must be exact to a
 * millionth.
 */
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

/** `tableData`, remembered by the table's key (the latest few hundred). */
export const cachedTable = (spec: TableSpec): Float32Array =>
  cache.of(spec.key, () => tableData(spec));
