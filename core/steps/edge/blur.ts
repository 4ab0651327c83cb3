import { blur as gaussian } from '../../image';
import { number } from '../../parameters';
import { builtStep, pixels } from '../declare';

/** Gaussian blur. */
export const blur = builtStep({
  id: 'blur',
  family: 'edge',
  label: 'Blur',
  help: 'Softens the picture like a lens out of focus; the radius holds 95 % of the light across.',
  domain: 'light',
  start: { radius: 14 },
  parameters: [number('radius', 'Radius', 'lines', 0, 540, 0, { soft: [0, 120] })],
  build: (input, v, at) => gaussian(input, pixels(v.radius, at) / 2),
});
