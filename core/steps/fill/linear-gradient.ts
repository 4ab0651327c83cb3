import { mix, smoothstep } from '../../kernel';
import { choice, colour, line, number } from '../../parameters';
import { linearColour } from '../colour-values';
import { inLines, pixelStep } from '../declare';
import { over } from './over';

/** A gradient between two colours, mixed in linear light. */
export const linearGradient = pixelStep({
  id: 'linear-gradient',
  family: 'fill',
  label: 'Linear gradient',
  help: 'From one colour to another along a line, laid over what is there.',
  domain: 'light',
  alwaysActs: true,
  covering: true,
  parameters: [
    line('along', 'Along', [0.5, 0, 0.5, 1]),
    colour('from', 'From', [0.1, 0.12, 0.2]),
    colour('to', 'To', [1, 0.75, 0.45]),
    number('from-cover', 'From covers', '%', 0, 100, 100),
    number('to-cover', 'To covers', '%', 0, 100, 100),
    choice('ease', 'Ease', { straight: 'straight', smooth: 'smooth' }, 'smooth'),
  ],
  numbers: (v, at) => {
    const [x0, y0, x1, y1] = v.along;
    const [ax, ay] = inLines([x0, y0], at),
      [bx, by] = inLines([x1, y1], at);
    const squared = Math.max(1e-6, (bx - ax) * (bx - ax) + (by - ay) * (by - ay));
    const [nx, ny] = [(bx - ax) / squared, (by - ay) / squared];
    return [
      nx,
      ny,
      -(nx * ax + ny * ay),
      ...linearColour(v.from),
      ...linearColour(v.to),
      v['from-cover'] / 100,
      v['to-cover'] / 100,
    ];
  },
  variant: (v) => v.ease,
  pixel: (c, t, v) => {
    const far = t.x
      .mul(t.n(0))
      .add(t.y.mul(t.n(1)))
      .add(t.n(2));
    const part = v.ease === 'smooth' ? smoothstep(0, 1, far) : far.clamp(0, 1);
    const colour3 = [0, 1, 2].map((i) => mix(t.n(3 + i), t.n(6 + i), part));
    return over(c, colour3, mix(t.n(9), t.n(10), part));
  },
});
