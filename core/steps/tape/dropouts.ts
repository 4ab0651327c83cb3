import { column, exp2, float, hash, imax, int, isub, mix, type Node, row, select, toFloat, unit, fetch } from '../../kernel';
import { RATE } from '../../tape';
import { around, operation } from '../../plan/graph';
import { type BuiltStep, choice, num, number } from '../declare';
import { eitherOf, seedIn } from './by-row';
import { worked } from './raster';

/** How many rows of a field one dropout may run over, and how many a row can have. */
const RUNS = 3,
  PER_ROW = 2;

export const dropouts: BuiltStep = {
  id: 'dropouts',
  family: 'tape',
  label: 'Dropouts',
  help: 'Where the tape lost its coating: streaks with tails, or the line above in their place.',
  domain: 'encoded',
  jumps: true,
  parameters: [
    number('amount', 'Amount', '', 0, 400, 0, { soft: [0, 40], help: 'A frame, in the mean.' }),
    number('length', 'Length', 'µs', 0.2, 50, 6, { soft: [1, 20] }),
    choice('shows', 'Shows', { streak: 'streaks', above: 'the line above' }, 'streak'),
    number('strength', 'Strength', '%', 0, 100, 90),
  ],
  build: (input, v, at) => {
    const amount = num(v, 'amount');
    if (amount === 0) return input;
    const above = v['shows'] === 'above';
    return worked(input, (raster, generation) => {
      const rate = amount / (raster.height * PER_ROW * 1.75);
      return operation({
        shape: `dropouts-${above ? 'above' : 'streak'}`,
        inputs: [around(raster)],
        planes: 3,
        domain: 'none',
        params: [rate, num(v, 'length') * RATE, num(v, 'strength') / 100],
        ints: [seedIn(at, generation), at.frame],
        build: (b) => {
          const x = toFloat(column());
          let cover: Node = float(0),
            bright: Node = float(0);
          for (let run = 0; run < RUNS; run++)
            for (let k = 0; k < PER_ROW; k++) {
              // It began on a row of the same field, so many of its rows above.
              const begun = isub(row(), run * 2);
              const h = hash(b.int(0), b.int(1), begun, k);
              const [u1, u2, u3] = [unit(h), unit(hash(h, 1)), unit(hash(h, 2))];
              const rows = unit(hash(h, 3)).mul(RUNS).add(0.5).floor().max(1);
              const there = u1.lt(b.param(0)).and(float(run).lt(rows));
              const length = u3.mul(u3).mul(2.2).add(0.25).mul(b.param(1));
              const start = u2.mul(760).sub(20).add(eitherOf(h, row()).mul(3));
              const into = x.sub(start);
              // It strikes at once and dies away.
              const tail = exp2(into.max(0).mul(-2.2).div(length));
              const on = select(there.and(into.lt(0).not()), select(tail.lt(0.06), 0, tail), 0);
              cover = cover.max(on);
              bright = bright.max(on.mul(unit(hash(h, 4)).mul(0.7).add(0.4)));
            }
          const share = cover.mul(2.2).min(1).mul(b.param(2));
          const own = [0, 1, 2].map((p) => fetch(b.image(0), p, column(), row()));
          if (above) {
            const higher = imax(isub(row(), 2), int(0));
            return own.map((c, p) => mix(c, fetch(b.image(0), p, column(), higher), share));
          }
          const speckle = eitherOf(b.int(0), b.int(1), row(), column()).mul(0.25).add(1);
          return [mix(own[0]!, bright.mul(speckle), share), own[1]!.mul(float(1).sub(share)), own[2]!.mul(float(1).sub(share))];
        },
      });
    });
  },
};
