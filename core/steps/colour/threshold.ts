import { luma, mix, smoothstep } from '../../kernel';
import { number } from '../../parameters';
import { pixelStep } from '../declare';

/** Black and white by a threshold. */
export const threshold = pixelStep({
  id: 'threshold',
  family: 'colour',
  label: 'Threshold',
  help: 'Black below a level, white above it.',
  domain: 'encoded',
  parameters: [
    number('level', 'Level', 'encoded', 0, 1, 0.5, { picked: 'luma' }),
    number('softness', 'Softness', '%', 0.5, 100, 4),
    number('amount', 'Amount', '%', 0, 100, 100, { neutral: 0 }),
  ],
  numbers: (v) => {
    const half = v.softness / 200;
    return [v.level - half, v.level + half, v.amount / 100];
  },
  pixel: (c, t) => {
    const on = smoothstep(t.n(0), t.n(1), luma(c));
    return c.map((x) => mix(x, on, t.n(2)));
  },
});
