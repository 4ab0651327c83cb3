import { stencil, pointwise, imageOp, type ImageNode } from '../../graph';
import {
  column,
  exp2,
  fetch,
  float,
  imax,
  imin,
  isub,
  mix,
  type Node,
  type Pixel,
  pow,
  row,
  select,
  toFloat,
  toInt,
} from '../../kernel';
import { choice, number, type ValuesOf } from '../../parameters';
import { ACROSS, activeSamples } from '../../tape';
import { builtStep } from '../declare';
import { begun, shown, type TapeStage } from './raster';
import { backAlong, coveredAs, toColours, twiceAcross } from './raster-ways';

/** Widening of the beam at bright spots, relative to its width. */
const SWELLS = 0.9;

const PARAMETERS = [
  number('depth', 'Depth', '%', 0, 100, 60, { help: 'How dark it is between the lines.' }),
  choice('lines', 'Lines', { frame: 'of the frame', field: 'of one field' }, 'field'),
  number('beam', 'Beam', '%', 20, 200, 70, { help: 'Its width, of the lines’ distance.' }),
  number('swell', 'Swells', '%', 0, 200, 60, { help: 'With brightness.' }),
  number('mask', 'Mask', '%', 0, 100, 30),
  number('pitch', 'Pitch', 'lines', 2, 30, 4.5, {
    soft: [3, 12],
    help: 'From one triad of the mask to the next.',
  }),
  number('bend', 'Bent glass', '%', 0, 40, 0, { soft: [0, 12] }),
] as const;

/**
 * A picture tube's view of a raster: each row with a beam's profile, seen through a mask on bent
 * glass.
 */
function tube(
  { system, input, raster: coarse }: TapeStage,
  v: ValuesOf<typeof PARAMETERS>,
): ImageNode {
  const raster = twiceAcross(coarse);
  const lines = v.lines === 'field' ? 2 : 1;
  const count = raster.height / lines;
  const across = backAlong(input.width, ACROSS, activeSamples(system)),
    x = { step: 2 * across.step, start: 2 * (across.start + 0.25) },
    y = backAlong(input.height, count, count);
  // The beam as a pixel sees it: rows finer than pixels merge.
  const pixel = 0.5 * (count / input.height);
  const own = (v.beam / 100) * 0.5;
  const bend = v.bend / 100;
  const mask = v.mask / 100;
  // A triad of the mask in pixels; below two pixels it cannot be shown and fades.
  const pitch = (v.pitch * input.height) / 1080;
  return imageOp({
    shape: `tube-${lines}-${input.planes}`,
    inputs: [stencil(raster), ...(input.planes === 4 ? [pointwise(input)] : [])],
    planes: input.planes,
    domain: 'encoded',
    width: input.width,
    height: input.height,
    params: [
      x.step,
      x.start,
      y.step,
      y.start,
      own,
      pixel * pixel,
      v.depth / 100,
      bend,
      input.width / 2 - 0.5,
      input.height / 2 - 0.5,
      1 / (input.width / 2),
      mask * Math.max(0, Math.min(1, pitch - 2)),
      1 / Math.max(pitch, 1),
      v.swell / 100,
    ],
    ints: [raster.width, count],
    build: (b) => {
      const [px, py] = [toFloat(column()).sub(b.param(8)), toFloat(row()).sub(b.param(9))];
      // Bent glass: towards the corners the picture is read further in.
      const [nx, ny] = [px.mul(b.param(10)), py.mul(b.param(10))];
      const bent = nx.mul(nx).add(ny.mul(ny)).mul(b.param(7)).add(1);
      const [gx, gy] = [px.mul(bent).add(b.param(8)), py.mul(bent).add(b.param(9))];
      const sx = gx.mul(b.param(0)).add(b.param(1)),
        sy = gy.mul(b.param(2)).add(b.param(3));
      const x0 = sx.floor(),
        u = sx.sub(x0),
        nearest = sy.add(0.5).floor();
      const held = (p: Node, size: number): Node => imin(imax(toInt(p), 0), isub(b.int(size), 1));
      const [left, right] = [held(x0, 0), held(x0.add(1), 0)];
      const sums: Node[] = [];
      let weights: Node = float(0);
      for (const d of [-1, 0, 1]) {
        const line = nearest.add(d),
          at = held(line, 1);
        const y0 = lines === 2 ? toInt(toFloat(at).mul(2)) : at;
        const c: Pixel = [0, 1, 2].map((p) =>
          mix(fetch(b.image(0), p, left, y0), fetch(b.image(0), p, right, y0), u),
        );
        const far = sy.sub(line);
        const wide = b.param(4).mul(c[0]!.clamp(0, 1).mul(b.param(13)).mul(SWELLS).add(1));
        const variance = wide.mul(wide).add(b.param(5));
        const weight = exp2(far.mul(far).div(variance).mul(-0.72134752)).div(variance.sqrt());
        weights = weights.add(weight);
        c.forEach(
          (value, p) => (sums[p] = sums[p] ? sums[p]!.add(value.mul(weight)) : value.mul(weight)),
        );
      }
      const mean = sums.map((s) => s.div(weights));
      // Between the beams it is darker: the beams' sum over their mean.
      const beams = weights.mul(0.39894228);
      const [r, g, bl] = toColours(mean);
      const shade = mix(1, pow(beams.max(0), 1 / 2.2), b.param(6));
      const third = toFloat(column()).mul(b.param(12));
      const turn = third.sub(third.floor()).mul(3);
      const lit = (k: number): Node => {
        const d = turn.sub(k + 0.5).abs();
        return mix(1, select(d.min(float(3).sub(d)).lt(0.5), 1.22, 0.84), b.param(11));
      };
      const outside = (s: Node, size: Node): Node => s.add(0.5).lt(0).or(size.sub(0.5).lt(s));
      const black = outside(sy, toFloat(b.int(1)));
      return coveredAs(
        input,
        b,
        [r!, g!, bl!].map((c, k) => select(black, 0, c.mul(shade).mul(lit(k)))),
      );
    },
  });
}

/** A picture tube. */
export const scanlines = builtStep({
  id: 'scanlines',
  family: 'tape',
  label: 'Scanlines',
  help: 'The raster on a tube: a beam for every line that swells where it is bright, a mask, bent glass.',
  domain: 'encoded',
  alwaysActs: true,
  jumps: true,
  parameters: PARAMETERS,
  build: (input, v) => shown(begun(input), (stage) => tube(stage, v)),
});
