/** For tests: a step at values from anywhere in their ranges. */
import { randomFrom } from '../engine/comparing';
import { cubeValue } from './cube';
import { type Parameter, type ParameterValue, type Step, type Values, withDefaults } from './declare';

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
