/** The picture that shows a clip's motion field. */
import { afterAll, describe, expect, it } from 'vitest';
import { Engine } from '../engine';
import { leafOf } from '../testing';
import { type FieldView, fieldShown } from '.';

const W = 96,
  H = 72;
const engine = new Engine({ limit: 1 << 28, helpers: 0 });
afterAll(() => engine.close());

describe('the field shown', () => {
  const codes = leafOf(
    [0, 1, 2].map(() => new Float32Array(W * H).fill(0.5)),
    W,
    H,
    'none',
    'grey',
  );
  const shown = (how: FieldView, u: number, v: number, believed: number): number[] => {
    const field = leafOf(
      [u, v, believed].map((x) => new Float32Array(W * H).fill(x)),
      W,
      H,
      'none',
      `field ${u} ${v} ${believed}`,
    );
    const image = engine.compute(fieldShown(codes, field, how));
    return [0, 1, 2].map((p) => engine.memory.plane(image, p)[(H / 2) * W + 40]!);
  };
  it('as a tint has a colour for each direction, stronger with its length, and grey where nothing moves', () => {
    const [still, right, left, far] = [
      shown('tint', 0, 0, 1),
      shown('tint', 2, 0, 1),
      shown('tint', -2, 0, 1),
      shown('tint', 20, 0, 1),
    ];
    expect(Math.max(...still) - Math.min(...still)).toBeLessThan(1e-6);
    expect(right.indexOf(Math.max(...right))).toBe(0);
    expect(left.indexOf(Math.min(...left))).toBe(0);
    expect(far[0]! - far[1]!).toBeGreaterThan(right[0]! - right[1]!);
  });
  it('shows doubt, and nothing where all is believed', () => {
    shown('doubt', 3, 1, 1).forEach((c) => expect(c).toBeCloseTo(0.5, 6));
    const doubted = shown('doubt', 3, 1, 0);
    expect(doubted[0]! - doubted[2]!).toBeGreaterThan(0.1);
  });
  it('as arrows points the way it goes', () => {
    const field = leafOf(
      [4, 0, 1].map((x) => new Float32Array(W * H).fill(x)),
      W,
      H,
      'none',
      'to the right',
    );
    const image = engine.compute(fieldShown(codes, field, 'arrows'));
    const red = engine.memory.plane(image, 0);
    const ink = (x: number, y: number): number => Number(red[y * W + x]! > 0.6);
    const columns = Array.from({ length: W }, (_, x) =>
      Array.from({ length: H }, (_, y) => ink(x, y)).reduce((a, b) => a + b, 0),
    );
    // Arrows eight pixels long in cells of 3.6 pixels: every row has ink.
    const rows = Array.from({ length: H }, (_, y) =>
      Array.from({ length: W }, (_, x) => ink(x, y)).reduce((a, b) => a + b, 0),
    );
    expect(Math.max(...rows)).toBeGreaterThan(W * 0.6);
    expect(Math.max(...columns)).toBeLessThan(H * 0.7);
  });
});
