/** The mean of several pictures of one size. */
import { type Domain, type ImageNode, imageOp, pointwise } from '../graph';
import { float } from '../kernel';

/** As many pictures as one kernel reads. */
const AT_ONCE = 8;

/** No exposure is made from more pictures: of a longer way they lie further apart than a pixel. */
const MOST = 96;
/** How many pictures keep what moves so far (pixels) no more than a pixel apart. */
export const exposuresFor = (way: number): number =>
  way < 0.5 ? 1 : Math.min(MOST, AT_ONCE * Math.ceil(way / AT_ONCE));

/**
 * All are of `domain`; one that has no coverage covers wholly where another has some. Exact of a
 * whole number of eights, or of eight at most.
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
