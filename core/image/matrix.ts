/**
 * 3×3 colour matrices: primaries to XYZ, chromatic adaptation, and conversion between sets of
 * primaries.
 */
export type Matrix = readonly [
  number,
  number,
  number,
  number,
  number,
  number,
  number,
  number,
  number,
];
type Vector = readonly [number, number, number];

/** The identity matrix. */
export const IDENTITY: Matrix = [1, 0, 0, 0, 1, 0, 0, 0, 1];

/** The matrix product a · b. */
export const multiply = (a: Matrix, b: Matrix): Matrix =>
  [0, 1, 2].flatMap((r) =>
    [0, 1, 2].map((c) => a[r * 3]! * b[c]! + a[r * 3 + 1]! * b[c + 3]! + a[r * 3 + 2]! * b[c + 6]!),
  ) as unknown as Matrix;

/** The product of a matrix and a vector. */
export const apply = (m: Matrix, v: Vector): Vector =>
  [0, 1, 2].map(
    (r) => m[r * 3]! * v[0] + m[r * 3 + 1]! * v[1] + m[r * 3 + 2]! * v[2],
  ) as unknown as Vector;

/** The inverse of a matrix. */
export function invert(m: Matrix): Matrix {
  const [a, b, c, d, e, f, g, h, i] = m;
  const A = e * i - f * h,
    B = f * g - d * i,
    C = d * h - e * g,
    det = a * A + b * B + c * C;
  return [
    A,
    c * h - b * i,
    b * f - c * e,
    B,
    a * i - c * g,
    c * d - a * f,
    C,
    b * g - a * h,
    a * e - b * d,
  ].map((v) => v / det) as unknown as Matrix;
}

const diagonal = (v: Vector): Matrix => [v[0], 0, 0, 0, v[1], 0, 0, 0, v[2]];
/** XYZ of a CIE xy chromaticity, with Y = 1. */
export const xyToXyz = (x: number, y: number): Vector => [x / y, 1, (1 - x - y) / y];

/** Chromaticities of a set of primaries and its white, CIE 1931 xy. */
export interface Primaries {
  readonly red: readonly [number, number];
  readonly green: readonly [number, number];
  readonly blue: readonly [number, number];
  readonly white: readonly [number, number];
}
/** White point D65, CIE 1931 xy. */
export const D65 = [0.3127, 0.329] as const;
/** ITU-R BT.709. */
export const BT709: Primaries = {
  red: [0.64, 0.33],
  green: [0.3, 0.6],
  blue: [0.15, 0.06],
  white: D65,
};
/** ITU-R BT.2020. */
export const BT2020: Primaries = {
  red: [0.708, 0.292],
  green: [0.17, 0.797],
  blue: [0.131, 0.046],
  white: D65,
};
/** SMPTE 170M (525 lines), as in ITU-R BT.601-7. */
export const BT601_525: Primaries = {
  red: [0.63, 0.34],
  green: [0.31, 0.595],
  blue: [0.155, 0.07],
  white: D65,
};
/** EBU Tech. 3213 (625 lines), as in ITU-R BT.601-7. */
export const BT601_625: Primaries = {
  red: [0.64, 0.33],
  green: [0.29, 0.6],
  blue: [0.15, 0.06],
  white: D65,
};
/** The ACES AP1 set (SMPTE ST 2065-1 family). */
export const AP1: Primaries = {
  red: [0.713, 0.293],
  green: [0.165, 0.83],
  blue: [0.128, 0.044],
  white: [0.32168, 0.33767],
};

/** The ACES AP0 set (SMPTE ST 2065-1). */
export const AP0: Primaries = {
  red: [0.7347, 0.2653],
  green: [0, 1],
  blue: [0.0001, -0.077],
  white: [0.32168, 0.33767],
};

/** The matrix from linear RGB to XYZ (SMPTE RP 177). */
export function toXyz(p: Primaries): Matrix {
  const [r, g, b] = [p.red, p.green, p.blue].map(([x, y]) => xyToXyz(x, y)) as unknown as [
    Vector,
    Vector,
    Vector,
  ];
  const m: Matrix = [r[0], g[0], b[0], r[1], g[1], b[1], r[2], g[2], b[2]];
  return multiply(m, diagonal(apply(invert(m), xyToXyz(...p.white))));
}

const BRADFORD: Matrix = [
  0.8951, 0.2664, -0.1614, -0.7502, 1.7135, 0.0367, 0.0389, -0.0685, 1.0296,
];

/** Linear Bradford adaptation of XYZ from one white to another (CIE xy). */
export function adaptation(from: readonly [number, number], to: readonly [number, number]): Matrix {
  const a = apply(BRADFORD, xyToXyz(...from)),
    b = apply(BRADFORD, xyToXyz(...to));
  return multiply(
    invert(BRADFORD),
    multiply(diagonal([b[0] / a[0], b[1] / a[1], b[2] / a[2]]), BRADFORD),
  );
}

/** The matrix from linear RGB of one set of primaries to another. */
export const between = (from: Primaries, to: Primaries): Matrix =>
  from === to
    ? IDENTITY
    : multiply(invert(toXyz(to)), multiply(adaptation(from.white, to.white), toXyz(from)));
