/** The mean of several pictures of one size. */
import { type Domain, type ImageNode, imageOp, pointwise } from '../graph';
import { float } from '../kernel';

/** Most pictures that one kernel reads. */
const AT_ONCE = 8;

/** Most pictures of an exposure; on a longer way they are more than a pixel apart. */
const MOST = 96;
/** Number of pictures that are at most a pixel apart, for motion over `way` pixels. */
export const exposuresFor = (way: number): number =>
  way < 0.5 ? 1 : Math.min(MOST, AT_ONCE * Math.ceil(way / AT_ONCE));

/**
 * The mean of pictures of one size in a domain. If some have coverage, the others count as opaque.
 * All weights are equal for up to eight pictures, or a multiple of eight.
 */
export function meanOf(pictures: readonly ImageNode[], domain: Domain): ImageNode {
  if (pictures.length === 1) return pictures[0]!;
  const groups: ImageNode[][] = [];
  for (let i = 0; i < pictures.length; i += AT_ONCE) groups.push(pictures.slice(i, i + AT_ONCE));
  const blocks = groups.map((some) => {
    const planes = Math.max(...some.map((p) => p.planes));
    return imageOp({
      shape: `mean-${domain}-${some.map((p) => p.planes).join('')}`,
      inputs: some.map((p) => pointwise(p)),
      planes,
      domain,
      params: [1 / some.length],
      wide: true,
      build: (b) =>
        Array.from({ length: planes }, (_, plane) =>
          some
            .map((_, i) => b.pixel(i)[plane] ?? float(1))
            .reduce((sum, x) => sum.add(x))
            .mul(b.param(0)),
        ),
    });
  });
  return meanOf(blocks, domain);
}
