/**
 * Elementary functions in double precision from + − × ÷ √ alone, so that every JavaScript engine
 * gives the same bits. The engines' own functions differ, so a lint rule bans them from core.
 */
const view = new DataView(new ArrayBuffer(8));
const LN2 = 0.6931471805599453;

/** 2^x by a Taylor series on |f| ≤ ½; relative error about 1e-16. */
export function exp2d(x: number): number {
  if (x > 1023.9) return Infinity;
  if (x < -1022) return 0;
  const i = Math.round(x);
  const t = (x - i) * LN2;
  let sum = 1,
    term = 1;
  for (let k = 1; k < 18; k++) {
    term = (term * t) / k;
    sum += term;
  }
  view.setUint32(0, (i + 1023) << 20);
  view.setUint32(4, 0);
  return i < -1021 || i > 1022 ? scale(sum, i) : sum * view.getFloat64(0);
}
const scale = (v: number, i: number): number => {
  const step = i < 0 ? 0.5 : 2;
  for (let k = Math.abs(i); k > 0; k--) v *= step;
  return v;
};

/** log₂ x for x > 0 by the atanh series; −Infinity at 0, NaN below. */
export function log2d(x: number): number {
  if (!(x > 0)) return x === 0 ? -Infinity : NaN;
  if (x === Infinity) return x;
  if (x < 2.2250738585072014e-308) return log2d(x * 2 ** 54) - 54;
  view.setFloat64(0, x);
  const high = view.getUint32(0);
  let e = (high >>> 20) - 1023;
  view.setUint32(0, (high & 0xfffff) | 0x3ff00000);
  let m = view.getFloat64(0);
  if (m > 1.4142135623730951) {
    m /= 2;
    e++;
  }
  const s = (m - 1) / (m + 1),
    s2 = s * s;
  let sum = 0,
    term = s;
  for (let k = 1; k < 30; k += 2) {
    sum += term / k;
    term *= s2;
  }
  return e + (2 * sum) / LN2;
}

/** x^y for x > 0; 0 for x ≤ 0. */
export const powd = (x: number, y: number): number => (x <= 0 ? 0 : exp2d(log2d(x) * y));
/** e^x. */
export const expd = (x: number): number => exp2d(x / LN2);
/** Natural logarithm of x > 0. */
export const logd = (x: number): number => log2d(x) * LN2;

/** A 32-bit hash of an integer (multiply and xor-shift; constants of Wellons's "lowbias32"). */
export function mixed32(v: number): number {
  let h = v | 0;
  h = Math.imul(h ^ (h >>> 16), 0x7feb352d);
  h = Math.imul(h ^ (h >>> 15), 0x846ca68b);
  return h ^ (h >>> 16);
}

/** Sine of an angle in turns. */
export function sinTurnsd(x: number): number {
  let r = x - Math.floor(x + 0.5);
  if (r > 0.25) r = 0.5 - r;
  else if (r < -0.25) r = -0.5 - r;
  const a = r * 6.283185307179586,
    a2 = a * a;
  let term = a,
    sum = a;
  for (let k = 1; k < 14; k++) {
    term *= -a2 / (2 * k * (2 * k + 1));
    sum += term;
  }
  return sum;
}
/** Cosine of an angle in turns. */
export const cosTurnsd = (x: number): number => sinTurnsd(x + 0.25);

/** Halvings of an angle before its series, and terms of that: together within 2⁻⁵³ of a turn. */
const HALVINGS = 3,
  TERMS = 9;
/**
 * The direction of (x, y) in turns, −½…½, clockwise where y goes down; 0 for no direction. By
 * Gregory's series after halving the angle (tan ½a = t ÷ (1 + √(1 + t²))).
 */
export function turnsd(x: number, y: number): number {
  const [w, h] = [Math.abs(x), Math.abs(y)];
  if (w === 0 && h === 0) return 0;
  let t = Math.min(w, h) / Math.max(w, h);
  for (let i = 0; i < HALVINGS; i++) t /= 1 + Math.sqrt(1 + t * t);
  let sum = 0;
  for (let n = TERMS - 1; n >= 0; n--) sum = 1 / (2 * n + 1) - t * t * sum;
  const eighth = (t * sum * (1 << HALVINGS)) / (2 * Math.PI),
    quarter = h > w ? 0.25 - eighth : eighth,
    half = x < 0 ? 0.5 - quarter : quarter;
  return y < 0 ? -half : half;
}
