import { stencil, pointwise, Hasher, type Leaf, imageOp, type ImageNode } from '../../graph';
import { column, exp2d, fetch, float, imax, int, isub, mix, row } from '../../kernel';
import { choice, number } from '../../parameters';
import { ACROSS, RATE } from '../../tape';
import { chance, either, named } from '../../graph';
import { builtStep } from '../declare';
import { eitherOf, seedIn } from './by-row';
import { worked } from './raster';

/**
 * Most rows of a field per dropout, most dropouts that begin in a row, and the mean number of rows
 * of one.
 */
const RUNS = 3,
  PER_ROW = 2,
  MEAN_ROWS = 1.83;

/**
 * Dropouts of one frame: coverage and brightness of each sample. Drawn when first read; few samples
 * are not 0.
 */
function streaks(
  raster: ImageNode,
  amount: number,
  length: number,
  seed: number,
  frame: number,
): Leaf {
  const { height } = raster;
  const key = new Hasher()
    .text('dropouts')
    .int(height)
    .int(seed)
    .int(frame)
    .float(amount)
    .float(length)
    .hex();
  let drawn: readonly [Float32Array, Float32Array] | undefined;
  const draw = (): readonly [Float32Array, Float32Array] => {
    const cover = new Float32Array(ACROSS * height),
      bright = new Float32Array(ACROSS * height);
    const rate = amount / (height * PER_ROW * MEAN_ROWS);
    for (let begun = 1 - RUNS * 2; begun < height; begun++)
      for (let k = 0; k < PER_ROW; k++) {
        const h = named(seed, frame, begun, k);
        if (chance(h, 0) >= rate) continue;
        const rows = Math.max(1, Math.floor(chance(h, 1) * RUNS + 0.5)),
          u = chance(h, 2);
        const long = (u * u * 2.2 + 0.25) * length,
          white = 0.4 + 0.7 * chance(h, 4);
        for (let run = 0; run < rows; run++) {
          // It continues down the rows of its own field.
          const y = begun + run * 2;
          if (y < 0 || y >= height) continue;
          const start = chance(h, 3) * (ACROSS + 40) - 20 + either(h, 5, run) * 3;
          for (let x = Math.max(0, Math.ceil(start)); x < ACROSS; x++) {
            // Sudden start, gradual end.
            const tail = exp2d((-2.2 * (x - start)) / long);
            if (tail < 0.06) break;
            const i = y * ACROSS + x;
            cover[i] = Math.max(cover[i]!, tail);
            bright[i] = Math.max(bright[i]!, tail * white);
          }
        }
      }
    return [cover, bright];
  };
  return {
    kind: 'leaf',
    key,
    width: ACROSS,
    height,
    planes: 2,
    domain: 'none',
    load: (plane, into) => {
      drawn ??= draw();
      for (let y = 0; y < height; y++)
        into(y).set(drawn[plane as 0 | 1].subarray(y * ACROSS, (y + 1) * ACROSS));
    },
  };
}

/** Missing signal. */
export const dropouts = builtStep({
  id: 'dropouts',
  family: 'tape',
  label: 'Dropouts',
  help: 'Where the tape lost its coating: streaks with tails, or the line above in their place.',
  domain: 'encoded',
  start: { amount: 12 },
  parameters: [
    number('amount', 'Amount', '', 0, 400, 0, {
      soft: [0, 40],
      help: 'Lines that are hit in a frame, in the mean.',
    }),
    number('length', 'Length', 'µs', 0.2, 50, 6, { soft: [1, 20] }),
    choice('shows', 'Shows', { streak: 'streaks', above: 'the line above' }, 'streak'),
    number('strength', 'Strength', '%', 0, 100, 90),
  ],
  build: (input, v, at) => {
    const amount = v.amount;
    if (amount === 0) return input;
    const above = v.shows === 'above';
    return worked(input, (raster, generation) => {
      const seed = seedIn(at, generation);
      return imageOp({
        shape: `dropouts-${above ? 'above' : 'streak'}`,
        inputs: [
          above ? stencil(raster) : pointwise(raster),
          pointwise(streaks(raster, amount, v.length * RATE, seed, at.frame)),
        ],
        planes: 3,
        domain: 'none',
        params: [v.strength / 100],
        ints: [named(seed, at.frame)],
        build: (b) => {
          const [cover, bright] = b.pixel(1);
          const share = cover!.mul(2.2).min(1).mul(b.param(0));
          if (above) {
            const higher = imax(isub(row(), 2), int(0));
            return [0, 1, 2].map((p) =>
              mix(b.tap(0, p, 0, 0), fetch(b.image(0), p, column(), higher), share),
            );
          }
          const [y, u, w] = b.pixel(0);
          const speckle = eitherOf(b.int(0), row(), column()).mul(0.25).add(1);
          const left = float(1).sub(share);
          return [mix(y!, bright!.mul(speckle), share), u!.mul(left), w!.mul(left)];
        },
      });
    });
  },
});
