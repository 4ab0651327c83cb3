import { mix } from '../../kernel';
import { number } from '../../parameters';
import { pixelStep } from '../declare';

/** Inverted colour. */
export const invert = pixelStep({
  id: 'invert',
  family: 'colour',
  label: 'Invert',
  help: 'Turns light to dark and every colour to its opposite.',
  domain: 'encoded',
  parameters: [number('amount', 'Amount', '%', 0, 100, 100, { neutral: 0 })],
  channelwise: () => 4,
  numbers: (v) => [v.amount / 100],
  pixel: (c, t) => c.map((x) => mix(x, x.neg().add(1), t.n(0))),
});
