import { cosTurnsd, sinTurnsd, smoothstep } from '../../kernel';
import { colour, number } from '../../parameters';
import { linearColour } from '../colour-values';
import { pixelStep } from '../declare';
import { over } from './over';

/** Stripes of a colour. */
export const stripes = pixelStep({
  id: 'stripes',
  family: 'fill',
  label: 'Stripes',
  help: 'Even stripes of one colour, still or drifting, laid over what is there.',
  domain: 'light',
  alwaysActs: true,
  covering: true,
  jumps: true,
  parameters: [
    colour('colour', 'Colour', [0, 0, 0]),
    number('spacing', 'Spacing', 'lines', 2, 1080, 24, { soft: [4, 200] }),
    number('width', 'Width', '%', 0, 100, 50, { help: 'How much of the spacing a stripe fills.' }),
    number('softness', 'Softness', '%', 0, 100, 20),
    number('turn', 'Turn', '°', -3600, 3600, 0, { soft: [-90, 90] }),
    number('drift', 'Drift', 'lines', -4000, 4000, 0, {
      soft: [-200, 200],
      help: 'How far they move in a second.',
    }),
    number('cover', 'Cover', '%', 0, 100, 100),
  ],
  // Edges are at least a pixel wide; stripes below two pixels fade to their mean.
  numbers: (v, at) => {
    const turn = v.turn / 360,
      spacing = v.spacing;
    const pixel = 1080 / at.height / spacing;
    const half = v.width / 200;
    const soft = Math.max((v.softness / 100) * Math.min(half, 0.5 - half), pixel / 2, 1e-4);
    const seen = Math.max(0, Math.min(1, 1 / pixel - 1));
    const moved = (v.drift * at.seconds) / spacing;
    const cover = v.cover / 100;
    return [
      -sinTurnsd(turn) / spacing,
      cosTurnsd(turn) / spacing,
      moved - Math.floor(moved),
      half - soft,
      half + soft,
      cover * seen,
      cover * (1 - seen) * half * 2,
      ...linearColour(v.colour),
    ];
  },
  pixel: (c, t) => {
    const at = t.x
      .mul(t.n(0))
      .add(t.y.mul(t.n(1)))
      .sub(t.n(2));
    const off = at.sub(at.floor()).sub(0.5).abs();
    const band = smoothstep(t.n(3), t.n(4), off).neg().add(1);
    return over(c, [t.n(7), t.n(8), t.n(9)], band.mul(t.n(5)).add(t.n(6)));
  },
});
