/**
 * Grain as a random field of discs (Newson et al., "A stochastic film grain model for
 * resolution-independent rendering", 2017): its variance through an aperture, and periodic tiles of
 * unit variance with its spectrum.
 */
import { mixed32, Remembered } from '../kernel';
import type { Granularity } from './stock';

const STEPS = 2048;
/**
 * Overlap area of two equal discs, as a share of one disc, by their distance in diameters (0…1).
 */
const OVERLAP: Float64Array = (() => {
  const out = new Float64Array(STEPS + 1);
  for (let i = STEPS - 1; i >= 0; i--) {
    const u = (i + 0.5) / STEPS;
    out[i] = out[i + 1]! + ((4 / 3.141592653589793) * Math.sqrt(1 - u * u)) / STEPS;
  }
  return out.map((v) => v / out[0]!);
})();
/** Overlap area of two equal discs at a distance of `t` diameters, as a share of one disc. */
export function overlap(t: number): number {
  if (t >= 1) return 0;
  const at = t * STEPS,
    i = Math.floor(at);
  return OVERLAP[i]! + (OVERLAP[i + 1]! - OVERLAP[i]!) * (at - i);
}
const areaOf = (d: number): number => (3.141592653589793 * d * d) / 4;

/**
 * Variance seen through a round aperture of diameter `a`, for discs of diameter `disc` (µm) and a
 * field of unit spectral density at 0.
 */
export function throughCircle(disc: number, a: number): number {
  const n = 2000,
    far = Math.min(disc, a);
  let sum = 0;
  for (let i = 0; i < n; i++) {
    const r = ((i + 0.5) / n) * far;
    sum += overlap(r / disc) * overlap(r / a) * r;
  }
  return (sum * 6.283185307179586 * far) / n / areaOf(disc) / areaOf(a);
}

/**
 * Covariance of what two square pixels of side `p` see at a lag of (`dx`, `dy`) (all µm); the
 * variance at lag 0.
 */
export function throughSquare(disc: number, p: number, dx = 0, dy = 0): number {
  const n = 120;
  const [x0, x1] = [Math.max(-disc, dx - p), Math.min(disc, dx + p)],
    [y0, y1] = [Math.max(-disc, dy - p), Math.min(disc, dy + p)];
  if (x1 <= x0 || y1 <= y0) return 0;
  let sum = 0;
  for (let j = 0; j < n; j++)
    for (let i = 0; i < n; i++) {
      const x = x0 + ((i + 0.5) / n) * (x1 - x0),
        y = y0 + ((j + 0.5) / n) * (y1 - y0);
      sum +=
        overlap(Math.sqrt(x * x + y * y) / disc) *
        (1 - Math.abs(x - dx) / p) *
        (1 - Math.abs(y - dy) / p);
    }
  return (sum * (x1 - x0) * (y1 - y0)) / (n * n) / areaOf(disc) / (p * p);
}

/** Diameter of ISO 10505's aperture, µm. */
export const APERTURE = 48;
const known = new Remembered<number>(200);
/**
 * Standard deviation of density in a pixel of side `p` µm, per unit of it through ISO 10505's
 * aperture.
 */
export const pixelSigma = (disc: number, p: number): number =>
  known.of(`${disc},${p}`, () => Math.sqrt(throughSquare(disc, p) / throughCircle(disc, APERTURE)));

/** Pixels along a tile's side. */
export const TILE = 256;

/** Nearly Gaussian noise with mean 0: the sum of a hash's four bytes. */
function white(index: number, seed: number): number {
  const h = mixed32(index + Math.imul(seed, 0x9e3779b1));
  return (h & 255) + ((h >>> 8) & 255) + ((h >>> 16) & 255) + (h >>> 24) - 510;
}

/**
 * The share of a disc (diameter `d` pixels, centre at `x`, `y`) in each pixel from −`m` to `m`;
 * sums to 1.
 */
function stencil(d: number, x: number, y: number, m: number): Float64Array {
  const side = 2 * m + 1,
    out = new Float64Array(side * side);
  // Samples on a grid of the disc's own, about 32 across.
  const n = 32;
  for (let j = 0; j < n; j++)
    for (let i = 0; i < n; i++) {
      const [u, v] = [(i + 0.5) / n - 0.5, (j + 0.5) / n - 0.5];
      if (u * u + v * v > 0.25) continue;
      const px = Math.floor(x + u * d) + m,
        py = Math.floor(y + v * d) + m;
      out[py * side + px]!++;
    }
  const sum = out.reduce((a, b) => a + b, 0);
  return out.map((v) => v / sum);
}

/** Discs sampled at a tile's places: one stencil for each of `parts` × `parts` places in a pixel. */
interface Discs {
  readonly m: number;
  readonly stencils: readonly Float64Array[];
}
function discsOf(d: number, parts: number, m: number): Discs {
  const places = Array.from({ length: parts }, (_, i) => (i + 0.5) / parts);
  return { m, stencils: places.flatMap((y) => places.map((x) => stencil(d, x, y, m))) };
}
const product = (a: Discs, b: Discs): number =>
  a.stencils.reduce((s, w, part) => s + w.reduce((t, v, k) => t + v * b.stencils[part]![k]!, 0), 0);

/**
 * Shares of the noise that all layers have, by layer: so that each two of them correlate by
 * `common`, although discs of different sizes make different grain of the same noise.
 */
function sharesOf(all: readonly Discs[], common: number): number[] {
  const likeness = (i: number, j: number): number =>
    product(all[i]!, all[j]!) / Math.sqrt(product(all[i]!, all[i]!) * product(all[j]!, all[j]!));
  // With shares sᵢ the correlation is √(sᵢsⱼ) · likeness(i, j).
  return [0, 1, 2].map((i) => {
    const [j, k] = [(i + 1) % 3, (i + 2) % 3] as [number, number];
    return Math.min(1, (common * likeness(j, k)) / (likeness(i, j) * likeness(i, k)));
  });
}

/**
 * One layer's tile: `TILE` × `TILE`, periodic, mean 0 and variance 1. White noise of two seeds,
 * mixed by `common`, convolved with discs.
 */
function layerTile({ m, stencils }: Discs, own: number, shared: number, common: number) {
  const side = 2 * m + 1;
  const sum = new Float64Array(TILE * TILE),
    noise = new Float64Array(TILE * TILE);
  const [a, b] = [Math.sqrt(1 - common), Math.sqrt(common)];
  stencils.forEach((weights, part) => {
    for (let i = 0; i < noise.length; i++)
      noise[i] = a * white(i, own + part * 64) + b * white(i, shared + part * 64);
    for (let k = 0; k < weights.length; k++) {
      const w = weights[k]!;
      if (w === 0) continue;
      const dx = (k % side) - m,
        dy = Math.floor(k / side) - m;
      for (let y = 0; y < TILE; y++) {
        const to = ((y + dy) & (TILE - 1)) * TILE,
          from = y * TILE;
        for (let x = 0; x < TILE; x++) sum[to + ((x + dx) & (TILE - 1))]! += w * noise[from + x]!;
      }
    }
  });
  const mean = sum.reduce((s, v) => s + v, 0) / sum.length;
  const sigma = Math.sqrt(sum.reduce((s, v) => s + (v - mean) * (v - mean), 0) / sum.length);
  return Float32Array.from(sum, (v) => (v - mean) / sigma);
}

const tiles = new Remembered<Float32Array[]>(6);
/** The three layers' tiles for pixels of side `p` µm, from a small cache. */
export function grainTile(
  { discs, common }: Pick<Granularity, 'discs' | 'common'>,
  p: number,
): { key: string; planes: readonly Float32Array[] } {
  const key = `grain-tile-2-${discs.join(',')}-${common}-${p}`;
  return {
    key,
    planes: tiles.of(key, () => {
      // The same places for all layers: what they share is shared disc by disc.
      const smallest = Math.min(...discs) / p,
        largest = Math.max(...discs) / p;
      const parts = Math.max(1, Math.min(6, Math.ceil(3 / smallest))),
        m = Math.ceil(largest / 2) + 1;
      const all = discs.map((d) => discsOf(d / p, parts, m));
      const shares = sharesOf(all, common);
      return all.map((d, layer) => layerTile(d, layer + 1, 17, shares[layer]!));
    }),
  };
}
