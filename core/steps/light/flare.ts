import { pointwise, imageOp } from '../../graph';
import { blur } from '../../image';
import {
  column,
  exp2d,
  float,
  luma,
  type Node,
  row,
  select,
  smoothstep,
  toFloat,
} from '../../kernel';
import { colour, number, point } from '../../parameters';
import { linearColour } from '../colour-values';
import { builtStep, inLines, pixels } from '../declare';

/**
 * Ghosts of the aperture: position along the line from the source through the middle, size,
 * brightness.
 */
const GHOSTS = [
  [0.45, 0.22, 0.5],
  [0.72, 0.1, 0.8],
  [1.25, 0.34, 0.35],
  [1.6, 0.16, 0.6],
  [2.15, 0.55, 0.25],
] as const;

/**
 * Light of a source that strays inside a lens: a core with falloff, a ring around it, ghosts
 * mirrored through the middle, a streak.
 */
export const flare = builtStep({
  id: 'flare',
  family: 'light',
  label: 'Flare',
  help: 'The stray light of a source in a lens: core, ring, ghosts and streak, placed by a point.',
  domain: 'light',
  start: { amount: 60 },
  parameters: [
    number('stops', 'Brightness', 'stops', -8, 6, 0, { soft: [-4, 3] }),
    number('amount', 'Amount', '%', 0, 100, 0),
    point('source', 'Source', [0.7, 0.3]),
    number('size', 'Size', 'lines', 10, 2160, 300, { soft: [50, 800] }),
    number('core', 'Core', '%', 0, 200, 100),
    number('ring', 'Ring', '%', 0, 200, 30),
    number('ghosts', 'Ghosts', '%', 0, 200, 40),
    number('streak', 'Streak', '%', 0, 200, 40),
    number('grain', 'Carries grain', '%', 0, 100, 60, {
      help: "How far the flare takes on the picture's own noise.",
    }),
    colour('colour', 'Colour', [1, 0.82, 0.6]),
  ],
  build: (input, v, at) => {
    const amount = v.amount / 100;
    if (amount === 0) return input;
    const lines = 1080 / at.height;
    const light = linearColour(v.colour).map((c) => c * amount * exp2d(v.stops));
    const stray = imageOp({
      shape: 'flare',
      inputs: [],
      planes: 1,
      domain: 'none',
      width: input.width,
      height: input.height,
      params: [
        lines,
        (0.5 - at.width / 2) * lines,
        (0.5 - at.height / 2) * lines,
        ...inLines(v.source, at),
        v.size,
        ...(['core', 'ring', 'ghosts', 'streak'] as const).map((k) => v[k] / 100),
      ],
      build: (b) => {
        const x = toFloat(column()).mul(b.param(0)).add(b.param(1)),
          y = toFloat(row()).mul(b.param(0)).add(b.param(2));
        const size = b.param(5);
        const away = (u: Node, w: Node): Node => u.mul(u).add(w.mul(w)).sqrt();
        const [dx, dy] = [x.sub(b.param(3)), y.sub(b.param(4))];
        const r = away(dx, dy).div(size);
        const fall = r.mul(6).mul(r.mul(6)).add(1);
        const core = float(1).div(fall.mul(fall.sqrt()));
        const off = r.sub(0.8).div(0.05);
        const ring = float(0.25)
          .div(off.mul(off).add(1))
          .mul(smoothstep(0.3, 0.8, r));
        const ghosts = GHOSTS.map(([along, wide, bright]) => {
          // From the source through the middle and beyond.
          const k = 1 - along;
          const d = away(x.sub(b.param(3).mul(k)), y.sub(b.param(4).mul(k))).div(size.mul(wide));
          const disc = smoothstep(1, 0.9, d);
          return disc.mul(d.mul(d).mul(0.7).add(0.3)).mul(bright * 0.2);
        }).reduce((s, g) => s.add(g));
        const thin = dy.abs().div(size.mul(0.02)).add(1);
        const wide = dx.div(size.mul(1.2));
        const streak = float(0.6).div(thin.mul(thin).mul(wide.mul(wide).add(1)));
        return [
          core
            .mul(b.param(6))
            .add(ring.mul(b.param(7)))
            .add(ghosts.mul(b.param(8)))
            .add(streak.mul(b.param(9))),
        ];
      },
    });
    const smooth = blur(input, pixels(5, at));
    return imageOp({
      shape: `flare-lit-${input.planes}`,
      inputs: [pointwise(input), pointwise(smooth), pointwise(stray)],
      planes: input.planes,
      domain: 'light',
      params: [...light, v.grain / 100],
      build: (b) => {
        const c = b.pixel(0);
        // Deviation of fine texture from its surroundings, relative to them: noise grows with
        // light, and the flare is light.
        const around = luma(b.pixel(1).slice(0, 3));
        const rough = luma(c.slice(0, 3)).sub(around).div(around.max(0.02)).clamp(-0.5, 0.5);
        const texture = select(around.le(0), 1, rough.mul(b.param(3)).add(1));
        const stray2 = b.pixel(2)[0]!.mul(texture);
        return [...[0, 1, 2].map((i) => c[i]!.add(stray2.mul(b.param(i)))), ...c.slice(3)];
      },
    });
  },
});
