import { luma } from '../../kernel';
import { number } from '../../parameters';
import { pixelStep } from '../declare';

/** Saturation about luma. */
export const saturation = pixelStep({
  id: 'saturation',
  family: 'colour',
  label: 'Saturation',
  help: 'Drains or strengthens all colours alike.',
  domain: 'encoded',
  example: { amount: 190 },
  parameters: [number('amount', 'Amount', '%', 0, 300, 100, { soft: [0, 200] })],
  numbers: (v) => [v.amount / 100],
  pixel: (c, t) => {
    const grey = luma(c).mul(t.n(0).neg().add(1));
    return c.map((x) => x.mul(t.n(0)).add(grey));
  },
});
