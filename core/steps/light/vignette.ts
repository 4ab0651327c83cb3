import { exp2d, mix, smoothstep } from '../../kernel';
import { number, point } from '../../parameters';
import { inLines, pixelStep } from '../declare';

/** Darkening or lightening towards the edges. */
export const vignette = pixelStep({
  id: 'vignette',
  family: 'light',
  label: 'Vignette',
  help: 'Closes the light towards the corners (or opens it), by stops.',
  domain: 'light',
  start: { stops: -1.2 },
  parameters: [
    number('stops', 'Stops', 'stops', -6, 6, 0, { soft: [-3, 3] }),
    number('size', 'Size', '%', 0, 200, 60),
    number('softness', 'Softness', '%', 1, 200, 80),
    number('rounder', 'Rounder', '%', 0, 100, 40),
    point('centre', 'Centre'),
  ],
  // Distances in shares of half the diagonal; roundness goes from the frame's own shape to a
  // circle.
  numbers: (v, at) => {
    const halfW = (540 * at.width) / at.height,
      halfH = 540,
      round = v.rounder / 100;
    const diagonal = Math.sqrt(halfW * halfW + halfH * halfH),
      own = 1 / Math.sqrt(2);
    const start = (v.size / 100) * 0.9;
    return [
      exp2d(v.stops),
      (own / halfW) * (1 - round) + round / diagonal,
      (own / halfH) * (1 - round) + round / diagonal,
      start,
      start + v.softness / 100,
      ...inLines(v.centre, at),
    ];
  },
  pixel: (c, t) => {
    const x = t.x.sub(t.n(5)).mul(t.n(1)),
      y = t.y.sub(t.n(6)).mul(t.n(2));
    const gain = mix(1, t.n(0), smoothstep(t.n(3), t.n(4), x.mul(x).add(y.mul(y)).sqrt()));
    return c.map((v) => v.mul(gain));
  },
});
