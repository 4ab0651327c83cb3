/** Test helpers: steps at random values. */
import type { ImageNode } from '../graph';
import { anyValue, type Values, withDefaults } from '../parameters';
import { lowerStep, type FrameContext, type Step, tapeOf } from '../steps';
import { ACROSS } from '../tape';
import { leafOf, randomFrom, randomPlanes } from './comparing';

/** Random values for a step's parameters from a seed. */
export const anyValues = (step: Pick<Step, 'parameters'>, seed: number): Values => {
  const random = randomFrom(seed);
  return withDefaults(
    step,
    Object.fromEntries(step.parameters.map((p) => [p.id, anyValue(p, random)])),
  );
};

/**
 * A tape step on a raster of few rows, because the reference is too slow for a whole one. Steps
 * that do no work on the raster (a tube) run on a frame that small.
 */
export function onSmallRaster(step: Step, at: FrameContext, seed: number): ImageNode {
  const rows = 24;
  const small = leafOf(
    randomPlanes(3, ACROSS, rows, seed).map((p, i) =>
      p.map((v) => (i === 0 ? Math.abs(v) / 4.5 : v / 10)),
    ),
    ACROSS,
    rows,
    'none',
  );
  const frame = leafOf(randomPlanes(3, 8, 6, seed), 8, 6, 'encoded');
  const works =
    tapeOf(lowerStep(step, frame, anyValues(step, seed), 1, { ...at, width: 8, height: 6 }))
      ?.works ?? [];
  return works.reduce((now, work) => work(now, 1 + seed), small as ImageNode);
}
