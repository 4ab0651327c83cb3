/** Kernels are compiled once per shape, so the same shape must always have the same expression. */
import { expect, it } from 'vitest';
import { expressions, groupOf } from '../engine';
import type { ImageNode } from '../graph';
import { building, type Node } from '../kernel';
import { anyValues, leafOf, randomPlanes } from '../testing';
import { lowerStep, STEPS } from '.';

const W = 48,
  H = 27;
const at = {
  frame: 3,
  seconds: 0.12,
  rate: [25, 1] as const,
  seed: 9,
  width: W,
  height: H,
  encoding: 'srgb' as const,
};
const input = leafOf(randomPlanes(3, W, H, 1), W, H, 'encoded'),
  covered = leafOf(randomPlanes(4, W, H, 2), W, H, 'encoded');

/** An expression as text, with its shared parts numbered. */
function words(roots: readonly Node[]): string {
  const numbers = new Map<Node, number>();
  const lines: string[] = [];
  const visit = (n: Node): number => {
    const known = numbers.get(n);
    if (known !== undefined) return known;
    const args = n.args.map(visit);
    lines.push(`${n.op}(${args.join(',')})${JSON.stringify(n.imm)}`);
    numbers.set(n, lines.length - 1);
    return lines.length - 1;
  };
  const ends = roots.map(visit);
  return `${lines.join(';')} -> ${ends.join(',')}`;
}

it('gives each shape one expression, whatever the values', () => {
  const seen = new Map<string, string>();
  let operations = 0;
  const visit = (n: ImageNode, done: Set<ImageNode>): void => {
    if (done.has(n) || n.kind === 'leaf') return;
    done.add(n);
    n.inputs.forEach((i) => visit(i.from, done));
    operations++;
    const group = groupOf(n, new Set<ImageNode>([n, ...n.inputs.map((i) => i.from)]));
    const own = building(() => words(expressions(group)));
    const before = seen.get(group.shape);
    if (before !== undefined) expect(own, group.shape).toBe(before);
    seen.set(group.shape, own);
  };
  for (const step of STEPS)
    for (const picture of [input, covered])
      for (let seed = 0; seed < 6; seed++)
        visit(lowerStep(step, picture, anyValues(step, seed), 1, at), new Set());
  expect(operations).toBeGreaterThan(1000);
  expect(seen.size).toBeLessThan(operations / 2);
}, 120_000);
