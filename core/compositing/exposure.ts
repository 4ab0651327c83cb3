/** What is seen while a shutter is open: the mean of where a picture lies meanwhile. */
import { type ImageNode, imageOp, pointwise } from '../graph';
import { inDomain } from '../image';
import { float } from '../kernel';

/** As many pictures as one kernel reads. */
const AT_ONCE = 8;
/** No exposure is made from more: of a longer way the pictures lie further apart than a pixel. */
const MOST = 96;

/** How many pictures keep what moves so far (pixels) no more than a pixel apart. */
export const exposuresFor = (way: number): number => (way < 0.5 ? 1 : Math.min(MOST, AT_ONCE * Math.ceil(way / AT_ONCE)));

/** The mean of pictures of one size, in light, multiplied by coverage; where all are whole it is whole. */
export function exposed(pictures: readonly ImageNode[]): ImageNode {
  const all = pictures.map((p) => inDomain(p, 'light'));
  if (all.length === 1) return all[0]!;
  const groups: ImageNode[][] = [];
  for (let i = 0; i < all.length; i += AT_ONCE) groups.push(all.slice(i, i + AT_ONCE));
  const blocks = groups.map((some) => {
    const planes = Math.max(...some.map((p) => p.planes));
    return imageOp({
      shape: `exposure-${some.map((p) => p.planes).join('')}`,
      inputs: some.map((p) => pointwise(p)),
      planes,
      domain: 'light',
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
  return exposed(blocks);
}
