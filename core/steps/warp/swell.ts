import { cosTurnsd, sinTurnsd } from '../../kernel';
import { number } from '../../parameters';
import { builtStep, inLines } from '../declare';
import { EDGE, warped } from './warped';

/** Magnifies (or shrinks) inside an oval by (1 − d²)², smooth at its edge. */
export const swell = builtStep({
  id: 'swell',
  family: 'warp',
  label: 'Swell',
  help: 'Enlarges what lies in an oval, or draws it together, without a seam.',
  domain: 'light',
  start: { amount: 30 },
  parameters: [
    number('amount', 'Amount', '%', -100, 80, 0, {
      soft: [-60, 60],
      help: 'Above 0 enlarges, below draws together.',
    }),
    {
      kind: 'ellipse',
      id: 'where',
      label: 'Where',
      outline: 'ellipse',
      default: [0.5, 0.5, 220, 220, 0],
    },
    EDGE,
  ],
  build: (input, v, at) => {
    if (v.amount === 0) return input;
    const [cx, cy, rx, ry, turn] = v.where;
    return warped(input, v, at, {
      name: 'swell',
      params: [
        v.amount / 100,
        ...inLines([cx, cy], at),
        1 / Math.max(rx, 1),
        1 / Math.max(ry, 1),
        cosTurnsd(turn / 360),
        sinTurnsd(turn / 360),
      ],
      where: (x, y, b) => {
        const u = x.sub(b.param(1)),
          w = y.sub(b.param(2));
        const p = u
            .mul(b.param(5))
            .add(w.mul(b.param(6)))
            .mul(b.param(3)),
          q = w
            .mul(b.param(5))
            .sub(u.mul(b.param(6)))
            .mul(b.param(4));
        const inside = p.mul(p).add(q.mul(q)).neg().add(1).max(0);
        const by = inside.mul(inside).mul(b.param(0)).neg();
        return [x.add(u.mul(by)), y.add(w.mul(by))];
      },
    });
  },
});
