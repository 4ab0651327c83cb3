import { pointwise, imageOp, type ImageNode } from '../graph';
import { inDomain } from '../image';
import { luma, select } from '../kernel';
import { choice } from '../parameters';
import { matteKind } from './declare';

/** The coverage of a picture. */
const coverageOf = (from: ImageNode): ImageNode =>
  imageOp({
    shape: `coverage-${from.planes}`,
    inputs: [pointwise(from)],
    planes: 1,
    domain: 'none',
    build: (b) => [b.pixel(0)[3] ?? b.pixel(0)[0]!.mul(0).add(1)],
  });

/** Encoded luma times coverage; transparency counts as dark. */
const lightnessOf = (picture: ImageNode): ImageNode => {
  const from = inDomain(picture, 'encoded');
  return imageOp({
    shape: `lightness-${from.planes}`,
    inputs: [pointwise(from)],
    planes: 1,
    domain: 'none',
    build: (b) => {
      const c = b.pixel(0);
      return [select(c[3] ? c[3].le(0) : luma(c).lt(0), 0, luma(c.slice(0, 3))).clamp(0, 1)];
    },
  });
};

/** A matte from another layer. */
export const ofLayer = matteKind({
  id: 'layer',
  label: 'Layer',
  help: 'How light another layer is, or where it covers.',
  names: 'layer',
  parameters: [
    choice('by', 'By', { lightness: 'its lightness', coverage: 'its coverage' }, 'lightness'),
  ],
  cover: (v, at) => {
    const of = at.named;
    if (!of)
      return imageOp({
        shape: 'nothing',
        inputs: [],
        planes: 1,
        domain: 'none',
        width: at.width,
        height: at.height,
        build: (b) => [b.param(0)],
        params: [0],
      });
    return v.by === 'coverage' ? coverageOf(of) : lightnessOf(of);
  },
});

/** A matte from a file that a pin names. */
export const ofPin = matteKind({
  id: 'file',
  label: 'Matte pin',
  help: 'The footage that each clip sets as this matte: white covers. Where a clip has set none, all of the frame.',
  names: 'pin',
  parameters: [],
  cover: (_, at) =>
    at.named
      ? lightnessOf(at.named)
      : imageOp({
          shape: 'whole',
          inputs: [],
          planes: 1,
          domain: 'none',
          width: at.width,
          height: at.height,
          params: [1],
          build: (b) => [b.param(0)],
        }),
});
