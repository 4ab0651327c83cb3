/** Blurs with a sum of Gaussians per plane, for modulation transfer functions. */
import { stencil, type Building, imageOp, type ImageNode } from '../graph';
import { cosTurnsd, expd, flush, type Node, type Pixel, Remembered } from '../kernel';
import { coarsely } from './resample';

/** A sum of Gaussians: sigma in pixels, shares that sum to 1. */
export type Gaussians = readonly { readonly share: number; readonly sigma: number }[];

/** Response to a wave of `f` cycles per pixel. */
export const transfer = (of: Gaussians, f: number): number =>
  of.reduce(
    (s, { share, sigma }) => s + share * expd(-2 * 9.869604401089358 * sigma * sigma * f * f),
    0,
  );

const FREQUENCIES = 128;
/**
 * Weights of a symmetric filter, centre first, with the wanted response at all frequencies up to ½:
 * its inverse Fourier transform. Unlike sampling the curve, this is right for narrow Gaussians too.
 */
const known = new Remembered<number[]>(200);
const weightsFor = (wanted: Gaussians, reach: number): number[] =>
  known.of(JSON.stringify([wanted, reach]), () => weightsOf(wanted, reach));
function weightsOf(wanted: Gaussians, reach: number): number[] {
  const weights = Array.from({ length: reach + 1 }, (_, k) => {
    let sum = 0;
    for (let i = 0; i < FREQUENCIES; i++) {
      const f = ((i + 0.5) / FREQUENCIES) * 0.5;
      sum += transfer(wanted, f) * cosTurnsd(f * k);
    }
    return sum / FREQUENCIES;
  });
  const total = weights[0]! + 2 * weights.slice(1).reduce((a, b) => a + b, 0);
  return weights.map((w) => w / total);
}

const REACH = [2, 4, 6, 8, 13] as const;

function pass(
  from: ImageNode,
  along: 'x' | 'y',
  reach: number,
  weights: readonly number[],
): ImageNode {
  return imageOp({
    shape: `shaped-${along}-${reach}-${from.planes}`,
    inputs: [stencil(from)],
    planes: from.planes,
    domain: from.domain,
    params: weights,
    wide: true,
    build: (b: Building): Pixel =>
      Array.from({ length: from.planes }, (_, p): Node => {
        const at = (d: number) => (along === 'x' ? b.tap(0, p, d, 0) : b.tap(0, p, 0, d));
        const w = (i: number) => b.param(p * (reach + 1) + i);
        let sum = at(0).mul(w(0));
        for (let i = 1; i <= reach; i++) sum = sum.add(at(-i).add(at(i)).mul(w(i)));
        return flush(sum);
      }),
  });
}

/**
 * Filters each plane with its own sum of Gaussians, edges clamped. Wide ones run on a picture
 * halved as often as the narrowest allows.
 */
export function shapedBlur(from: ImageNode, planes: readonly Gaussians[]): ImageNode {
  const narrowest = Math.min(...planes.flat().map((g) => g.sigma));
  return coarsely(from, narrowest, (small, left) => {
    const here = planes.map((of) => of.map(({ share, sigma }) => ({ share, sigma: left(sigma) })));
    const widest = Math.max(...here.flat().map((g) => g.sigma));
    const reach = REACH.find((r) => r >= 2.75 * widest) ?? 13;
    const weights = here.flatMap((of) => weightsFor(of, reach));
    return pass(pass(small, 'x', reach, weights), 'y', reach, weights);
  });
}
