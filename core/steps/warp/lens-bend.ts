import { flag, number } from '../../parameters';
import { builtStep } from '../declare';
import { EDGE, warped } from './warped';

/**
 * Radial distortion r·(1 + k·r²) (Brown, 1966), with r in half diagonals. The channels differ by a
 * share of it and by a fixed part.
 */
export const lensBend = builtStep({
  id: 'lens-bend',
  family: 'warp',
  label: 'Lens bend',
  help: 'Bends straight lines outwards (barrel) or inwards (cushion) as a lens does; channels can bend apart.',
  domain: 'light',
  start: { bend: 14, fringe: 0.8 },
  parameters: [
    number('bend', 'Bend', '%', -100, 100, 0, {
      soft: [-40, 40],
      help: 'Above 0 outwards, below inwards.',
    }),
    number('fringe', 'Fringe', '%', -20, 20, 0, {
      soft: [-4, 4],
      help: 'How much further red bends than green, and blue less.',
    }),
    flag('cover', 'Cover', true, { help: 'Enlarges the picture so that no edge is uncovered.' }),
    EDGE,
  ],
  build: (input, v, at) => {
    const k = (v.bend / 100) * 0.5,
      fringe = (v.fringe / 100) * 0.5;
    if (k === 0 && fringe === 0) return input;
    const shape = at.width / at.height,
      half = 540 * Math.sqrt(1 + shape * shape);
    const channels = [k + fringe, k, k - fringe];
    // The furthest place is a corner; where the picture is pulled inwards, the middles of its
    // sides.
    const [high, wide] = [540 / half, (540 * shape) / half];
    const sides = [1, high * high, wide * wide];
    const most = Math.max(...channels.flatMap((c) => sides.map((r2) => 1 + c * r2)));
    const zoom = v.cover ? 1 / Math.max(1, most) : 1;
    return warped(input, v, at, {
      name: `lens-bend-${fringe === 0 ? 1 : 3}`,
      params: [1 / (half * half), zoom, ...channels],
      where: (x, y, b) => {
        const r2 = x.mul(x).add(y.mul(y)).mul(b.param(0));
        const at3 = (i: number) => {
          const by = r2
            .mul(b.param(2 + i))
            .add(1)
            .mul(b.param(1));
          return [x.mul(by), y.mul(by)] as const;
        };
        return fringe === 0 ? at3(1) : [at3(0), at3(1), at3(2)];
      },
    });
  },
});
