import { describe, expect, it } from 'vitest';
import {
  building,
  column,
  float,
  iadd,
  input,
  int,
  lower,
  type Node,
  reduce,
  row,
  sample,
  table,
  toFloat,
} from '.';
import { placesOf } from './simd-readings';
import { stagesOf } from './simd-stages';

const CURVE = { kind: 'uniform', lo: 0, hi: 1, n: 5 } as const;
const inOrder = (outputs: readonly Node[]): Node[] => {
  const seen = new Set<Node>();
  const visit = (n: Node): void => {
    if (seen.has(n)) return;
    n.args.forEach(visit);
    seen.add(n);
  };
  outputs.forEach(visit);
  return [...seen];
};
/**
 * The number of reads on the longest path to a node. A cell's corner does not wait for its value
 * outside.
 */
function chained(n: Node): number {
  const args = n.op === 'corner' ? n.args.slice(1) : n.args;
  return (
    Math.max(0, ...args.map(chained)) +
    (n.op === 'lookup' || n.op === 'corner' || n.op === 'fetch' ? 1 : 0)
  );
}
const stages = (outputs: readonly Node[], steady: { has(n: Node): boolean } = new Set<Node>()) =>
  stagesOf(lower(outputs), placesOf, steady);

describe('the stages of a body', () => {
  it('are as many as its longest chain of readings, and begin with nothing to wait for', () =>
    building(() => {
      const chain = (x: Node): Node => table(2, CURVE, table(1, CURVE, table(0, CURVE, x)));
      expect(stages([float(1)])).toHaveLength(0);
      expect(stages([table(0, CURVE, input(0, 0))])).toHaveLength(1);
      const three = stages([0, 1, 2].map((p) => chain(input(0, p))));
      expect(three).toHaveLength(3);
      expect(three[0]!.places).toHaveLength(0);
      // The places of all channels of a stage come before its first read.
      for (const s of three.slice(1)) expect(s.places).toHaveLength(3);
    }));

  it('hold no place that waits for a reading of the same stage or a later one', () =>
    building(() => {
      const x = toFloat(column()),
        y = toFloat(row());
      const bent = [0, 1, 2].map((p) =>
        sample(0, p, x.mul(1.01 + p / 100), y.mul(1.01), int(64), int(64), 'mirror'),
      );
      const all = stages(bent.map((c) => table(1, CURVE, table(0, CURVE, c).add(c))));
      expect(all).toHaveLength(3);
      all.forEach((stage, i) => {
        expect(stage.places.map(chained)).toEqual(stage.places.map(() => i));
        for (const n of stage.cells.flat()) expect(chained(n.args[1]!)).toBe(i);
      });
      expect(all[0]!.cells.map((c) => c.length)).toEqual([3]);
    }));

  it('read cells of one image by one edge rule together, one corner standing for each', () =>
    building(() => {
      const at = (k: number) => toFloat(iadd(column(), k));
      const one = (image: number, plane: number, k: number, edge: 'mirror' | 'clamp') =>
        sample(image, plane, at(k), at(k), int(9), int(9), edge);
      const [stage] = stages([
        one(0, 0, 1, 'mirror'),
        one(0, 1, 1, 'mirror'),
        one(0, 1, 2, 'mirror'),
        one(0, 0, 3, 'clamp'),
        one(1, 0, 4, 'mirror'),
      ]);
      expect(stage!.cells.map((c) => c.length).sort()).toEqual([1, 1, 2]);
    }));

  it('leave out what changes from turn to turn of a loop, and what no pixel changes', () =>
    building(() => {
      // Also for a loop inside a loop: its result changes with each turn of the outer loop.
      const [all] = reduce(int(3), [float(0)], (outer, [so]) => {
        const [within] = reduce(int(2), [float(0)], (inner, [far]) => [
          far!.add(toFloat(inner).mul(toFloat(outer))),
        ]);
        return [so!.add(table(0, CURVE, within!.mul(0.1)))];
      });
      const ends = { has: (n: Node) => n.op === 'lookup' && n.args[0]!.op === 'iconst' }; // slopes beyond a table: no pixel changes them
      expect(stages([all!], ends)).toHaveLength(0);
      expect(stages([table(1, CURVE, all!)], ends)).toHaveLength(1);
      const [sum] = reduce(int(4), [float(0)], (turn, [so]) => [
        so!.add(table(0, CURVE, toFloat(turn).mul(0.2))),
      ]);
      const after = table(1, CURVE, sum!);
      const found = stages([after], ends);
      expect(found).toHaveLength(1);
      const steady = lower([table(0, CURVE, float(0.5))]);
      const lookups = new Set(inOrder(steady).filter((n) => n.op === 'lookup'));
      expect(stagesOf(steady, placesOf, lookups)).toHaveLength(0);
    }));
});
