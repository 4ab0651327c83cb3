/** Edits of a path by handles and keys. */
import type { Path, PathNode } from '../../../core';

const round = (v: number): number => Math.round(v * 1e5) / 1e5;
const node = (...v: number[]): PathNode => v.map(round) as unknown as PathNode;

/**
 * A node with handles along the line between its neighbours, a sixth of it each way (Catmull and
 * Rom's curve).
 */
function roundAt(path: Path, i: number): PathNode {
  const n = path.length;
  const [a, p, b] = [path[(i + n - 1) % n]!, path[i]!, path[(i + 1) % n]!];
  const [dx, dy] = [(b[0] - a[0]) / 6, (b[1] - a[1]) / 6];
  return node(p[0], p[1], -dx, -dy, dx, dy);
}
/** A path with all nodes round. */
export const smoothed = (path: Path): Path => path.map((_, i) => roundAt(path, i));
/** Whether a node is a corner. */
export const isCorner = (n: PathNode): boolean => n.slice(2).every((v) => v === 0);
/** Toggles a node between round and corner. */
export const turned = (path: Path, i: number): Path =>
  path.map((n, k) => (k !== i ? n : isCorner(n) ? roundAt(path, i) : node(n[0], n[1], 0, 0, 0, 0)));

/** Moves a node. */
export const movedNode = (path: Path, i: number, x: number, y: number): Path =>
  path.map((n, k) => (k === i ? node(held(x), held(y), n[2], n[3], n[4], n[5]) : n));
/** Moves the end of a handle; the opposite handle turns with it unless they are separated. */
export const movedHandle = (
  path: Path,
  i: number,
  side: 'in' | 'out',
  x: number,
  y: number,
  parted: boolean,
): Path =>
  path.map((n, k) => {
    if (k !== i) return n;
    const [dx, dy] = [held(x) - n[0], held(y) - n[1]];
    if (side === 'out')
      return parted ? node(n[0], n[1], n[2], n[3], dx, dy) : node(n[0], n[1], -dx, -dy, dx, dy);
    return parted ? node(n[0], n[1], dx, dy, n[4], n[5]) : node(n[0], n[1], dx, dy, -dx, -dy);
  });
/** Removes a node. */
export const withoutNode = (path: Path, i: number): Path => path.filter((_, k) => k !== i);

/**
 * Adds a node in the middle of the curve after node `i`, without changing the curve (de Casteljau).
 */
export function withNode(path: Path, i: number): Path {
  if (path.length < 2) return path;
  const a = path[i]!,
    b = path[(i + 1) % path.length]!;
  const straight = a[4] === 0 && a[5] === 0 && b[2] === 0 && b[3] === 0;
  if (straight)
    return [
      ...path.slice(0, i + 1),
      node((a[0] + b[0]) / 2, (a[1] + b[1]) / 2, 0, 0, 0, 0),
      ...path.slice(i + 1),
    ];
  const mid = (p: readonly number[], q: readonly number[]) =>
    [(p[0]! + q[0]!) / 2, (p[1]! + q[1]!) / 2] as const;
  const [p0, p1, p2, p3] = [
    [a[0], a[1]],
    [a[0] + a[4], a[1] + a[5]],
    [b[0] + b[2], b[1] + b[3]],
    [b[0], b[1]],
  ] as const;
  const [q0, q1, q2] = [mid(p0, p1), mid(p1, p2), mid(p2, p3)];
  const [r0, r1] = [mid(q0, q1), mid(q1, q2)];
  const s = mid(r0, r1);
  const next = path.map((n, k) => {
    if (k === i) return node(n[0], n[1], n[2], n[3], q0[0] - a[0], q0[1] - a[1]);
    return k === (i + 1) % path.length
      ? node(n[0], n[1], q2[0] - b[0], q2[1] - b[1], n[4], n[5])
      : n;
  });
  return [
    ...next.slice(0, i + 1),
    node(s[0], s[1], r0[0] - s[0], r0[1] - s[1], r1[0] - s[0], r1[1] - s[1]),
    ...next.slice(i + 1),
  ];
}
/** Clamped to the range that a document allows. */
const held = (v: number): number => Math.max(-4, Math.min(5, v));
