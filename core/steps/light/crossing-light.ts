import { exp2d, smoothstep } from '../../kernel';
import { colour, line, number } from '../../parameters';
import { linearColour } from '../colour-values';
import { acrossLine, pixelStep } from '../declare';

/**
 * A band of light across a line: the picture's own light amplified and tinted, so blacks stay
 * black.
 */
export const crossingLight = pixelStep({
  id: 'crossing-light',
  family: 'light',
  label: 'Crossing light',
  help: 'A band of light that lies across a line at one place of it; move the place and it crosses the picture.',
  domain: 'light',
  start: { stops: 1.2 },
  parameters: [
    number('stops', 'Stops', 'stops', -4, 6, 0, { soft: [0, 3] }),
    line('way', 'Way', [0.1, 0.5, 0.9, 0.5]),
    number('place', 'Place', '%', -100, 200, 50, { soft: [0, 100] }),
    number('width', 'Width', 'lines', 1, 2160, 160, { soft: [10, 600] }),
    number('softness', 'Softness', '%', 1, 100, 80),
    colour('tint', 'Tint', [1, 1, 1]),
  ],
  idle: (v) => v.stops === 0 && v.tint.every((c) => c === 1),
  numbers: (v, at) => {
    const [nx, ny, along] = acrossLine(v.way, v.place, at);
    const half = v.width / 2;
    const gain = exp2d(v.stops);
    const tint = linearColour(v.tint).map((c) => c * gain - 1);
    return [nx, ny, along, half * (1 - v.softness / 100), half, ...tint];
  },
  pixel: (c, t) => {
    const off = t.x
      .mul(t.n(0))
      .add(t.y.mul(t.n(1)))
      .sub(t.n(2))
      .abs();
    const band = smoothstep(t.n(3), t.n(4), off).neg().add(1);
    return c.map((x, i) => x.add(x.mul(band).mul(t.n(5 + i))));
  },
});
