/** Frames for the inspection, by the engine's own kernels. */
import type { Engine, Planes } from '../engine';
import type { ImageNode } from '../graph';
import { type EncodingId, inDomain, toCodes } from '../image';
import type { Inspected } from './inspection';
import type { CodePlanes, Region } from './scopes';

/**
 * A frame before and under its look (in code values of `out`), to be looked over before the engine
 * is used again. `fills`: the look may cover more than the clip does, and is looked over as far as
 * it covers itself.
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
  // The bars of a clip that is fitted into the frame (or of a look's own frame) are no part of the
  // picture.
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

/** The part of a picture that is covered: as far as its middle row and column are. */
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
