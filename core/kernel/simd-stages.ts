/**
 * In which order a body reads. Where a reading lies (an entry of a table, a cell of a picture) may
 * depend on another reading, and each takes some fifty cycles from its place to its number; a
 * processor looks ahead about four of them. Computed channel by channel, chains of readings leave
 * it waiting; stage by stage, the readings of all channels are under way at once.
 */
import { inOrder, loopsOf, type Node } from './expr';
import { cellKey } from './simd-cells';

export interface Stage {
  /** What says where the readings of this stage lie. */
  readonly places: readonly Node[];
  /**
   * A corner of each of its cells, those together that one test can tell to lie inside: of one
   * image, by one edge rule.
   */
  readonly cells: readonly (readonly Node[])[];
}

const READINGS = new Set<Node['op']>(['lookup', 'corner', 'fetch']);

/**
 * The stages of `outputs`, the first one first; `placesOf` says what a reading's place is made of,
 * `steady` is there before.
 */
export function stagesOf(
  outputs: readonly Node[],
  placesOf: (n: Node) => readonly Node[],
  steady: { has(n: Node): boolean },
): Stage[] {
  const stages: Node[][] = [];
  const loops = loopsOf(inOrder(outputs));
  /** How many readings lie on the longest way to a node, those inside loops not counted. */
  const depths = new Map<Node, number>();
  const depthOf = (n: Node): number => {
    const known = depths.get(n);
    if (known !== undefined) return known;
    // A corner's first argument is its meaning where the cell does not lie inside.
    let depth = Math.max(0, ...(n.op === 'corner' ? n.args.slice(1) : n.args).map(depthOf));
    if (loops.get(n)!.size === 0 && READINGS.has(n.op) && !steady.has(n))
      (stages[depth++] ??= []).push(n);
    depths.set(n, depth);
    return depth;
  };
  outputs.forEach(depthOf);
  return stages.map((readings, i) => ({
    // The first stage's places need nothing to be waited for.
    places: i === 0 ? [] : [...new Set(readings.flatMap(placesOf))],
    cells: together(readings.filter((n) => n.op === 'corner')),
  }));
}

/** One corner a cell, by image and edge rule. */
function together(corners: readonly Node[]): Node[][] {
  const one = new Map(corners.map((n) => [cellKey(n), n]));
  const groups = new Map<string, Node[]>();
  for (const n of one.values()) {
    const key = `${n.imm[0]}:${n.imm[4]}`;
    groups.set(key, [...(groups.get(key) ?? []), n]);
  }
  return [...groups.values()];
}
