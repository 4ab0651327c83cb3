import { pointwise, imageOp } from '../../graph';
import { column, type Node, row, toFloat } from '../../kernel';
import { number } from '../../parameters';
import { builtStep } from '../declare';
import { noiseSlope } from '../noise';
import { EDGE, warped } from './warped';

/**
 * Displacement by the curl of evolving noise: its slope turned by 90°, which stirs without
 * compressing anywhere (Bridson, Houriham and Nordenstam, 2007).
 */
export const churn = builtStep({
  id: 'churn',
  family: 'warp',
  label: 'Churn',
  help: 'Stirs the picture like water that moves: never gathered, never torn.',
  domain: 'light',
  start: { amount: 28 },
  parameters: [
    number('amount', 'Amount', 'lines', 0, 400, 0, { soft: [0, 80] }),
    number('size', 'Size', 'lines', 20, 1080, 160, { soft: [20, 400] }),
    number('detail', 'Detail', '%', 0, 100, 40, {
      help: 'How much of it is in eddies half the size.',
    }),
    number('changes', 'Changes', '', 0, 20, 0.5, {
      soft: [0, 4],
      help: 'How many times a second it has become another.',
    }),
    EDGE,
  ],
  build: (input, v, at) => {
    if (v.amount === 0) return input;
    const lines = 1080 / at.height;
    const field = imageOp({
      shape: 'churn-field',
      inputs: [],
      planes: 2,
      domain: 'none',
      width: input.width,
      height: input.height,
      params: [lines / v.size, v.detail / 100, (v.changes * at.seconds) % 4096, v.amount * 0.4],
      ints: [at.seed],
      build: (b) => {
        const x = toFloat(column()).mul(b.param(0)),
          y = toFloat(row()).mul(b.param(0));
        const at2 = (k: number) =>
          noiseSlope(
            x.mul(k),
            y.mul(k),
            b
              .param(2)
              .mul(k)
              .add(k * 7),
            b.int(0),
          );
        const [large, small] = [at2(1), at2(2)];
        const slope = (i: 0 | 1): Node => large[i].add(small[i].mul(b.param(1))).mul(b.param(3));
        return [slope(1), slope(0).neg()];
      },
    });
    return warped(input, v, at, {
      name: 'churn',
      params: [],
      inputs: [pointwise(field)],
      where: (x, y, b) => [x.add(b.pixel(1)[0]!), y.add(b.pixel(1)[1]!)],
    });
  },
});
