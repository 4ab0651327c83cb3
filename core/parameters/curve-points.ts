/**
 * Monotone cubic curves through points (Fritsch and Carlson, 1980), continued by their end slopes.
 */
import { Hasher } from '../graph';
import type { TableSpec } from '../kernel';

/** Points of a curve in encoded values, x rising. */
export type CurvePoints = readonly (readonly [number, number])[];

/** The curve through points as a function. Needs one point or more, with x strictly rising. */
export function curveThrough(points: CurvePoints): (x: number) => number {
  const n = points.length;
  if (n === 1) return (x) => points[0]![1] + (x - points[0]![0]);
  const slope = points.slice(1).map((p, i) => (p[1] - points[i]![1]) / (p[0] - points[i]![0]));
  const tangent = points.map((_, i) => {
    if (i === 0) return slope[0]!;
    if (i === n - 1) return slope[n - 2]!;
    return slope[i - 1]! * slope[i]! <= 0 ? 0 : (slope[i - 1]! + slope[i]!) / 2;
  });
  slope.forEach((d, i) => {
    if (d === 0) {
      tangent[i] = tangent[i + 1] = 0;
      return;
    }
    const a = tangent[i]! / d,
      b = tangent[i + 1]! / d,
      s = a * a + b * b;
    if (s > 9) {
      const t = 3 / Math.sqrt(s);
      tangent[i] = t * a * d;
      tangent[i + 1] = t * b * d;
    }
  });
  return (x) => {
    if (x <= points[0]![0]) return points[0]![1] + (x - points[0]![0]) * tangent[0]!;
    if (x >= points[n - 1]![0])
      return points[n - 1]![1] + (x - points[n - 1]![0]) * tangent[n - 1]!;
    let i = 0;
    while (x > points[i + 1]![0]) i++;
    const h = points[i + 1]![0] - points[i]![0],
      t = (x - points[i]![0]) / h,
      t2 = t * t,
      t3 = t2 * t;
    return (
      points[i]![1] * (2 * t3 - 3 * t2 + 1) +
      h * tangent[i]! * (t3 - 2 * t2 + t) +
      points[i + 1]![1] * (3 * t2 - 2 * t3) +
      h * tangent[i + 1]! * (t3 - t2)
    );
  };
}

const LAYOUT = { kind: 'uniform', lo: 0, hi: 1, n: 1025 } as const;
const nameOf = (points: CurvePoints): string => {
  const h = new Hasher();
  points.forEach(([x, y]) => h.float(x).float(y));
  return h.hex();
};

/**
 * `second` after `first` as one table of 1025 entries, which represents straight lines exactly. It
 * continues by the slopes of the composition at 0 and 1.
 */
export function curvesTable(first: CurvePoints, second: CurvePoints): TableSpec {
  const f = curveThrough(first),
    g = curveThrough(second);
  const near = 1 / 16384;
  const below = (g(f(near)) - g(f(0))) / near,
    above = (g(f(1)) - g(f(1 - near))) / near;
  const fn = (x: number): number =>
    x < 0 ? g(f(0)) + x * below : x > 1 ? g(f(1)) + (x - 1) * above : g(f(x));
  return { key: `curves-${nameOf(first)}-${nameOf(second)}`, layout: LAYOUT, fn };
}
