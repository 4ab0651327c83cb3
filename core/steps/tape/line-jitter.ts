import { hash, row } from '../../kernel';
import { number } from '../../parameters';
import { RATE } from '../../tape';
import { builtStep } from '../declare';
import { eitherOf, rowNoise, seedIn } from './by-row';
import { worked } from './raster';
import { slid } from './raster-lines';

/** Lines that start early or late. */
export const lineJitter = builtStep({
  id: 'line-jitter',
  family: 'tape',
  label: 'Line jitter',
  help: 'Lines that start a little early or late: each for itself, and in waves down the picture.',
  domain: 'encoded',
  start: { jitter: 90, wave: 200 },
  parameters: [
    number('jitter', 'Each line', 'ns', 0, 4000, 0, { soft: [0, 400] }),
    number('wave', 'Waves', 'ns', 0, 20000, 0, { soft: [0, 2000] }),
    number('rows', 'Wave length', 'rows', 4, 600, 60, { soft: [10, 200] }),
  ],
  build: (input, v, at) => {
    const [jitter, wave] = [v.jitter / 1000, v.wave / 1000];
    if (jitter === 0 && wave === 0) return input;
    return worked(input, (raster, generation) =>
      slid(
        raster,
        'line-jitter',
        [jitter * RATE, wave * RATE, v.rows],
        [seedIn(at, generation), at.frame],
        (b) => {
          const each = eitherOf(b.int(0), b.int(1), row()).mul(b.param(0));
          const frame = hash(b.int(0), b.int(1));
          return each.add(rowNoise(b.param(2), frame).mul(b.param(1)));
        },
      ),
    );
  },
});
