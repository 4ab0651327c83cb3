import { exp2 } from '../../kernel';
import { number } from '../../parameters';
import { pixelStep } from '../declare';

/** Exposure in stops. */
export const exposure = pixelStep({
  id: 'exposure',
  family: 'colour',
  label: 'Exposure',
  help: 'Opens or closes the picture by stops of light.',
  domain: 'light',
  example: { stops: 0.8 },
  parameters: [number('stops', 'Stops', 'stops', -10, 10, 0, { soft: [-4, 4] })],
  numbers: (v) => [v.stops],
  pixel: (c, t) => c.map((x) => x.mul(exp2(t.n(0)))),
});
