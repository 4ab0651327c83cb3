/**
 * The raster of a line system: what all tape steps that lie directly above one another share. The picture is brought
 * there once (720 samples a line of luma and two colour differences, 480 or 576 rows, ITU-R BT.601-7), worked on there,
 * and brought back once, whatever its own size.
 */
import { column, fetch, iadd, imax, imin, int, isub, type Node, type Pixel, row, sample, select, toFloat, toInt } from '../../kernel';
import { ACROSS, activeSamples, AVERAGING, type LineFilter, SYSTEMS, type SystemId } from '../../tape';
import { around, type Building, each, operation, type Picturing } from '../../plan/graph';

/** One step's work on the raster in one generation: `generation` counts copies from 1. */
export type Work = (raster: Picturing, generation: number) => Picturing;
export interface TapeStage {
  readonly system: SystemId;
  /** The frame before any tape. */
  readonly input: Picturing;
  /** That, on the raster. */
  readonly source: Picturing;
  /** What one generation does, in order. */
  readonly works: readonly Work[];
  /** The raster as it is by now. */
  readonly raster: Picturing;
}

const stages = new WeakMap<Picturing, TapeStage>();
/** The raster that a picture was brought back from, when nothing else was done to it. */
export const tapeOf = (picture: Picturing): TapeStage | undefined => stages.get(picture);

/** Weights of BT.601 for luma; colour differences B − Y and R − Y to −½…½. */
const KR = 0.299,
  KB = 0.114;

const halvedAcross = (from: Picturing): Picturing =>
  operation({
    shape: `raster-half-x-${from.planes}`,
    inputs: [around(from)],
    planes: from.planes,
    domain: from.domain,
    width: Math.ceil(from.width / 2),
    height: from.height,
    build: (b) => Array.from({ length: from.planes }, (_, p) => quarter((d) => b.tap(0, p, d, 0, { sx: 'double' }))),
  });
const halvedDown = (from: Picturing): Picturing =>
  operation({
    shape: `raster-half-y-${from.planes}`,
    inputs: [around(from)],
    planes: from.planes,
    domain: from.domain,
    width: from.width,
    height: Math.ceil(from.height / 2),
    build: (b) => Array.from({ length: from.planes }, (_, p) => quarter((d) => b.tap(0, p, 0, d, { sy: 'double' }))),
  });
const quarter = (at: (d: number) => Node): Node =>
  at(-1)
    .add(at(2))
    .mul(0.125)
    .add(at(0).add(at(1)).mul(0.375));

/** Pixels of a picture between two samples, and where (in pixels) the first sample lies. */
interface Along {
  readonly step: number;
  readonly start: number;
}

/**
 * Samples of a picture along one axis through a triangle as wide as their spacing (never narrower than a pixel): what
 * is finer than they can hold is averaged, edges clamped.
 */
function resampled(
  from: Picturing,
  axis: 'x' | 'y',
  count: number,
  { step, start }: Along,
  last: (c: Pixel) => Pixel = (c) => c,
  name = '',
): Picturing {
  const half = Math.max(1, step);
  const taps = Math.ceil(2 * half) + 1;
  const size = axis === 'x' ? from.width : from.height;
  // Where all taps lie inside, neighbours are read two at a time.
  const roomy = size >= taps;
  return operation({
    shape: `raster-${axis}-${taps}-${from.planes}${roomy ? '' : '-small'}${name}`,
    inputs: [around(from)],
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
          const value = (axis === 'x' ? fetch(b.image(0), p, i, row()) : fetch(b.image(0), p, column(), i)).mul(weight);
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

/** Where samples lie on a frame that is `size` pixels long and takes `used` of `count` samples, in their middle. */
const along = (size: number, count: number, used: number): Along => {
  const step = size / used;
  return { step, start: (0.5 - (count - used) / 2) * step - 0.5 };
};

/** A frame (encoded) on a system's raster: luma and colour differences. What nothing covers is black. */
function onto(system: SystemId, input: Picturing): Picturing {
  const { rows } = SYSTEMS[system];
  let picture = input,
    [sx, sy] = [input.width, input.height];
  while (sx / activeSamples(system) >= 2) {
    picture = halvedAcross(picture);
    sx /= 2;
  }
  while (sy / rows >= 2) {
    picture = halvedDown(picture);
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

/** Where a frame's pixels lie on the raster, for the way back: sample = pixel · step + start. */
export const backAlong = (size: number, count: number, used: number): Along => ({
  step: used / size,
  start: (0.5 * used) / size + (count - used) / 2 - 0.5,
});

/** Colours with the coverage that the frame had. */
export const coveredAs = (input: Picturing, b: Building, colours: Pixel): Pixel => {
  if (input.planes !== 4) return colours;
  const a = b.pixel(1)[3]!;
  return [...colours.map((c) => select(a.le(0), 0, c.mul(a))), a];
};

/** The frame again, from its raster. */
function back({ system, input, raster }: Pick<TapeStage, 'system' | 'input' | 'raster'>): Picturing {
  const x = backAlong(input.width, ACROSS, activeSamples(system)),
    y = backAlong(input.height, raster.height, raster.height);
  return operation({
    shape: `raster-back-${input.planes}`,
    inputs: [around(raster), ...(input.planes === 4 ? [each(input)] : [])],
    planes: input.planes,
    domain: 'encoded',
    width: input.width,
    height: input.height,
    params: [x.step, x.start, y.step, y.start],
    ints: [raster.width, raster.height],
    build: (b) => {
      const sx = toFloat(column()).mul(b.param(0)).add(b.param(1)),
        sy = toFloat(row()).mul(b.param(2)).add(b.param(3));
      return coveredAs(input, b, toColours([0, 1, 2].map((p) => sample(b.image(0), p, sx, sy, b.int(0), b.int(1)))));
    },
  });
}

/** A picture brought back from its raster, which tape steps directly above go on from. */
export function shown(stage: TapeStage, as: (stage: TapeStage) => Picturing = back): Picturing {
  const picture = as(stage);
  stages.set(picture, stage);
  return picture;
}

/** `input` with one more piece of work on its raster. A frame that is on none yet is brought onto `system` (625 lines unless said). */
export function worked(input: Picturing, work: Work, system?: SystemId): Picturing {
  const on = begun(input, system);
  return shown({ ...on, works: [...on.works, work], raster: work(on.raster, 1) });
}
export function begun(input: Picturing, system?: SystemId): TapeStage {
  const known = tapeOf(input);
  if (known && (system === undefined || system === known.system)) return known;
  const source = onto(system ?? '625', input);
  return { system: system ?? '625', input, source, works: [], raster: source };
}

/** An operation on the raster that looks at pixels alone. */
export const onRaster = (
  raster: Picturing,
  shape: string,
  params: readonly number[],
  ints: readonly number[],
  build: (c: Pixel, b: Building) => Pixel,
): Picturing => operation({ shape, inputs: [each(raster)], planes: 3, domain: 'none', params, ints, build: (b) => build(b.pixel(0), b) });

/** A sample's place along the line in µs from the middle, and its row. */
export const lineTime = (): Node => toFloat(column()).sub((ACROSS - 1) / 2);

/** Rows moved sideways by so many samples (a node; to the right above 0), each plane alike; what leaves at one end comes in at the other. */
export function slid(raster: Picturing, shape: string, params: readonly number[], ints: readonly number[], by: (b: Building) => Node): Picturing {
  return operation({
    shape,
    inputs: [around(raster)],
    planes: 3,
    domain: 'none',
    params,
    ints,
    build: (b) => {
      const at = toFloat(column()).sub(by(b).clamp(-ACROSS, ACROSS));
      const whole = at.floor(),
        t = at.sub(whole);
      const wrapped = (d: number): Node => {
        const v = whole.add(d),
          over = v.mul(1 / ACROSS).floor();
        return imin(imax(toInt(v.sub(over.mul(ACROSS))), 0), int(ACROSS - 1));
      };
      // Catmull and Rom's cubic through four samples (1974).
      const [t2, t3] = [t.mul(t), t.mul(t).mul(t)];
      const weights = [
        t3.mul(-0.5).add(t2).sub(t.mul(0.5)),
        t3.mul(1.5).sub(t2.mul(2.5)).add(1),
        t3.mul(-1.5).add(t2.mul(2)).add(t.mul(0.5)),
        t3.sub(t2).mul(0.5),
      ];
      const places = [-1, 0, 1, 2].map(wrapped);
      return [0, 1, 2].map((p) => places.map((x, k) => fetch(b.image(0), p, x, row()).mul(weights[k]!)).reduce((s, v) => s.add(v)));
    },
  });
}

/** Leaves a plane as it is. */
export const AS_IT_IS: LineFilter = { weights: [1], stride: 1 };
const isEven = (w: readonly number[]): boolean => w.every((v, i) => Math.abs(v - w[w.length - 1 - i]!) < 1e-12);

/** Planes whose filters have a stride of four, averaged as those take it. */
function averaged(raster: Picturing, filters: readonly LineFilter[]): Picturing {
  const which = filters.map((f) => f.stride === 4);
  if (!which.some(Boolean)) return raster;
  return operation({
    shape: `row-mean-${which.map(Number).join('')}`,
    inputs: [around(raster)],
    planes: 3,
    domain: 'none',
    wide: true,
    build: (b) =>
      which.map((on, p) => {
        const at = (d: number) => b.tap(0, p, d, 0);
        if (!on) return at(0);
        return [1, 2, 3].reduce(
          (s, d) =>
            s.add(
              at(-d)
                .add(at(d))
                .mul(AVERAGING[3 + d]!),
            ),
          at(0).mul(AVERAGING[3]!),
        );
      }),
  });
}

/** Each plane along the line by a filter of its own, edges clamped. */
export function filtered(raster: Picturing, filters: readonly LineFilter[]): Picturing {
  const reaches = filters.map((f) => (f.weights.length - 1) / 2),
    even = filters.map((f) => isEven(f.weights));
  return operation({
    shape: `row-filter-${filters.map((f, p) => `${reaches[p]}x${f.stride}${even[p] ? 'e' : ''}`).join('-')}`,
    inputs: [around(averaged(raster, filters))],
    planes: 3,
    domain: 'none',
    params: filters.flatMap((f) => [...f.weights]),
    wide: true,
    build: (b) => {
      let first = 0;
      return filters.map(({ weights, stride }, p) => {
        const reach = reaches[p]!,
          from = first;
        first += weights.length;
        const at = (k: number) => b.tap(0, p, -k * stride, 0);
        const w = (k: number) => b.param(from + reach + k);
        let sum = at(0).mul(w(0));
        for (let k = 1; k <= reach; k++) sum = even[p] ? sum.add(at(-k).add(at(k)).mul(w(k))) : sum.add(at(-k).mul(w(-k))).add(at(k).mul(w(k)));
        return sum;
      });
    },
  });
}

/** Rows of a plane weighed at given distances above (below 0: below), the others as they are. */
export function downRows(
  raster: Picturing,
  shape: string,
  planes: readonly (readonly (readonly [above: number, weight: number])[] | null)[],
): Picturing {
  return operation({
    shape: `rows-${shape}`,
    inputs: [around(raster)],
    planes: 3,
    domain: 'none',
    build: (b) => planes.map((of, p) => (of ? of.map(([above, w]) => b.tap(0, p, 0, -above).mul(w)).reduce((s, v) => s.add(v)) : b.tap(0, p, 0, 0))),
  });
}
