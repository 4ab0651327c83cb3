import { column, float, hash, row, select, smoothstep, toFloat } from '../../kernel';
import { number } from '../../parameters';
import { ACROSS, RATE } from '../../tape';
import { builtStep } from '../declare';
import { eitherOf, rowNoise, seedIn } from './by-row';
import { worked } from './raster';
import { onRaster, slid } from './raster-lines';

/** The disturbance where heads switch, at the bottom of the picture. */
export const headSwitch = builtStep({
  id: 'head-switch',
  family: 'tape',
  label: 'Head switch',
  help: 'Where one head hands over to the next, at the foot: lines lean away, noise on the lowest of them; skew at the top.',
  domain: 'encoded',
  start: { rows: 8, skew: 1.5 },
  parameters: [
    number('rows', 'Rows', 'rows', 0, 80, 0, { soft: [0, 24] }),
    number('shift', 'Shift', 'µs', -30, 30, 4, { soft: [-12, 12] }),
    number('noise', 'Noise', '%', 0, 200, 60, { soft: [0, 100] }),
    number('skew', 'Skew', 'µs', -20, 20, 0, {
      soft: [-6, 6],
      help: 'How far the first rows lean, tension of the tape.',
    }),
  ],
  build: (input, v, at) => {
    const [rows, skew] = [v.rows, v.skew];
    if (rows === 0 && skew === 0) return input;
    return worked(input, (raster, generation) => {
      const seed = seedIn(at, generation);
      const moved = slid(
        raster,
        'head-switch',
        [raster.height, rows, v.shift * RATE, skew * RATE],
        [seed, at.frame],
        (b) => {
          const y = toFloat(row());
          // Grows downwards from the switching point, torn from line to line.
          const below = y
            .sub(b.param(0).sub(b.param(1)))
            .add(1)
            .div(b.param(1).max(1))
            .clamp(0, 1);
          const torn = eitherOf(b.int(0), b.int(1), row()).mul(0.18).add(1);
          const lean = below.mul(below.mul(0.4).add(0.6)).mul(torn).mul(b.param(2));
          const top = smoothstep(36, 0, y);
          return select(float(0).lt(below), lean, 0).add(top.mul(top).mul(b.param(3)));
        },
      );
      if (rows === 0) return moved;
      return onRaster(
        moved,
        'head-noise',
        [raster.height, rows, v.noise / 100],
        [hashed(seed), at.frame],
        ([y, u, w], b) => {
          const at = toFloat(row());
          const below = at
            .sub(b.param(0).sub(b.param(1)))
            .add(1)
            .div(b.param(1).max(1))
            .clamp(0, 1);
          const grain = eitherOf(b.int(0), b.int(1), row(), column());
          const burst = rowNoise(float(3), hash(b.int(0), b.int(1)), at)
            .mul(0.5)
            .add(0.5);
          const along = toFloat(column()).mul(1 / ACROSS);
          // Strongest on the left, where the new head finds its track.
          const loud = smoothstep(0.55, 1, below)
            .mul(b.param(2))
            .mul(burst)
            .mul(float(1).sub(along.mul(0.6)));
          return [
            y!.add(grain.mul(loud).mul(0.7)).add(loud.mul(0.12)),
            u!.mul(float(1).sub(loud.min(1))),
            w!.mul(float(1).sub(loud.min(1))),
          ];
        },
      );
    });
  },
});
const hashed = (seed: number): number => (seed ^ 0x51ed270b) | 0;
