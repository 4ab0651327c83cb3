/**
 * The order in which a body reads. The place of a reading (a table entry, a cell) may depend on
 * another reading. Each takes about fifty cycles from place to value, and a processor looks ahead
 * about four. Computed channel by channel, dependent readings make it wait. Computed stage by
 * stage, the readings of all channels are in flight at once.
 */
import { inOrder, loopsOf, type Node } from './node';
import { cellKey } from './simd-cells';

/** Readings that depend on readings of earlier stages only. */
export interface Stage {
  /** Nodes that the places of this stage's readings depend on. */
  readonly places: readonly Node[];
  /**
   * One corner of each of its cells, grouped by image and edge rule, so that one test tells whether
   * a whole group lies inside.
   */
  readonly cells: readonly (readonly Node[])[];
}

const READINGS = new Set<Node['op']>(['lookup', 'corner', 'fetch']);

/**
 * The stages of `outputs` in order. `placesOf` gives the nodes of a reading's place; nodes in
 * `steady` are available from the start.
 */
export function stagesOf(
  outputs: readonly Node[],
  placesOf: (n: Node) => readonly Node[],
  steady: { has(n: Node): boolean },
): Stage[] {
  const stages: Node[][] = [];
  const loops = loopsOf(inOrder(outputs));
  /** Length of the longest chain of readings to a node, without those inside loops. */
  const depths = new Map<Node, number>();
  const depthOf = (n: Node): number => {
    const known = depths.get(n);
    if (known !== undefined) return known;
    // A corner's first argument is its value if the cell does not lie inside.
    let depth = Math.max(0, ...(n.op === 'corner' ? n.args.slice(1) : n.args).map(depthOf));
    if (loops.get(n)!.size === 0 && READINGS.has(n.op) && !steady.has(n))
      (stages[depth++] ??= []).push(n);
    depths.set(n, depth);
    return depth;
  };
  outputs.forEach(depthOf);
  return stages.map((readings, i) => ({
    // The first stage's places depend on no reading.
    places: i === 0 ? [] : [...new Set(readings.flatMap(placesOf))],
    cells: together(readings.filter((n) => n.op === 'corner')),
  }));
}

/** One corner per cell, grouped by image and edge rule. */
function together(corners: readonly Node[]): Node[][] {
  const one = new Map(corners.map((n) => [cellKey(n), n]));
  const groups = new Map<string, Node[]>();
  for (const n of one.values()) {
    const key = `${n.imm[0]}:${n.imm[4]}`;
    groups.set(key, [...(groups.get(key) ?? []), n]);
  }
  return [...groups.values()];
}
