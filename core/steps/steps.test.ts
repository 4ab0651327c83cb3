import { describe, expect, it } from 'vitest';
import { lowerStep, neutralValues, STEPS } from '.';
import { Engine } from '../engine';
import { inDomain } from '../image';
import { withDefaults } from '../parameters';
import {
  anyValues,
  bitsThatDiffer,
  largestError,
  leafOf,
  randomPlanes,
  shareBeyond,
} from '../testing';

const engine = new Engine({ limit: 1 << 28, helpers: 0 });
const SIZES = [
  [1, 1],
  [3, 5],
  [67, 41],
] as const;

const at = (width: number, height: number) => ({
  frame: 7,
  seconds: 7 / 25,
  rate: [25, 1] as const,
  seed: 0x1234567,
  width,
  height,
});

// Tape steps have a raster of 400,000 samples at any size: tape.test.ts covers them.
describe.each(
  STEPS.filter((s) => s.family !== 'tape' || s.id === 'channel-drift').map(
    (s) => [s.id, s] as const,
  ),
)('step %s', (_, step) => {
  it.each(SIZES)(
    "gives the single reference's bits at %d×%d, for 3 and 4 planes and values from −0.5 to 4",
    (w, h) => {
      for (const planes of [3, 4])
        for (let seed = 1; seed <= 3; seed++) {
          const input = leafOf(randomPlanes(planes, w, h, seed * 7 + planes), w, h, step.domain);
          expect(
            bitsThatDiffer(
              engine,
              lowerStep(step, input, anyValues(step, seed), seed === 3 ? 0.4 : 1, at(w, h)),
            ),
          ).toBe(0);
        }
    },
  );

  it('gives the single reference’s bits at 641×29', () => {
    const [w, h] = [641, 29];
    const input = leafOf(randomPlanes(3, w, h, 23), w, h, step.domain);
    expect(bitsThatDiffer(engine, lowerStep(step, input, anyValues(step, 4), 0.8, at(w, h)))).toBe(
      0,
    );
  });

  it('stays within 1e-4 of the double reference after encoding', () => {
    const [w, h] = SIZES[2];
    const input = leafOf(
      randomPlanes(3, w, h, 5).map((p) => p.map((v) => Math.abs(v) / 3)),
      w,
      h,
      step.domain,
    );
    const made = inDomain(
      lowerStep(
        step,
        input,
        step.id === 'contour' ? withDefaults(step, {}) : anyValues(step, 9),
        1,
        at(w, h),
      ),
      'encoded',
    );
    // Next to an edge or a seam a pixel may fall on either side.
    if (step.jumps) expect(shareBeyond(engine, made, 1e-4)).toBeLessThan(0.01);
    else expect(largestError(engine, made)).toBeLessThan(1e-4);
  });

  it.skipIf(step.alwaysActs)('returns its input at its neutral values', () => {
    const [w, h] = SIZES[2];
    const planes = randomPlanes(3, w, h, 3);
    const image = engine.compute(
      inDomain(
        lowerStep(step, leafOf(planes, w, h, step.domain), neutralValues(step), 1, at(w, h)),
        step.domain,
      ),
    );
    const most = Math.max(
      ...[0, 1, 2].map((p) =>
        engine.memory
          .plane(image, p)
          .reduce((m, v, i) => Math.max(m, Math.abs(v - planes[p]![i]!)), 0),
      ),
    );
    expect(most).toBeLessThan(2e-6);
  });
});
