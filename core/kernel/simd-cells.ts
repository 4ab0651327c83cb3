/**
 * Bilinear cells in the simd back end: groups corners by cell, and reads cells that lie inside the
 * picture.
 */
import type { Node } from './node';
import type { Gather } from './simd-gather';
import { type Code, I32, SIMD } from './wasm';

/** Key of the cell of a corner: its image, edge rule and place. */
export const cellKey = ({ imm, args }: Node): string =>
  `${imm[0]}:${imm[4]}@${args
    .slice(1)
    .map((a) => a.id)
    .join()}`;

/** The corners among nodes, grouped by cell. */
export function cellsOf(nodes: Iterable<Node>): Map<string, Node[]> {
  const cells = new Map<string, Node[]>();
  for (const n of nodes) {
    if (n.op !== 'corner') continue;
    const all = cells.get(cellKey(n));
    if (all) all.push(n);
    else cells.set(cellKey(n), [n]);
  }
  return cells;
}

/**
 * Reads four cells that lie inside the picture, given their columns and rows (integers, as floats).
 * The corners named in `wanted` go into locals.
 */
export function wholeCells(
  code: Code,
  gathers: Gather,
  at: { readonly x: number; readonly y: number },
  wanted: readonly Node[],
  into: readonly number[],
): void {
  const { scratch } = gathers;
  const [image, first] = wanted[0]!.imm as readonly [number, number];
  gathers.addressesOfWhole(image, first, at.x, at.y);
  code.set(scratch[0]!);
  const lanes = [0, 1, 2, 3].map((lane) => {
    const local = code.local(I32);
    code.get(scratch[0]!).simd(SIMD.laneI).byte(lane).set(local);
    return local;
  });
  for (const plane of new Set(wanted.map((n) => n.imm[1]!)))
    for (const down of [0, 1]) {
      const [left, right] = [0, 1].map((across) =>
        wanted.findIndex((n) => n.imm[1] === plane && n.imm[2] === across && n.imm[3] === down),
      );
      if (left === -1 && right === -1) continue;
      const apart =
        plane === first && down === 0 ? undefined : gathers.apart(image, first, plane, down);
      const pair = (a: number, b: number): void => {
        for (const lane of [a, b]) {
          code.get(lanes[lane]!);
          if (apart !== undefined) code.get(apart).op(0x6a);
          code.simdMemory(SIMD.zero64, 0);
        }
        code.shuffle([0, 4, 1, 5]);
      };
      pair(0, 1);
      code.set(scratch[1]!);
      pair(2, 3);
      code.set(scratch[2]!);
      if (left! >= 0)
        code.get(scratch[1]!).get(scratch[2]!).shuffle([0, 1, 4, 5]).set(into[left!]!);
      if (right! >= 0)
        code.get(scratch[1]!).get(scratch[2]!).shuffle([2, 3, 6, 7]).set(into[right!]!);
    }
}
