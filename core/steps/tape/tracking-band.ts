import {
  column,
  float,
  hash,
  type Node,
  row,
  select,
  smoothstep,
  toFloat,
  toInt,
} from '../../kernel';
import { flag, number } from '../../parameters';
import { ACROSS, RATE } from '../../tape';
import { sway } from '../../graph';
import { builtStep } from '../declare';
import { eitherOf, rowNoise, seedIn } from './by-row';
import { worked } from './raster';
import { onRaster, slid } from './raster-lines';

const modulo = (v: number, n: number): number => ((v % n) + n) % n;

/**
 * How far inside a band a row is, 0…1. Bands are `height` rows high and `period` rows apart, the
 * first at `at`.
 */
function inBand(y: Node, at: Node, period: Node, height: Node): Node {
  const d = y.sub(at).div(period),
    near = d.sub(d.add(0.5).floor()).mul(period);
  return smoothstep(1, 0.55, near.abs().div(height.mul(0.5)));
}

/** Bands of bad tracking. */
export const trackingBand = builtStep({
  id: 'tracking-band',
  family: 'tape',
  label: 'Tracking band',
  help: 'Bands where the head misses its track: noise, torn lines, a sideways shift. One that wanders, or those of winding and of a pause.',
  domain: 'encoded',
  jumps: true,
  start: { strength: 70 },
  parameters: [
    number('strength', 'Strength', '%', 0, 200, 0, { soft: [0, 100] }),
    number('bands', 'Bands', '', 1, 12, 1, {
      soft: [1, 8],
      help: 'One for tracking that is off; more for winding.',
    }),
    number('height', 'Height', 'rows', 2, 400, 46, { soft: [8, 120] }),
    number('position', 'Position', '%', 0, 100, 70, { help: 'Down the picture.' }),
    number('wander', 'Wanders', '%', 0, 100, 12, { help: 'Of the picture’s height, either way.' }),
    number('run', 'Runs', 'rows', -40000, 40000, 0, {
      soft: [-1500, 1500],
      help: 'A second; below 0 upwards, as in winding back.',
    }),
    number('shift', 'Shift', 'µs', -30, 30, 3, { soft: [-10, 10] }),
    number('tear', 'Torn lines', 'µs', 0, 30, 1.6, { soft: [0, 8] }),
    number('colour', 'Colour lost', '%', 0, 100, 80),
    flag('blanking', 'Blanking shows', false, {
      help: 'Black where lines moved away, instead of the line’s other end.',
    }),
  ],
  build: (input, v, at) => {
    const strength = v.strength / 100;
    if (strength === 0) return input;
    return worked(input, (raster, generation) => {
      const seed = seedIn(at, generation);
      const rows = raster.height,
        bands = Math.round(v.bands),
        t = at.seconds;
      const period = rows / bands < rows ? rows / bands : rows * 4;
      const home =
        (v.position / 100) * rows + (sway(seed, t * 0.45) * v.wander * rows) / 100 + v.run * t;
      // A moving band wraps around.
      const middle =
        v.run !== 0 && bands === 1
          ? modulo(home + v.height, rows + 2 * v.height) - v.height
          : modulo(home, period * 64);
      const band = [middle, period, v.height, strength] as const;
      const shape = v.blanking ? 'tracking-blank' : 'tracking';
      const by = (y: Node, b: { param: (i: number) => Node; int: (i: number) => Node }): Node => {
        const inside = inBand(y, b.param(0), b.param(1), b.param(2));
        const torn = eitherOf(b.int(0), b.int(1), row()).mul(b.param(5)).mul(inside);
        return inside
          .mul(b.param(4))
          .mul(
            rowNoise(float(11), hash(b.int(0), b.int(1), 5), y)
              .mul(0.35)
              .add(1),
          )
          .add(torn)
          .mul(b.param(3));
      };
      const numbers = [...band, v.shift * RATE, v.tear * RATE, v.colour / 100],
        ints = [seed, at.frame];
      const moved = slid(raster, shape, numbers, ints, (b) => by(toFloat(row()), b));
      return onRaster(moved, `${shape}-noise`, numbers, ints, ([y, u, w], b) => {
        const at = toFloat(row());
        const inside = inBand(at, b.param(0), b.param(1), b.param(2)).mul(b.param(3));
        // Bursts along the lines, long and different in each line, with white sparks on them.
        const long = eitherOf(b.int(0), b.int(1), row(), lineCell(26)).mul(0.5).add(0.5);
        const fine = eitherOf(b.int(0), b.int(1), row(), column());
        const loud = rowNoise(float(2.6), hash(b.int(0), b.int(1), 9), at)
          .mul(0.5)
          .add(0.5);
        const share = inside.min(1).mul(long.mul(loud).mul(1.5).min(1));
        const spark = select(
          float(0.82).lt(fine.abs().mul(inside.min(1)).mul(loud.mul(0.4).add(0.7))),
          0.9,
          0,
        );
        const noise = fine.mul(0.28).add(0.42);
        const lost = float(1).sub(inside.min(1).mul(b.param(6)));
        const luma = y!.add(noise.sub(y!).mul(share.mul(0.75))).max(spark);
        if (!v.blanking) return [luma, u!.mul(lost), w!.mul(lost)];
        const from = toFloat(column()).sub(by(at, b));
        const gone = from.lt(0).or(float(ACROSS - 1).lt(from));
        return [
          select(gone, 0, luma),
          select(gone, 0, u!.mul(lost)),
          select(gone, 0, w!.mul(lost)),
        ];
      });
    });
  },
});
const lineCell = (samples: number) =>
  toInt(
    toFloat(column())
      .mul(1 / samples)
      .floor(),
  );
