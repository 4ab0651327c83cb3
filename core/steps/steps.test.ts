import { describe, expect, it } from 'vitest';
import { bitsThatDiffer, largestError, leafOf, randomFrom, randomPlanes } from '../engine/comparing';
import { Engine } from '../engine';
import { inDomain } from '../image';
import { applyStep, cubeValue, neutralValues, type Parameter, type ParameterValue, type Step, STEPS, type Values, withDefaults } from '.';

const engine = new Engine({ limit: 1 << 28, helpers: 0 });
const SIZES = [
  [1, 1],
  [3, 5],
  [67, 41],
] as const;

function somewhere(p: Parameter, random: () => number): ParameterValue {
  switch (p.kind) {
    case 'number':
      return p.min + random() * (p.max - p.min);
    case 'switch':
      return random() < 0.5;
    case 'colour':
      return [random(), random(), random()];
    case 'choice':
      return p.options[Math.floor(random() * p.options.length)]!.id;
    case 'curve':
      return [
        [0, random() * 0.4],
        [0.3 + random() * 0.3, 0.5],
        [1, 0.6 + random()],
      ];
    case 'cube':
      return cubeValue('random', '3d', 5, Float32Array.from({ length: 375 }, random), [-0.1, 0, 0], [1.2, 1, 2]);
  }
}
const anyValues = (step: Step, seed: number): Values => {
  const random = randomFrom(seed);
  return withDefaults(step, Object.fromEntries(step.parameters.map((p) => [p.id, somewhere(p, random)])));
};
const at = (width: number, height: number) => ({ frame: 7, seed: 0x1234567, width, height });

describe.each(STEPS.map((s) => [s.id, s] as const))('step %s', (_, step) => {
  it.each(SIZES)("gives the single reference's bits at %d×%d, for 3 and 4 planes and values from −0.5 to 4", (w, h) => {
    for (const planes of [3, 4])
      for (let seed = 1; seed <= 3; seed++) {
        const input = leafOf(randomPlanes(planes, w, h, seed * 7 + planes), w, h, step.domain);
        expect(bitsThatDiffer(engine, applyStep(step, input, anyValues(step, seed), seed === 3 ? 0.4 : 1, at(w, h)))).toBe(0);
      }
  });

  it('stays within 1e-4 of the double reference after encoding', () => {
    const [w, h] = SIZES[2];
    const input = leafOf(
      randomPlanes(3, w, h, 5).map((p) => p.map((v) => Math.abs(v) / 3)),
      w,
      h,
      step.domain,
    );
    expect(
      largestError(
        engine,
        inDomain(applyStep(step, input, step.id === 'contour' ? withDefaults(step, {}) : anyValues(step, 9), 1, at(w, h)), 'encoded'),
      ),
    ).toBeLessThan(1e-4);
  });

  it.skipIf(step.alwaysActs)('returns its input at its neutral values', () => {
    const [w, h] = SIZES[2];
    const planes = randomPlanes(3, w, h, 3);
    const image = engine.compute(inDomain(applyStep(step, leafOf(planes, w, h, step.domain), neutralValues(step), 1, at(w, h)), step.domain));
    const most = Math.max(...[0, 1, 2].map((p) => engine.memory.plane(image, p).reduce((m, v, i) => Math.max(m, Math.abs(v - planes[p]![i]!)), 0)));
    expect(most).toBeLessThan(2e-6);
  });
});
