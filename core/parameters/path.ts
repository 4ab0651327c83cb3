import { isPlace, mixNumbers, numbersSchema, type ParameterBase, type ParameterKind } from './kind';

/**
 * A node of a path: its place (as a point), and the offsets of the handles before and after it, in
 * the same shares.
 */
export type PathNode = readonly [number, number, number, number, number, number];
/** A closed outline of cubic Bézier curves; with fewer than three nodes it encloses nothing. */
export type Path = readonly PathNode[];
/** A drawn path. */
export interface PathParameter extends ParameterBase {
  readonly kind: 'path';
  readonly default: Path;
}

/** Most nodes of a path. */
export const MOST_NODES = 200;

/** Path parameters. */
export const pathKind: ParameterKind<PathParameter, Path> = {
  unsuited: (v) =>
    Array.isArray(v) && v.length <= MOST_NODES && v.every((node) => isPlace(node, 6))
      ? undefined
      : `must be at most ${MOST_NODES} nodes of six shares of the frame: a place, and how far off its two handles lie`,
  schema: () => ({
    type: 'array',
    maxItems: MOST_NODES,
    items: numbersSchema(6, 'a place in shares of the frame, and how far off its two handles lie'),
  }),
  parse: (text) =>
    text.split(';').map((node) => {
      const shares = node.split(',').map((v) => Number(v) / 100);
      return shares.length === 2 ? [...shares, 0, 0, 0, 0] : shares;
    }),
  /**
   * Interpolates node by node. Paths with different numbers of nodes do not interpolate; keys
   * reject them.
   */
  mix: (a, b, share) =>
    a.length === b.length ? a.map((node, i) => mixNumbers(node, b[i]!, share)) : share >= 1 ? b : a,
  any: (_, random) =>
    Array.from(
      { length: 5 },
      () => [random(), random(), random() - 0.5, 0, 0.1, random() - 0.5] as const,
    ),
};

/**
 * A path with a node added at share `t` of the segment after node `segment`, with the same outline
 * (de Casteljau). All keys of a path gain a node this way, at the same place.
 */
export function splitPath(path: Path, segment: number, t: number): Path {
  const a = path[segment]!,
    next = (segment + 1) % path.length,
    b = path[next]!;
  const between = (p: Pair, q: Pair): Pair => [p[0] + (q[0] - p[0]) * t, p[1] + (q[1] - p[1]) * t];
  const p0: Pair = [a[0], a[1]],
    p1: Pair = [a[0] + a[4], a[1] + a[5]],
    p2: Pair = [b[0] + b[2], b[1] + b[3]],
    p3: Pair = [b[0], b[1]];
  const [q0, q1, q2] = [between(p0, p1), between(p1, p2), between(p2, p3)];
  const [r0, r1] = [between(q0, q1), between(q1, q2)];
  const s = between(r0, r1);
  const out = path.map((node, i): PathNode => {
    const [x, y, ...handles] = node;
    if (i === next) handles.splice(0, 2, q2[0] - x, q2[1] - y);
    if (i === segment) handles.splice(2, 2, q0[0] - x, q0[1] - y);
    return [x, y, ...handles];
  });
  out.splice(segment + 1, 0, [s[0], s[1], r0[0] - s[0], r0[1] - s[1], r1[0] - s[0], r1[1] - s[1]]);
  return out;
}
type Pair = readonly [number, number];
