import { describe, expect, it } from 'vitest';
import { lowerStep, stepOf } from '..';
import { Engine } from '../../engine';
import { type Values, withDefaults } from '../../parameters';
import { leafOf } from '../../testing';
import { clockAfter } from './lettering';

const engine = new Engine({ limit: 1 << 28, helpers: 0 });
const [W, H] = [480, 270];
const black = leafOf(
  [0, 1, 2].map(() => new Float32Array(W * H)),
  W,
  H,
  'light',
  'black',
);
const drawn = (v: Partial<Values>, seconds = 0): Float32Array => {
  const step = stepOf('lettering')!;
  return engine.memory
    .plane(
      engine.compute(
        lowerStep(step, black, withDefaults(step, v), 1, {
          frame: 0,
          seed: 0,
          width: W,
          height: H,
          seconds,
          rate: [25, 1],
        }),
      ),
      0,
    )
    .slice();
};
const box = (p: Float32Array) => {
  const lit = [...p.keys()].filter((i) => p[i]! > 0.5);
  const xs = lit.map((i) => i % W),
    ys = lit.map((i) => Math.floor(i / W));
  return {
    left: Math.min(...xs),
    right: Math.max(...xs),
    top: Math.min(...ys),
    bottom: Math.max(...ys),
  };
};

describe('lettering', () => {
  it('has capitals of the height that is asked for, about their place', () => {
    const { top, bottom } = box(
      drawn({ text: 'H', size: 400, place: [0.5, 0.5], align: 'middle' }),
    );
    expect(bottom - top + 1).toBeCloseTo(100, -0.5);
    expect((top + bottom + 1) / 2).toBeCloseTo(H / 2, -0.5);
  });
  it('keeps to its side of the place', () => {
    const at = (align: string) =>
      box(drawn({ text: 'HARBOUR', size: 80, place: [0.5, 0.5], align }));
    expect(at('left').left).toBeGreaterThanOrEqual(W / 2 - 1);
    expect(at('right').right).toBeLessThanOrEqual(W / 2 + 1);
    const { left, right } = at('middle');
    expect(Math.abs((left + right) / 2 - W / 2)).toBeLessThan(3);
  });
  it('has a hole where a letter has one', () => {
    const p = drawn({ text: 'O', size: 600, place: [0.5, 0.5], align: 'middle', face: 'words' });
    expect(p[135 * W + 240]).toBe(0);
    expect(Math.max(...p.slice(135 * W, 136 * W))).toBeCloseTo(1, 5);
  });
  it('runs as a clock in clip time, over midnight too', () => {
    expect(clockAfter('17 NOV 21:04:35', 26)).toBe('17 NOV 21:05:01');
    expect(clockAfter('23:59', 61)).toBe('00:00');
    expect(clockAfter('no time', 9)).toBe('no time');
    expect(drawn({ runs: 'clock' }, 0)).toEqual(drawn({ runs: 'clock' }, 0.9));
    expect(drawn({ runs: 'clock' }, 1)).not.toEqual(drawn({ runs: 'clock' }, 0.9));
  });
});
