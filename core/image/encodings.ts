/**
 * Colour encodings of clips and deliveries, from open standards, and the working encoded curve.
 * Each is a pair of tables between code values (0…1) and linear light, with a set of primaries. 1.0
 * in light is reference white.
 */
import { type CurveTable, exp2d, expd, log2d, logd, powd } from '../kernel';
import {
  AP0,
  AP1,
  between,
  BT2020,
  BT601_525,
  BT601_625,
  BT709,
  type Matrix,
  type Primaries,
} from './matrix';

/** Ids of all encodings. */
export const ENCODINGS = [
  'srgb',
  'bt709',
  'bt601-625',
  'bt601-525',
  'bt2020',
  'linear',
  'linear-bt2020',
  'acescg',
  'aces2065',
  'pq',
  'hlg',
  'acescct',
  'cineon',
] as const;
/** One of `ENCODINGS`. */
export type EncodingId = (typeof ENCODINGS)[number];

/** A colour encoding. */
export interface Encoding {
  readonly id: EncodingId;
  readonly label: string;
  readonly primaries: Primaries;
  /** Tables between code values and light; undefined where code values are light. */
  readonly toLight?: CurveTable;
  readonly fromLight?: CurveTable;
}

const odd = (f: (x: number) => number) => (x: number) => (x < 0 ? -f(-x) : f(x));

/** A table over float bits for an odd function that is linear below 2^eMin. */
function oddTable(key: string, eMin: number, eMax: number, f: (x: number) => number): CurveTable {
  const least = 2 ** eMin,
    slope = f(least) / least,
    most = 2 ** eMax;
  return {
    key,
    layout: { kind: 'floatbits', eMin, eMax, odd: true, low: [slope, 0] },
    fn: odd((x) => (x < least ? x * slope : f(Math.min(x, most)))),
  };
}

/**
 * A table over float bits for a function that follows a given line below 2^eMin, also for negative
 * numbers.
 */
function linedTable(
  key: string,
  eMin: number,
  eMax: number,
  low: readonly [number, number],
  f: (x: number) => number,
): CurveTable {
  const least = 2 ** eMin,
    most = 2 ** eMax;
  return {
    key,
    layout: { kind: 'floatbits', eMin, eMax, odd: false, low },
    fn: (x) => (x < least ? x * low[0] + low[1] : f(Math.min(x, most))),
  };
}

const UNIFORM = { kind: 'uniform', lo: -0.25, hi: 1.5, n: 7169 } as const;
/** A table with equal steps. Beyond its ends it continues linearly. */
function uniform(key: string, f: (x: number) => number): CurveTable {
  const { lo, hi, n } = UNIFORM;
  const near = (hi - lo) / (n - 1) / 16;
  const fn = (x: number): number => {
    if (x < lo) return f(lo) + ((x - lo) * (f(lo + near) - f(lo))) / near;
    return x > hi ? f(hi) + ((x - hi) * (f(hi) - f(hi - near))) / near : f(x);
  };
  return { key, layout: UNIFORM, fn };
}

/**
 * IEC 61966-2-1 (sRGB), odd-symmetric below 0, continued by the same power above 1: the working
 * encoded curve.
 */
export const SRGB_ENCODE = oddTable('srgb-encode', -9, 16, (x) =>
  x <= 0.0031308 ? 12.92 * x : 1.055 * powd(x, 1 / 2.4) - 0.055,
);
/** The inverse of `SRGB_ENCODE`. */
export const SRGB_DECODE = oddTable('srgb-decode', -5, 7, (x) =>
  x <= 0.04045 ? x / 12.92 : powd((x + 0.055) / 1.055, 2.4),
);

// ITU-R BT.1886 with a black level of zero: a pure power of 2.4.
const BT1886_DECODE = oddTable('bt1886-decode', -20, 7, (x) => powd(x, 2.4));
const BT1886_ENCODE = oddTable('bt1886-encode', -40, 16, (x) => powd(x, 1 / 2.4));

// SMPTE ST 2084. BT.2408 puts reference white at 203 cd/m².
const PQ = {
  m1: 2610 / 16384,
  m2: (2523 / 4096) * 128,
  c1: 3424 / 4096,
  c2: (2413 / 4096) * 32,
  c3: (2392 / 4096) * 32,
  white: 203,
};
const pqToLight = (e: number): number => {
  const p = powd(Math.min(1, Math.max(0, e)), 1 / PQ.m2);
  return (powd(Math.max(p - PQ.c1, 0) / (PQ.c2 - PQ.c3 * p), 1 / PQ.m1) * 10000) / PQ.white;
};
const pqFromLight = (l: number): number => {
  // Continued beyond 10,000 cd/m², so that the table's cell at the standard's end does not bend.
  const y = powd(Math.max(0, (l * PQ.white) / 10000), PQ.m1);
  return powd((PQ.c1 + PQ.c2 * y) / (1 + PQ.c3 * y), PQ.m2);
};

// ARIB STD-B67 / BT.2100 HLG without its system gamma. 75 % signal is reference white.
const HLG = { a: 0.17883277, b: 0.28466892, c: 0.55991073 };
const hlgScene = (e: number): number =>
  e <= 0.5 ? (e * e) / 3 : (expd((e - HLG.c) / HLG.a) + HLG.b) / 12;
const HLG_WHITE = hlgScene(0.75);
const hlgSignal = (s: number): number =>
  s <= 1 / 12 ? Math.sqrt(3 * s) : HLG.a * logd(12 * s - HLG.b) + HLG.c;

// Academy S-2016-001 (ACEScct). Its break at 2⁻⁷ is the table's lowest entry.
const CCT = { cut: 0.155251141552511, slope: 10.5402377416545, offset: 0.0729055341958355 };
const cctToLight = (e: number): number =>
  e <= CCT.cut ? (e - CCT.offset) / CCT.slope : exp2d(e * 17.52 - 9.72);
const cctFromLight = (l: number): number =>
  l <= 0.0078125 ? CCT.slope * l + CCT.offset : (log2d(l) + 9.72) / 17.52;

// Cineon-style printing density: white at code 685, black at 95 of 1023, 0.002 density per code,
// divided by a gamma of 0.6.
const TEN = 3.321928094887362;
const density = (code: number): number => exp2d((((code - 685) * 0.002) / 0.6) * TEN);
const CINEON_BLACK = density(95);
const cineonToLight = (e: number): number =>
  (density(e * 1023) - CINEON_BLACK) / (1 - CINEON_BLACK);
const cineonFromLight = (l: number): number =>
  (685 + ((log2d(l * (1 - CINEON_BLACK) + CINEON_BLACK) / TEN) * 0.6) / 0.002) / 1023;
/**
 * Offset from light to the argument of the curve's logarithm. The curve is steepest where that
 * argument is 0, not where light is.
 */
const CINEON_BIAS = CINEON_BLACK / (1 - CINEON_BLACK);
/** Just below the density of code 0. The curve continues linearly from there. */
const CINEON_LEAST = 2 ** -8;
const CINEON_ENCODE: CurveTable = (() => {
  const near = 1 + 2 ** -12;
  const at = (biased: number): number => cineonFromLight(biased - CINEON_BIAS);
  const slope = (at(CINEON_LEAST * near) - at(CINEON_LEAST)) / (CINEON_LEAST * (near - 1)),
    offset = at(CINEON_LEAST) - slope * CINEON_LEAST;
  return {
    key: 'cineon-encode',
    layout: {
      kind: 'floatbits',
      eMin: -8,
      eMax: 9,
      odd: false,
      low: [slope, offset],
      bias: CINEON_BIAS,
    },
    fn: (x) => {
      const biased = x + CINEON_BIAS;
      return biased < CINEON_LEAST ? biased * slope + offset : at(Math.min(biased, 2 ** 9));
    },
  };
})();

const encoding = (
  id: EncodingId,
  label: string,
  primaries: Primaries,
  toLight?: CurveTable,
  fromLight?: CurveTable,
): Encoding => ({
  id,
  label,
  primaries,
  ...(toLight && { toLight }),
  ...(fromLight && { fromLight }),
});

const ALL: Record<EncodingId, Encoding> = {
  srgb: encoding('srgb', 'sRGB', BT709, SRGB_DECODE, SRGB_ENCODE),
  bt709: encoding('bt709', 'BT.709 / BT.1886', BT709, BT1886_DECODE, BT1886_ENCODE),
  'bt601-625': encoding('bt601-625', 'BT.601, 625 lines', BT601_625, BT1886_DECODE, BT1886_ENCODE),
  'bt601-525': encoding('bt601-525', 'BT.601, 525 lines', BT601_525, BT1886_DECODE, BT1886_ENCODE),
  bt2020: encoding('bt2020', 'BT.2020 / BT.1886', BT2020, BT1886_DECODE, BT1886_ENCODE),
  linear: encoding('linear', 'Linear light', BT709),
  'linear-bt2020': encoding('linear-bt2020', 'Linear light, BT.2020', BT2020),
  acescg: encoding('acescg', 'ACEScg (linear, AP1)', AP1),
  aces2065: encoding('aces2065', 'ACES2065-1 (linear, AP0)', AP0),
  pq: encoding(
    'pq',
    'BT.2100 PQ',
    BT2020,
    {
      key: 'pq-decode',
      layout: { kind: 'floatbits', eMin: -16, eMax: 1, odd: false, low: [0, 0], bits: 11 },
      fn: pqToLight,
    },
    linedTable(
      'pq-encode',
      -48,
      7,
      [(pqFromLight(2 ** -48) - pqFromLight(0)) * 2 ** 48, pqFromLight(0)],
      pqFromLight,
    ),
  ),
  hlg: encoding(
    'hlg',
    'BT.2100 HLG',
    BT2020,
    oddTable('hlg-decode', -16, 1, (e) => hlgScene(e) / HLG_WHITE),
    oddTable('hlg-encode', -40, 7, (l) => hlgSignal(l * HLG_WHITE)),
  ),
  acescct: encoding(
    'acescct',
    'ACEScct log',
    AP1,
    uniform('acescct-decode', cctToLight),
    linedTable('acescct-encode', -7, 9, [CCT.slope, CCT.offset], cctFromLight),
  ),
  cineon: encoding(
    'cineon',
    'Cineon log',
    BT709,
    uniform('cineon-decode', cineonToLight),
    CINEON_ENCODE,
  ),
};

const composites = new Map<EncodingId, CurveTable>();
/**
 * From the working encoded curve directly to code values: both functions in one table. Only for
 * BT.709 primaries.
 */
export function codesFromEncoded(id: EncodingId): CurveTable {
  let made = composites.get(id);
  if (!made) {
    const { fromLight } = ALL[id];
    made = oddTable(`encoded-to-${id}`, -24, 7, (x) =>
      fromLight ? fromLight.fn(SRGB_DECODE.fn(x)) : SRGB_DECODE.fn(x),
    );
    composites.set(id, made);
  }
  return made;
}

/** The encoding with this id. */
export const encodingOf = (id: EncodingId): Encoding => ALL[id];
/** Whether a string is the id of an encoding. */
export const isEncoding = (id: string): id is EncodingId =>
  (ENCODINGS as readonly string[]).includes(id);
/** Matrix from an encoding's primaries to the working primaries (BT.709). */
export const toWorking = (e: Encoding): Matrix => between(e.primaries, BT709);
/** Matrix from the working primaries (BT.709) to an encoding's. */
export const fromWorking = (e: Encoding): Matrix => between(BT709, e.primaries);
/** Whether an encoding's primaries differ from the working ones. */
export const needsMatrix = (e: Encoding): boolean => e.primaries !== BT709;

/** Encodings whose code values are light: files of them are floating point as a rule. */
export const LINEAR_LIGHT: readonly EncodingId[] = ENCODINGS.filter((id) => !ALL[id].toLight);
/** Encodings of BT.2020 and BT.2100, whose samples have at least 10 bits and a matrix of their own. */
export const OF_2020: readonly EncodingId[] = ['bt2020', 'pq', 'hlg'];

/** The encoding of linear light with these primaries (CIE xy); undefined if there is none. */
export function linearWith({ red, green, blue, white }: Primaries): EncodingId | undefined {
  const near = (a: readonly number[], b: readonly number[]): boolean =>
    a.every((v, i) => Math.abs(v - b[i]!) < 0.002);
  return LINEAR_LIGHT.find((id) => {
    const own = ALL[id].primaries;
    return (
      near(red, own.red) && near(green, own.green) && near(blue, own.blue) && near(white, own.white)
    );
  });
}

/**
 * Colour tags of a file, as FFprobe names them, and its size in pixels as coded, before it is
 * turned.
 */
export interface ColourTags {
  readonly transfer?: string | undefined;
  readonly primaries?: string | undefined;
  readonly matrix?: string | undefined;
  readonly still: boolean;
  /** Samples are red, green and blue. */
  readonly rgb?: boolean;
  readonly width: number;
  readonly height: number;
}
/** Whether a file's tag carries information. */
export const isTagged = (tag: string | undefined): boolean =>
  tag !== undefined && tag !== '' && tag !== 'unknown' && tag !== 'unspecified';
/**
 * Whether an untagged file is probably of standard definition: at most 576 lines and 1024 pixels
 * wide.
 */
export const likelyBt601 = ({ width, height }: Pick<ColourTags, 'width' | 'height'>): boolean =>
  height <= 576 && width <= 1024;
/**
 * Numbers of lines of the 525-line system and of its fields; other standard definition counts as
 * 625-line.
 */
const OF_525 = new Set([120, 240, 243, 480, 483, 486]);

/**
 * Guesses the encoding from a file's tags. Untagged stills and untagged RGB are sRGB. Other untagged
 * video is BT.601 up to 576 lines (525- or 625-line by its height), BT.709 above.
 */
export function guessEncoding(tags: ColourTags): EncodingId {
  switch (tags.transfer) {
    case 'smpte2084':
      return 'pq';
    case 'arib-std-b67':
      return 'hlg';
    case 'linear':
      return tags.primaries === 'bt2020' ? 'linear-bt2020' : 'linear';
    case 'iec61966-2-1':
      return 'srgb';
  }
  if (tags.primaries === 'bt2020') return 'bt2020';
  if (tags.still) return 'srgb';
  if (tags.primaries === 'smpte170m' || tags.primaries === 'smpte240m') return 'bt601-525';
  if (tags.primaries === 'bt470bg') return 'bt601-625';
  if (tags.rgb && ![tags.primaries, tags.transfer].some(isTagged)) return 'srgb';
  const untagged = ![tags.primaries, tags.matrix, tags.transfer].some(isTagged);
  const older = untagged
    ? likelyBt601(tags)
    : !isTagged(tags.primaries) && /^(smpte170m|bt470bg|fcc)$/.test(tags.matrix ?? '');
  if (!older) return 'bt709';
  return OF_525.has(tags.height) ? 'bt601-525' : 'bt601-625';
}

/** Weights of red, green and blue in luma (BT.709). */
export const LUMA = [0.2126, 0.7152, 0.0722] as const;
