import { blur } from '../../image';
import { colour, number } from '../../parameters';
import { linearColour } from '../colour-values';
import { builtStep, pixels } from '../declare';
import { brightOf, lit } from './spread';

/** Glow around bright areas. */
export const glow = builtStep({
  id: 'glow',
  family: 'light',
  label: 'Glow',
  help: 'Spreads the light of what is bright over what lies around it.',
  domain: 'light',
  start: { amount: 70 },
  parameters: [
    number('amount', 'Amount', '%', 0, 400, 0, { soft: [0, 200] }),
    number('threshold', 'Threshold', '', 0, 8, 0.5, { soft: [0, 1], picked: 'light' }),
    number('softness', 'Softness', '', 0, 4, 0.3, { soft: [0, 1] }),
    number('radius', 'Radius', 'lines', 0, 540, 60, { soft: [0, 300] }),
    colour('tint', 'Tint', [1, 1, 1]),
  ],
  build: (input, v, at) => {
    if (v.amount === 0) return input;
    const bright = brightOf(input, v.threshold, v.softness, linearColour(v.tint));
    return lit(input, blur(bright, pixels(v.radius, at) / 2), v.amount / 100);
  },
});
