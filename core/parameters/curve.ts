import { type CurvePoints, curveThrough } from './curve-points';
import { mixNumber, type ParameterBase, type ParameterKind } from './kind';

/** A curve. */
export interface CurveParameter extends ParameterBase {
  readonly kind: 'curve';
  readonly default: CurvePoints;
}

const isCurve = (v: unknown): boolean =>
  Array.isArray(v) &&
  v.length >= 1 &&
  v.length <= 32 &&
  v.every(
    (p, i) =>
      Array.isArray(p) &&
      p.length === 2 &&
      p.every((x) => typeof x === 'number' && Number.isFinite(x)) &&
      (i === 0 || p[0] > (v[i - 1] as number[])[0]!),
  );

/** Most points of a mixed curve: those of both curves, or evenly spaced ones. */
const MOST = 32;
/** Interpolates between two curves, at the points of both. */
function mixCurves(a: CurvePoints, b: CurvePoints, share: number): CurvePoints {
  if (share === 0) return a;
  if (share === 1) return b;
  const [f, g] = [curveThrough(a), curveThrough(b)];
  const own = [...new Set([...a, ...b].map(([x]) => x))].sort((p, q) => p - q);
  const [from, to] = [own[0]!, own.at(-1)!];
  const even = Array.from({ length: MOST }, (_, i) => from + ((to - from) * i) / (MOST - 1));
  const xs = own.length > MOST / 2 || from === to ? own.slice(0, MOST) : even;
  return xs.map((x) => [x, mixNumber(f(x), g(x), share)] as const);
}

/** Curve parameters. */
export const curveKind: ParameterKind<CurveParameter, CurvePoints> = {
  unsuited: (v) => (isCurve(v) ? undefined : 'must be 1 to 32 points [x, y] with rising x'),
  schema: () => ({
    type: 'array',
    minItems: 1,
    maxItems: 32,
    items: { type: 'array', items: { type: 'number' }, minItems: 2, maxItems: 2 },
    description: 'points [x, y], x rising',
  }),
  parse: (text) => text.split(';').map((q) => q.split(',').map(Number)),
  mix: mixCurves,
  any: (_, random) => [
    [0, random() * 0.4],
    [0.3 + random() * 0.3, 0.5],
    [1, 0.6 + random()],
  ],
};
