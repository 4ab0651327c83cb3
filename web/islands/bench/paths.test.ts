import { describe, expect, it } from 'vitest';
import { randomFrom } from '../../../core/testing';
import type { Path, PathNode } from '../../../core';
import { nearestSegment } from './handle';
import { isCorner, movedHandle, movedNode, smoothed, turned, withNode, withoutNode } from './paths';

const corner = (x: number, y: number): PathNode => [x, y, 0, 0, 0, 0];
const SQUARE: Path = [corner(0.2, 0.2), corner(0.8, 0.2), corner(0.8, 0.8), corner(0.2, 0.8)];

/** A point of the closed outline; `t` counts segments. */
function placeOn(path: Path, t: number): [number, number] {
  const i = Math.floor(t) % path.length,
    u = t - Math.floor(t);
  const a = path[i]!,
    b = path[(i + 1) % path.length]!;
  const bezier = (k: 0 | 1): number => {
    const [p0, p1, p2, p3] = [a[k], a[k] + a[4 + k]!, b[k] + b[2 + k]!, b[k]];
    return (1 - u) ** 3 * p0 + 3 * u * (1 - u) ** 2 * p1 + 3 * u * u * (1 - u) * p2 + u ** 3 * p3;
  };
  return [bezier(0), bezier(1)];
}
const randomPath = (seed: number, nodes: number): Path => {
  const u = randomFrom(seed);
  return Array.from(
    { length: nodes },
    () => [u(), u(), u() - 0.5, u() - 0.5, u() - 0.5, u() - 0.5] as unknown as PathNode,
  );
};

describe('a drawn path', () => {
  it('keeps its course when a node is added anywhere on it', () => {
    for (let seed = 1; seed <= 20; seed++) {
      const path = randomPath(seed, 3 + (seed % 4));
      for (let i = 0; i < path.length; i++) {
        const more = withNode(path, i);
        expect(more).toHaveLength(path.length + 1);
        // The halved segment and the others.
        for (let k = 0; k <= 8; k++) {
          const u = k / 8;
          const [x, y] = placeOn(more, i + Math.min(u * 2, 2 - 1e-9));
          const [wx, wy] = placeOn(path, i + Math.min(u, 1 - 5e-10));
          expect(Math.hypot(x - wx, y - wy)).toBeLessThan(1e-4);
        }
        for (let other = 0; other < path.length; other++)
          if (other !== i) {
            const [x, y] = placeOn(more, other + (other > i ? 1 : 0) + 0.37),
              [wx, wy] = placeOn(path, other + 0.37);
            expect(Math.hypot(x - wx, y - wy)).toBeLessThan(1e-4);
          }
      }
    }
  });

  it('has a corner more in the middle of a straight line', () => {
    expect(withNode(SQUARE, 0)[1]).toEqual(corner(0.5, 0.2));
    expect(withNode(SQUARE, 3).at(-1)).toEqual(corner(0.2, 0.5));
    expect(withNode(SQUARE, 1).filter((_, i) => i !== 2)).toEqual(SQUARE);
  });

  it('loses a node and gets it back', () => {
    expect(withoutNode(withNode(SQUARE, 2), 3)).toEqual(SQUARE);
    expect(withNode([corner(0, 0)], 0)).toEqual([corner(0, 0)]);
  });

  it('turns a corner round along its neighbours, and back', () => {
    const round = turned(SQUARE, 1);
    expect(isCorner(round[1]!)).toBe(false);
    // The handles lie on one line through the node, parallel to the line between its neighbours.
    const [, , ix, iy, ox, oy] = round[1]!;
    expect([ix, iy]).toEqual([-ox, -oy]);
    expect(ox / oy).toBeCloseTo((0.8 - 0.2) / (0.8 - 0.2), 6);
    expect(turned(round, 1)).toEqual(SQUARE);
    expect(round.filter((n) => isCorner(n))).toHaveLength(3);
    expect(smoothed(SQUARE).every((n) => !isCorner(n))).toBe(true);
  });

  it('takes its handles along with a node, and moves them together or parted', () => {
    const round = smoothed(SQUARE);
    const moved = movedNode(round, 0, 0.3, 0.1);
    expect(moved[0]!.slice(2)).toEqual(round[0]!.slice(2));
    expect(moved[0]!.slice(0, 2)).toEqual([0.3, 0.1]);
    expect(movedNode(round, 0, 99, -99)[0]!.slice(0, 2)).toEqual([5, -4]);
    const together = movedHandle(round, 2, 'out', 0.9, 0.7, false)[2]!;
    expect(together.slice(2).map((v) => Math.round(v * 1e5) / 1e5)).toEqual([-0.1, 0.1, 0.1, -0.1]);
    const parted = movedHandle(round, 2, 'in', 0.9, 0.7, true)[2]!;
    expect(parted.slice(4)).toEqual(round[2]!.slice(4));
    expect(parted.slice(2, 4).map((v) => Math.round(v * 1e5) / 1e5)).toEqual([0.1, -0.1]);
  });

  it('is met by the segment whose middle is nearest', () => {
    for (const [place, segment] of [
      [[0.5, 0.1], 0],
      [[0.9, 0.5], 1],
      [[0.5, 0.95], 2],
      [[0.1, 0.5], 3],
    ] as const)
      expect(nearestSegment(SQUARE, place)).toBe(segment);
  });
});
