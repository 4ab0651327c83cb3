import { smoothstep } from '../../kernel';
import { colour, number, point } from '../../parameters';
import { linearColour } from '../colour-values';
import { inLines, pixelStep } from '../declare';

/** A gradient from the middle outwards. */
export const radialGradient = pixelStep({
  id: 'radial-gradient',
  family: 'fill',
  label: 'Radial gradient',
  help: 'A colour about a point, fading outwards, laid over what is there.',
  domain: 'light',
  alwaysActs: true,
  covering: true,
  parameters: [
    point('centre', 'Centre'),
    number('radius', 'Radius', 'lines', 1, 2160, 300, { soft: [1, 1080] }),
    number('core', 'Core', '%', 0, 99, 0),
    colour('colour', 'Colour', [1, 1, 1]),
    number('cover', 'Cover', '%', 0, 100, 100),
  ],
  // Full coverage inside the core; from there to the radius it falls smoothly to 0.
  numbers: (v, at) => {
    const radius = v.radius;
    return [
      ...inLines(v.centre, at),
      (radius * v.core) / 100,
      radius,
      ...linearColour(v.colour),
      v.cover / 100,
    ];
  },
  pixel: (c, t) => {
    const x = t.x.sub(t.n(0)),
      y = t.y.sub(t.n(1));
    const cover = smoothstep(t.n(2), t.n(3), x.mul(x).add(y.mul(y)).sqrt())
      .neg()
      .add(1)
      .mul(t.n(7));
    const rest = cover.neg().add(1);
    const colours = [0, 1, 2].map((i) => c[i]!.mul(rest).add(t.n(4 + i).mul(cover)));
    return c[3] ? [...colours, c[3].mul(rest).add(cover)] : colours;
  },
});
