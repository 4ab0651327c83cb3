import { colour, number } from '../../parameters';
import { linearColour } from '../colour-values';
import { pixelStep } from '../declare';

/** One colour. */
export const plainColour = pixelStep({
  id: 'plain-colour',
  family: 'fill',
  label: 'Plain colour',
  help: 'One colour all over, however much of it covers.',
  domain: 'light',
  alwaysActs: true,
  covering: true,
  parameters: [
    colour('colour', 'Colour', [0.5, 0.5, 0.5]),
    number('cover', 'Cover', '%', 0, 100, 100),
  ],
  numbers: (v) => {
    const a = v.cover / 100;
    return [...linearColour(v.colour).map((c) => c * a), a];
  },
  planes: () => 4,
  pixel: (_, t) => [t.n(0), t.n(1), t.n(2), t.n(3)],
});
