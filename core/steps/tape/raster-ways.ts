/**
 * Conversion to the raster and back: a frame resampled to 720 samples of luma and colour
 * differences on 480 or 576 rows (ITU-R BT.601-7), and the reverse.
 */
import { stencil, type Building, pointwise, imageOp, type ImageNode } from '../../graph';
import { halveAcross, halveDown } from '../../image';
import {
  column,
  fetch,
  iadd,
  iand,
  imax,
  imin,
  isub,
  type Node,
  type Pixel,
  row,
  sample,
  select,
  toFloat,
  toInt,
} from '../../kernel';
import { ACROSS, activeSamples, type SystemId, SYSTEMS } from '../../tape';

/** BT.601's luma weights; colour differences B − Y and R − Y scaled to −½…½. */
const KR = 0.299,
  KB = 0.114;

/** Pixels of a picture per sample, and the position of the first sample in pixels. */
interface Along {
  readonly step: number;
  readonly start: number;
}

/**
 * A picture resampled along one axis by a triangle as wide as the sample spacing (at least a
 * pixel), which averages finer detail; edges clamped.
 */
function resampled(
  from: ImageNode,
  axis: 'x' | 'y',
  count: number,
  { step, start }: Along,
  last: (c: Pixel) => Pixel = (c) => c,
  name = '',
): ImageNode {
  const half = Math.max(1, step);
  const taps = Math.ceil(2 * half) + 1;
  const size = axis === 'x' ? from.width : from.height;
  // If all taps lie inside, neighbours are read two at a time.
  const roomy = size >= taps;
  return imageOp({
    shape: `raster-${axis}-${taps}-${from.planes}${roomy ? '' : '-small'}${name}`,
    inputs: [stencil(from)],
    planes: 3,
    domain: 'none',
    width: axis === 'x' ? count : from.width,
    height: axis === 'x' ? from.height : count,
    params: [step, start, 1 / half, half],
    ints: [size, size - taps],
    build: (b: Building) => {
      const at = toFloat(axis === 'x' ? column() : row())
        .mul(b.param(0))
        .add(b.param(1))
        .clamp(0, toFloat(isub(b.int(0), 1)));
      const first = toInt(at.sub(b.param(3)).floor().add(1));
      const from = roomy ? imin(imax(first, 0), b.int(1)) : first;
      const sums: Node[] = [];
      let all: Node | undefined;
      let even = from;
      for (let k = 0; k < taps; k++) {
        if (k % 2 === 0) even = k === 0 ? from : iadd(from, k);
        const place = k % 2 === 0 ? even : iadd(even, 1);
        const weight = toFloat(place).sub(at).abs().mul(b.param(2)).neg().add(1).max(0);
        const i = roomy ? place : imin(imax(place, 0), isub(b.int(0), 1));
        all = all ? all.add(weight) : weight;
        for (let p = 0; p < 3; p++) {
          const value = (
            axis === 'x' ? fetch(b.image(0), p, i, row()) : fetch(b.image(0), p, column(), i)
          ).mul(weight);
          sums[p] = k === 0 ? value : sums[p]!.add(value);
        }
      }
      return last(sums.map((s) => s.div(all!)));
    },
  });
}

const toDifferences = ([r, g, b]: Pixel): Pixel => {
  const y = r!
    .mul(KR)
    .add(g!.mul(1 - KR - KB))
    .add(b!.mul(KB));
  return [y, b!.sub(y).mul(0.5 / (1 - KB)), r!.sub(y).mul(0.5 / (1 - KR))];
};
/** Luma and colour differences to red, green and blue. */
export const toColours = ([y, cb, cr]: Pixel): Pixel => {
  const [b, r] = [cb!.mul(2 * (1 - KB)).add(y!), cr!.mul(2 * (1 - KR)).add(y!)];
  return [
    r,
    y!
      .sub(r.mul(KR))
      .sub(b.mul(KB))
      .mul(1 / (1 - KR - KB)),
    b,
  ];
};

/**
 * Position of samples on a frame of `size` pixels that takes the middle `used` of `count` samples.
 */
const along = (size: number, count: number, used: number): Along => {
  const step = size / used;
  return { step, start: (0.5 - (count - used) / 2) * step - 0.5 };
};

/** A frame (encoded) on a system's raster: luma and colour differences, over black. */
export function onto(system: SystemId, input: ImageNode): ImageNode {
  const { rows } = SYSTEMS[system];
  let picture = input,
    [sx, sy] = [input.width, input.height];
  while (sx / activeSamples(system) >= 2) {
    picture = halveAcross(picture);
    sx /= 2;
  }
  while (sy / rows >= 2) {
    picture = halveDown(picture);
    sy /= 2;
  }
  return resampled(
    resampled(picture, 'x', ACROSS, along(sx, ACROSS, activeSamples(system))),
    'y',
    rows,
    along(sy, rows, rows),
    toDifferences,
    '-ycc',
  );
}

/** Position of a frame's pixels on the raster: sample = pixel · step + start. */
export const backAlong = (size: number, count: number, used: number): Along => ({
  step: used / size,
  start: (0.5 * used) / size + (count - used) / 2 - 0.5,
});

/** Colours multiplied by the frame's coverage. */
export const coveredAs = (input: ImageNode, b: Building, colours: Pixel): Pixel => {
  if (input.planes !== 4) return colours;
  const a = b.pixel(1)[3]!;
  return [...colours.map((c) => select(a.le(0), 0, c.mul(a))), a];
};

/** The frame made from its raster. */
export function back({
  system,
  input,
  raster,
}: {
  readonly system: SystemId;
  readonly input: ImageNode;
  readonly raster: ImageNode;
}): ImageNode {
  const x = backAlong(input.width, ACROSS, activeSamples(system)),
    y = backAlong(input.height, raster.height, raster.height);
  return imageOp({
    shape: `raster-back-${input.planes}`,
    inputs: [stencil(raster), ...(input.planes === 4 ? [pointwise(input)] : [])],
    planes: input.planes,
    domain: 'encoded',
    width: input.width,
    height: input.height,
    params: [x.step, x.start, y.step, y.start],
    ints: [raster.width, raster.height],
    build: (b) => {
      const sx = toFloat(column()).mul(b.param(0)).add(b.param(1)),
        sy = toFloat(row()).mul(b.param(2)).add(b.param(3));
      return coveredAs(
        input,
        b,
        toColours([0, 1, 2].map((p) => sample(b.image(0), p, sx, sy, b.int(0), b.int(1)))),
      );
    },
  });
}

/**
 * A frame on a raster with the rows of one field; between them the mean of those above and below.
 */
export const oneField = (raster: ImageNode, isFirst: boolean, system: SystemId): ImageNode =>
  imageOp({
    shape: 'raster-one-field',
    inputs: [stencil(raster)],
    planes: 3,
    domain: 'none',
    ints: [isFirst ? SYSTEMS[system].firstRow : 1 - SYSTEMS[system].firstRow],
    build: (b) => {
      const own = toFloat(isub(iand(row(), 1), b.int(0)))
        .abs()
        .lt(0.5);
      return [0, 1, 2].map((p) =>
        select(
          own,
          b.tap(0, p, 0, 0),
          b
            .tap(0, p, 0, -1)
            .add(b.tap(0, p, 0, 1))
            .mul(0.5),
        ),
      );
    },
  });

/**
 * Two pictures on one raster as the fields of a frame; the field that comes first shows the earlier
 * one.
 */
export const woven = (earlier: ImageNode, later: ImageNode, system: SystemId): ImageNode =>
  imageOp({
    shape: 'raster-woven',
    inputs: [pointwise(earlier), pointwise(later)],
    planes: 3,
    domain: 'none',
    ints: [SYSTEMS[system].firstRow],
    build: (b) => {
      const [a, c] = [b.pixel(0), b.pixel(1)];
      const first = toFloat(isub(iand(row(), 1), b.int(0)))
        .abs()
        .lt(0.5);
      return a.map((x, i) => select(first, x, c[i]!));
    },
  });
