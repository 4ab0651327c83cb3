/**
 * The intermediate state of film that its steps share. *Film response* starts it. Steps directly
 * above it (halation, grain, light leak, density flicker) change exposure or density and have the
 * film developed and printed again. Each thus acts where it acts on real film, and only the last
 * picture is computed.
 */
import {
  type Film,
  type GaugeId,
  type Granularity,
  micronsPerPixel,
  pixelSigma,
  type Rows,
  type Sharpness,
} from '../../film';
import { pointwise, imageOp, type ImageNode } from '../../graph';
import { blur, type Gaussians, shapedBlur, SRGB_ENCODE } from '../../image';
import { float, type Node, type Pixel, select, type TableSpec } from '../../kernel';
import type { FrameContext } from '../declare';
import { type Grain, grainPicture } from './grain-picture';

/** A film before it is developed. */
export interface FilmStage {
  readonly film: Film;
  /** Identifies film and processing in cache keys: equal names mean equal functions. */
  readonly name: string;
  readonly gauge: GaugeId;
  /** Softness relative to the stock's data: 1 is the stock's own, 0 leaves detail unchanged. */
  readonly softness: number;
  /** Layer exposures (0.18 is mid grey at the rated speed), as many planes as the picture has. */
  readonly exposures: ImageNode;
  readonly grain?: Grain;
}

const stages = new WeakMap<ImageNode, FilmStage>();
/** The film that a picture was developed from, if nothing else was done to it. */
export const filmOf = (picture: ImageNode): FilmStage | undefined => stages.get(picture);

/**
 * Standard deviation in µm of the Gaussian with response ½ at `cycles` per millimetre: √(ln 2 /
 * 2π²) / f.
 */
const spread = (cycles: number): number => (0.18739 * 1000) / cycles;

/** A layer's modulation transfer function as Gaussians, for pixels of `p` µm. */
export function gaussiansOf(
  { half, overshoot, reach }: Sharpness,
  p: number,
  softness = 1,
): Gaussians {
  return [
    { share: 1 + overshoot, sigma: (spread(half) * softness) / p },
    { share: -overshoot, sigma: (reach * softness) / p },
  ];
}

/**
 * The latent image, softened by the emulsion: each layer by its MTF, with adjacency effects as its
 * overshoot.
 */
function softened({ film, gauge, softness, exposures }: FilmStage): ImageNode {
  if (softness === 0) return exposures;
  const p = micronsPerPixel(gauge, exposures.width);
  const layers = film.stock.sharpness.map((s) => gaussiansOf(s, p, softness));
  const own = layersOf(film).map((i) => layers[i]!);
  const planes = exposures.planes > own.length ? [...own, layers[1]!] : own;
  const widest = Math.max(...layers.map((l) => l[1]!.sigma));
  if (widest * 2.75 <= 8) return shapedBlur(exposures, planes);
  // Wide overshoots are separate: they are alike in all layers, and a blur of a small picture is
  // cheap.
  const fine = shapedBlur(
    exposures,
    planes.map(([own]) => [{ share: 1, sigma: own!.sigma }]),
  );
  const wide = blur(exposures, layers.reduce((s, l) => s + l[1]!.sigma, 0) / 3);
  const over = planes.map(([own]) => own!.share);
  return imageOp({
    shape: `adjacency-${exposures.planes}`,
    inputs: [pointwise(fine), pointwise(wide)],
    planes: exposures.planes,
    domain: exposures.domain,
    params: over,
    build: (b) =>
      b.pixel(0).map((v, i) => v.mul(b.param(i)).add(b.pixel(1)[i]!.mul(float(1).sub(b.param(i))))),
  });
}

/**
 * Range of the density tables, −½ to 7, indexed by the bits of density + 1: faster to read than
 * equal steps, and as fine where it matters.
 */
const BIAS = 1,
  LEAST = -0.5,
  MOST = 7;
/** A table of a function of density. */
export function densityTable(key: string, fn: (d: number) => number, bits = 8): TableSpec {
  const near = 1 / 64,
    slope = (fn(LEAST + near) - fn(LEAST)) / near;
  return {
    key,
    layout: {
      kind: 'floatbits',
      eMin: -1,
      eMax: 3,
      odd: false,
      low: [slope, fn(LEAST) - slope * (LEAST + BIAS)],
      bits,
      bias: BIAS,
    },
    fn: (d) => (d < LEAST ? fn(LEAST) + slope * (d - LEAST) : fn(Math.min(d, MOST))),
  };
}

const EXPOSURES = { eMin: -18, eMax: 10 };
function exposureTable({ film }: FilmStage, layer: 0 | 1 | 2): TableSpec {
  const fn = (e: number): number =>
    film.developed(layer, Math.max(2 ** EXPOSURES.eMin, Math.min(e, 2 ** EXPOSURES.eMax)));
  return {
    key: `film-density-${film.stock.id}-${film.how.push}-${film.how.cross}-${layer}`,
    layout: { kind: 'floatbits', ...EXPOSURES, odd: false, low: [0, fn(0)], bits: 6 },
    fn,
  };
}

/** Standard deviation of grain by density above the base, relative to that at 1.0. */
export function ratioTable({ over }: Granularity): TableSpec {
  const fn = (d: number): number => {
    const i = over.findIndex((p) => p[0] > d);
    if (i === 0) return over[0]![1];
    if (i < 0) return over.at(-1)![1];
    const [a, b] = [over[i - 1]!, over[i]!];
    return a[1] + ((b[1] - a[1]) * (d - a[0])) / (b[0] - a[0]);
  };
  return densityTable(`grain-over-${JSON.stringify(over)}`, fn, 6);
}
/**
 * Standard deviation of density in a layer, for a picture of a width, at density 1.0 above the
 * base.
 */
export const sigmaOf = (
  { granularity: { rms, discs }, amount, gauge }: Grain,
  layer: 0 | 1 | 2,
  width: number,
): number =>
  ((amount * rms[layer]) / 1000) * pixelSigma(discs[layer], micronsPerPixel(gauge, width));

type Layer = 0 | 1 | 2;
const COLOUR: readonly Layer[] = [0, 1, 2],
  SINGLE: readonly Layer[] = [1];
/** The layers of a film. */
export const layersOf = (film: Film): readonly Layer[] =>
  film.stock.layers === 'colour' ? COLOUR : SINGLE;

/** Applies `f` to the layers' values; premultiplied if there is one plane more than layers. */
function onLayers(pixel: Pixel, layers: number, f: (c: Pixel) => Pixel): Pixel {
  const a = pixel[layers];
  if (!a) return f(pixel);
  const some = a.le(0).not();
  return [
    ...f(pixel.slice(0, layers).map((c) => select(some, c.div(a), 0))).map((c) =>
      select(some, c.mul(a), 0),
    ),
    a,
  ];
}

/** The picture on the screen, encoded: developed, printed and projected. */
export function developed(stage: FilmStage, at: FrameContext): ImageNode {
  const { film, name, grain } = stage;
  const soft = softened(stage);
  const layers = layersOf(film),
    n = layers.length,
    covered = soft.planes > n;
  // With a single layer only the sums of rows matter.
  const row = (r: Rows[number]): readonly number[] => (n === 3 ? r : [r[0] + r[1] + r[2]]);
  const matrix = (n === 3 ? film.matrix : [film.matrix[1]]).flatMap((r) => [
      ...row(r as Rows[number]),
    ]),
    viewed = film.viewed.flatMap((r) => [...row(r)]);
  const sigmas = grain ? layers.map((c) => sigmaOf(grain, c, soft.width)) : [];
  const first = {
    viewed: matrix.length,
    stain: matrix.length + viewed.length,
    sigma: matrix.length + viewed.length + 3,
  };
  const { flare, white } = film.how;
  const made = imageOp({
    shape: `film-${n}${covered ? 'a' : ''}${grain ? '-grain' : ''}`,
    inputs: [pointwise(soft), ...(grain ? [pointwise(grainPicture(grain, n, at))] : [])],
    planes: covered ? 4 : 3,
    domain: 'encoded',
    params: [...matrix, ...viewed, ...film.stain, ...sigmas],
    tables: [
      ...layers.map((c) => exposureTable(stage, c)),
      ...layers.map((c) => densityTable(`film-dye-${name}-${c}`, (d) => film.dye(c, d), 7)),
      ...COLOUR.map((c) =>
        densityTable(`film-light-${flare}-${white[c]}`, (d) => SRGB_ENCODE.fn(film.light(c, d))),
      ),
      ...(grain ? [ratioTable(grain.granularity)] : []),
    ],
    build: (b) =>
      onLayers(b.pixel(0), n, (exposures) => {
        const times = (from: number, rows: number, v: Pixel): Node[] =>
          Array.from({ length: rows }, (_, r) =>
            v.map((x, i) => x.mul(b.param(from + r * n + i))).reduce((s, x) => s.add(x)),
          );
        const own = times(
          0,
          n,
          exposures.map((e, i) => b.lookup(i, e)),
        );
        const noise = grain ? b.pixel(1) : [];
        const grained = own.map((d, i) => {
          const unit = noise[i];
          return unit ? d.add(unit.mul(b.lookup(2 * n + 3, d)).mul(b.param(first.sigma + i))) : d;
        });
        const dyes = grained.map((d, i) => b.lookup(n + i, d));
        return times(first.viewed, 3, dyes).map((d, i) =>
          b.lookup(2 * n + i, d.add(b.param(first.stain + i))),
        );
      }),
  });
  stages.set(made, stage);
  return made;
}
