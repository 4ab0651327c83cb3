/**
 * Every step on input that no camera gives: far beyond white, infinite, denormal, and no numbers. The
 * simd back end must neither trap nor differ from the reference by a bit.
 */
import { describe, expect, it } from 'vitest';
import { lowerStep, STEPS } from '.';
import { Engine } from '../engine';
import { anyValues, leafOf, randomFrom, referenceOf } from '../testing';

const engine = new Engine({ limit: 1 << 28, helpers: 0 });
const EXTREME = [0, -0, 1, -1, 65504, -65504, 1e-40, 1e20, -1e20, 3e38, -3e38, Infinity, NaN];
const [W, H] = [13, 7];
const at = { frame: 5, seconds: 0.2, rate: [25, 1] as const, seed: 77, width: W, height: H };

/** Planes of plain numbers with extreme ones among them; coverage stays within 0…1. */
function extremePlanes(planes: number, seed: number): Float32Array[] {
  const random = randomFrom(seed);
  return Array.from({ length: planes }, (_, p) =>
    Float32Array.from({ length: W * H }, () =>
      p === 3 || random() < 0.6 ? random() : EXTREME[Math.floor(random() * EXTREME.length)]!,
    ),
  );
}

/** Numbers that differ, where all that are no number count as one. */
function differing(a: ArrayLike<number>, b: ArrayLike<number>): number {
  let n = 0;
  for (let i = 0; i < a.length; i++) if (!Object.is(a[i], b[i]) && a[i] !== b[i]) n++;
  return n;
}

describe.each(
  STEPS.filter((s) => s.family !== 'tape' || s.id === 'channel-drift').map(
    (s) => [s.id, s] as const,
  ),
)('step %s on extreme input', (_, step) => {
  it('does not trap, and gives what the single reference gives', () => {
    for (const seed of [1, 2, 3, 4]) {
      const planes = seed % 2 ? 3 : 4;
      const input = leafOf(extremePlanes(planes, seed), W, H, step.domain);
      const made = lowerStep(step, input, anyValues(step, seed * 31), 1, at);
      const image = engine.compute(made),
        truth = referenceOf(made, 'single');
      for (let p = 0; p < made.planes; p++)
        expect(differing(engine.memory.plane(image, p), truth.planes[p]!)).toBe(0);
    }
  });
});
