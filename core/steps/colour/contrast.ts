import { exp2d } from '../../kernel';
import { number } from '../../parameters';
import { pixelStep } from '../declare';

/** Contrast about a pivot. */
export const contrast = pixelStep({
  id: 'contrast',
  family: 'colour',
  label: 'Contrast',
  help: 'Pulls light and dark apart, or together, around a pivot.',
  domain: 'encoded',
  example: { amount: 45 },
  parameters: [
    number('amount', 'Amount', '%', -100, 100, 0),
    number('pivot', 'Pivot', 'encoded', 0, 1, 0.435, { picked: 'luma' }),
  ],
  channelwise: () => 3,
  numbers: (v) => [exp2d(v.amount / 100), v.pivot],
  // c·k + pivot·(1 − k); exactly the input at k = 1.
  pixel: (c, t) => c.map((x) => x.mul(t.n(0)).add(t.n(1).mul(t.n(0).neg().add(1)))),
});
