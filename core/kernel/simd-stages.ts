/**
 * In which order a body reads. Where a reading lies (an entry of a table, a cell of a picture) may depend on another
 * reading, and each takes some fifty cycles from its place to its number; a processor looks ahead about four of them. Computed
 * channel by channel, chains of readings leave it waiting; stage by stage, the readings of all channels are under way at once.
 */
import type { Node } from './expr';
import { cellKey } from './simd-cells';

export interface Stage {
  /** What says where the readings of this stage lie. */
  readonly places: readonly Node[];
  /** A corner of each of its cells, those together that one test can tell to lie inside: of one image, by one edge rule. */
  readonly cells: readonly (readonly Node[])[];
}

const READINGS = new Set<Node['op']>(['lookup', 'corner', 'fetch']);

/** The stages of `outputs`, the first one first; `placesOf` says what a reading's place is made of, `steady` is there before. */
export function stagesOf(outputs: readonly Node[], placesOf: (n: Node) => readonly Node[], steady: { has(n: Node): boolean }): Stage[] {
  const stages: Node[][] = [];
  /** How many readings lie on the longest way to a node; none for what changes from turn to turn of a loop. */
  const depths = new Map<Node, number | undefined>();
  const depthOf = (n: Node): number | undefined => {
    if (depths.has(n)) return depths.get(n);
    // A corner's first argument is its meaning where the cell does not lie inside.
    const args = (n.op === 'corner' ? n.args.slice(1) : n.args).map(depthOf);
    const turns = n.op === 'turn' || n.op === 'sum' || (n.op !== 'reduce' && args.includes(undefined));
    let depth: number | undefined = turns ? undefined : Math.max(0, ...args.map((d) => d ?? 0));
    if (depth !== undefined && READINGS.has(n.op) && !steady.has(n)) (stages[depth++] ??= []).push(n);
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
