/** Computes frames for the inspection with the engine. */
import type { Engine, Planes } from '../engine';
import type { ImageNode } from '../graph';
import { type EncodingId, inDomain, toCodes } from '../image';
import type { Inspected } from './inspection';
import type { CodePlanes, Region } from './scopes';

/**
 * A frame before and under its look, in code values of `out`. Valid until the engine is used again.
 * `fills`: the look may cover more than the clip and is inspected as far as it covers.
 */
export function inspectedFrame(
  engine: Engine,
  {
    bedrock,
    result,
    frame,
  }: { readonly bedrock: ImageNode; readonly result: ImageNode; readonly frame: number },
  out: EncodingId,
  fills = false,
): Inspected {
  // Bars beside a fitted clip, or beside a look's own frame, are not inspected.
  const covering = fills ? result : bedrock;
  const images = engine.computeAll(
    [
      toCodes(result, out),
      toCodes(bedrock, out),
      inDomain(result, 'light'),
      ...(covering.planes === 4 ? [covering] : []),
    ],
    { frame },
  );
  const [after, before, light, covered] = images.map((image) => engine.planes(image)) as [
    CodePlanes,
    CodePlanes,
    Planes,
    Planes | undefined,
  ];
  if (!covered) return { after, before, light };
  const box = coveredBox(covered);
  return { after: cropped(after, box), before: cropped(before, box), light };
}

/** The covered box of a picture, by the coverage of its middle row and column. */
function coveredBox({ width, height, stride, planes }: Planes): Region {
  const cover = planes[3]!;
  const reach = (count: number, at: (i: number) => number): [number, number] => {
    const inside = Array.from({ length: count }, (_, i) => i).filter((i) => cover[at(i)]! >= 0.99);
    return inside.length > 0 ? [inside[0]!, inside.at(-1)! + 1] : [0, count];
  };
  const [x0, x1] = reach(width, (x) => (height >> 1) * stride + x),
    [y0, y1] = reach(height, (y) => y * stride + (width >> 1));
  return { x0, y0, x1, y1 };
}
const cropped = ({ stride, planes }: CodePlanes, { x0, y0, x1, y1 }: Region): CodePlanes => ({
  width: x1 - x0,
  height: y1 - y0,
  stride,
  planes: planes.map((p) => p.subarray(y0 * stride + x0)) as unknown as CodePlanes['planes'],
});
