/** For tests: a step at values from anywhere in their ranges. */
import { leafOf, randomFrom, randomPlanes } from '../engine/comparing';
import type { Picturing } from '../plan/graph';
import { ACROSS } from '../tape';
import { applyStep } from './apply';
import { tapeOf } from './tape/raster';
import { cubeValue } from './cube';
import { type Moment, type Parameter, type ParameterValue, type Step, type Values, withDefaults } from './declare';

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
    case 'point':
      return [random() * 1.4 - 0.2, random() * 1.4 - 0.2];
    case 'line':
      return [random(), random(), random(), random()];
    case 'ellipse':
      return [random(), random(), random() * 400, random() * 400, random() * 360];
    case 'path':
      return Array.from({ length: 5 }, () => [random(), random(), random() - 0.5, 0, 0.1, random() - 0.5] as const);
    case 'colours':
      return Array.from({ length: 3 }, () => [random(), random(), random(), random(), random()] as const);
    case 'text':
      return 'Static 17';
    case 'cube':
      return cubeValue('random', '3d', 5, Float32Array.from({ length: 375 }, random), [-0.1, 0, 0], [1.2, 1, 2]);
  }
}
export const anyValues = (step: Pick<Step, 'parameters'>, seed: number): Values => {
  const random = randomFrom(seed);
  return withDefaults(step, Object.fromEntries(step.parameters.map((p) => [p.id, somewhere(p, random)])));
};

/**
 * A tape step's work on a raster of few rows, as its reference is too slow for a whole one; of steps that do none there
 * (a tube), the step on a frame that small.
 */
export function onSmallRaster(step: Step, at: Moment, seed: number): Picturing {
  const rows = 24;
  const small = leafOf(
    randomPlanes(3, ACROSS, rows, seed).map((p, i) => p.map((v) => (i === 0 ? Math.abs(v) / 4.5 : v / 10))),
    ACROSS,
    rows,
    'none',
  );
  const frame = leafOf(randomPlanes(3, 8, 6, seed), 8, 6, 'encoded');
  const works = tapeOf(applyStep(step, frame, anyValues(step, seed), 1, { ...at, width: 8, height: 6 }))?.works ?? [];
  return works.reduce((now, work) => work(now, 1 + seed), small as Picturing);
}
