import type { Pixel } from '../../kernel';
import { number } from '../../parameters';
import { pixelStep } from '../declare';
import { saturated } from './hues';

/** Saturation that acts most on weak colours. */
export const vibrance = pixelStep({
  id: 'vibrance',
  family: 'colour',
  label: 'Vibrance',
  help: 'Strengthens or drains faint colours, and leaves strong ones nearly alone.',
  domain: 'encoded',
  example: { amount: 100 },
  parameters: [number('amount', 'Amount', '%', -100, 200, 0, { soft: [-100, 100] })],
  numbers: (v) => [v.amount / 100],
  pixel: (c, t) => {
    const [r, g, b] = c as [Pixel[0], Pixel[0], Pixel[0]];
    const most = r!.max(g!).max(b!),
      least = r!.min(g!).min(b!);
    const strong = most.sub(least).div(most.max(1e-3)).clamp(0, 1);
    const faint = strong.neg().add(1);
    return saturated(c, faint.mul(faint).mul(t.n(0)).add(1));
  },
});
