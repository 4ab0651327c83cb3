/**
 * Conversion to the raster and back: a frame resampled to 720 samples of luma and colour
 * differences on 480 or 576 rows (ITU-R BT.601-7), and the reverse.
 */
import { stencil, type Building, pointwise, imageOp, type ImageNode } from '../../graph';
import { halveAcross, halveDown } from '../../image';
import {
  column,
  type CurveTable,
  fetch,
  iadd,
  iand,
  imax,
  imin,
  isub,
  type Node,
  type Pixel,
  row,
  select,
  sinTurnsd,
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
 * A kernel that samples are weighed by: a sinc of a cutoff (in Nyquist frequencies) under a
 * parabola, zero beyond `reach` sample distances.
 */
interface Kernel {
  readonly name: string;
  readonly reach: number;
  readonly cutoff: number;
  readonly table: CurveTable;
}
function kernel(name: string, reach: number, cutoff: number): Kernel {
  const sinc = (x: number): number =>
    Math.abs(x) < 1e-6 ? 1 : sinTurnsd(x / 2) / (x * 3.141592653589793);
  const fn = (x: number): number => {
    const t = x / reach;
    return t <= -1 || t >= 1 ? 0 : sinc(cutoff * x) * (1 - t * t);
  };
  // Zero beyond its ends too: the table continues by the slope of its last entries.
  const layout = { kind: 'uniform', lo: -reach - 0.25, hi: reach + 0.25, n: 8193 } as const;
  return { name, reach, cutoff, table: { key: `raster-kernel-${name}`, layout, fn } };
}
/**
 * Along a line: flat within 0.1 dB up to 4.2 MHz of the raster's 6.75, so that what a tape loses is
 * the tape's loss at any size of the frame.
 */
const ALONG = kernel('along', 3, 1);
/**
 * Down the rows: what lies beyond their Nyquist frequency is gone (55 dB at 1.4 of it), so that noise
 * is as strong on rows that lie between the raster's as on others: within 1 %.
 */
const DOWN = kernel('down', 2, 0.85);
/**
 * What is left of the effective value of noise that differs from row to row: the root of the
 * kernel's energy.
 */
export const ROW_NOISE_LEFT = ((): number => {
  const parts = 256;
  let energy = 0;
  for (let phase = 0; phase < parts; phase++) {
    const at = (phase + 0.5) / parts;
    const w = [-2, -1, 0, 1, 2, 3].map((i) => DOWN.table.fn(i - at));
    const sum = w.reduce((a, b) => a + b, 0);
    energy += w.reduce((a, b) => a + (b / sum) * (b / sum), 0) / parts;
  }
  return Math.sqrt(energy);
})();

/**
 * A picture resampled along one axis by a kernel, which is widened where samples lie further apart
 * than pixels; edges clamped. `last`: what becomes of the colours; `more`: a picture of the result's
 * size that it reads.
 */
function resampled(
  from: ImageNode,
  axis: 'x' | 'y',
  count: number,
  { step, start }: Along,
  by: Kernel,
  {
    last = (c) => c,
    name = '',
    more,
    planes = 3,
    domain = 'none',
  }: {
    readonly last?: (c: Pixel, b: Building) => Pixel;
    readonly name?: string;
    readonly more?: ImageNode | undefined;
    readonly planes?: number;
    readonly domain?: ImageNode['domain'];
  } = {},
): ImageNode {
  const scale = Math.max(1, step),
    half = by.reach * scale;
  const taps = Math.ceil(2 * half) + 1;
  const size = axis === 'x' ? from.width : from.height;
  // If all taps lie inside, neighbours are read two at a time.
  const roomy = size >= taps;
  return imageOp({
    shape: `raster-${axis}-${by.name}-${taps}-${from.planes}${roomy ? '' : '-small'}${name}`,
    inputs: [stencil(from), ...(more ? [pointwise(more)] : [])],
    planes,
    domain,
    width: axis === 'x' ? count : from.width,
    height: axis === 'x' ? from.height : count,
    params: [step, start, 1 / scale, half],
    ints: [size, size - taps],
    tables: [by.table],
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
        const away = toFloat(place).sub(at).mul(b.param(2));
        const weight = b.lookup(0, away.clamp(-by.reach, by.reach));
        const i = roomy ? place : imin(imax(place, 0), isub(b.int(0), 1));
        all = all ? all.add(weight) : weight;
        for (let p = 0; p < 3; p++) {
          const value = (
            axis === 'x' ? fetch(b.image(0), p, i, row()) : fetch(b.image(0), p, column(), i)
          ).mul(weight);
          sums[p] = k === 0 ? value : sums[p]!.add(value);
        }
      }
      return last(
        sums.map((s) => s.div(all!)),
        b,
      );
    },
  });
}

/** A raster of twice as many samples a line, between which reading is as good as flat. */
export const twiceAcross = (raster: ImageNode): ImageNode =>
  resampled(raster, 'x', 2 * raster.width, { step: 0.5, start: -0.25 }, ALONG);

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

/** Frames this much finer than the raster are halved first. */
const FINE = 6;

/** A frame (encoded) on a system's raster: luma and colour differences, over black. */
export function onto(system: SystemId, input: ImageNode): ImageNode {
  const { rows } = SYSTEMS[system];
  let picture = input,
    [sx, sy] = [input.width, input.height];
  while (sx / activeSamples(system) >= FINE) {
    picture = halveAcross(picture);
    sx /= 2;
  }
  while (sy / rows >= FINE) {
    picture = halveDown(picture);
    sy /= 2;
  }
  return resampled(
    resampled(picture, 'x', ACROSS, along(sx, ACROSS, activeSamples(system)), ALONG),
    'y',
    rows,
    along(sy, rows, rows),
    DOWN,
    { last: toDifferences, name: '-ycc' },
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
  const y = backAlong(input.height, raster.height, raster.height),
    x = backAlong(input.width, ACROSS, activeSamples(system));
  return resampled(resampled(raster, 'y', input.height, y, DOWN), 'x', input.width, x, ALONG, {
    last: (c, b) => coveredAs(input, b, toColours(c)),
    name: `-back-${input.planes}`,
    more: input.planes === 4 ? input : undefined,
    planes: input.planes,
    domain: 'encoded',
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
