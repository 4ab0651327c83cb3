/** From the working picture to code values: packed pixels for the page, planes for a delivery. */
import { stencil, pointwise, imageOp, type ImageNode } from '../graph';
import { asFloat, float, iadd, ior, ishl, type Node, type Pixel, select, toInt } from '../kernel';
import { inDomain } from './convert';
import {
  codesFromEncoded,
  type EncodingId,
  encodingOf,
  fromWorking,
  needsMatrix,
} from './encodings';
import { matrixed, type MatrixId, WEIGHTS } from './frame';

/**
 * Whether an encoding has BT.709 primaries and an odd-symmetric curve, so that one table serves
 * both signs.
 */
const isOdd = (id: EncodingId): boolean => id === 'srgb' || id === 'bt709' || id === 'linear';

const fromEncoded = (picture: ImageNode, id: EncodingId): ImageNode =>
  imageOp({
    shape: `codes-from-encoded-${id === 'srgb' ? 'plain' : 'table'}`,
    inputs: [pointwise(picture)],
    planes: 3,
    domain: 'none',
    tables: id === 'srgb' ? [] : [codesFromEncoded(id)],
    build: (b) => (id === 'srgb' ? b.pixel(0) : b.pixel(0).map((v) => b.lookup(0, v))),
  });

/** Code values of an encoding (0…1, not clamped), three planes, composited over black. */
export function toCodes(picture: ImageNode, encodingId: EncodingId): ImageNode {
  if (picture.domain === 'encoded' && picture.planes === 3 && isOdd(encodingId))
    return fromEncoded(picture, encodingId);
  return codesOf(picture, encodingId, false);
}

/**
 * Code values of an encoding (0…1, not clamped, not premultiplied), with coverage as a fourth
 * plane.
 */
export const toCoveredCodes = (picture: ImageNode, encodingId: EncodingId): ImageNode =>
  codesOf(picture, encodingId, true);

function codesOf(picture: ImageNode, encodingId: EncodingId, covered: boolean): ImageNode {
  const encoding = encodingOf(encodingId),
    matrix = needsMatrix(encoding);
  const light = inDomain(picture, 'light');
  return imageOp({
    shape: `to-${covered ? 'covered-' : ''}codes-${encoding.fromLight ? 'table' : 'plain'}-${matrix ? 'matrix' : ''}-${light.planes}`,
    inputs: [pointwise(light)],
    planes: covered ? 4 : 3,
    domain: 'none',
    tables: encoding.fromLight ? [encoding.fromLight] : [],
    params: matrix ? [...fromWorking(encoding)] : [],
    build: (b) => {
      const stored = b.pixel(0),
        cover = stored[3];
      let c: Pixel = stored.slice(0, 3);
      if (covered && cover) c = c.map((v) => select(cover.le(0), 0, v.div(cover)));
      if (matrix) c = matrixed(c, b);
      if (encoding.fromLight) c = c.map((v) => b.lookup(0, v));
      return covered ? [...c, cover ?? float(1)] : c;
    },
  });
}

const whole = (v: Node, top: number): Node => v.mul(top).add(0.5).clamp(0, top).floor();

/** One plane whose 32 bits are the bytes red, green, blue, 255, as a canvas takes them. */
export const packedForPage = (codes: ImageNode): ImageNode =>
  imageOp({
    shape: 'pack-rgba8',
    inputs: [pointwise(codes)],
    planes: 1,
    domain: 'none',
    build: (b) => {
      const [r, g, bl] = b.pixel(0).map((v) => toInt(whole(v, 255)));
      return [asFloat(iadd(ior(ior(r!, ishl(g!, 8)), ishl(bl!, 16)), 0xff000000 | 0))];
    },
  });

/** Integers 0…255 or 0…65535, in as many planes as the input has. */
export const wholeRgb = (codes: ImageNode, depth: 8 | 16): ImageNode =>
  imageOp({
    shape: `rgb${depth}-${codes.planes}`,
    inputs: [pointwise(codes)],
    planes: codes.planes,
    domain: 'none',
    build: (b) => b.pixel(0).map((v) => whole(v, 2 ** depth - 1)),
  });

/**
 * 4:2:0 in the video range (16…235 of 8 bits, 64…940 of 10): luma at full size, chroma at half size
 * with left siting, and coverage at full size if the codes have it.
 */
export function yuv420(
  codes: ImageNode,
  depth: 8 | 10 = 8,
  matrix: MatrixId = 'bt709',
): {
  luma: ImageNode;
  chroma: ImageNode;
  cover: ImageNode | undefined;
} {
  const [KR, KB] = WEIGHTS[matrix],
    KG = 1 - KR - KB,
    unit = 2 ** (depth - 8);
  const by = matrix === 'bt709' ? '' : `-${matrix}`,
    deep = depth === 8 ? '' : `-${depth}`;
  const bounded = (c: Pixel) => c.map((v) => v.clamp(0, 1));
  const luma = imageOp({
    shape: `yuv-luma-${codes.planes}${by}${deep}`,
    inputs: [pointwise(codes)],
    planes: 1,
    domain: 'none',
    build: (b) => {
      const [r, g, bl] = bounded(b.pixel(0));
      return [
        r!
          .mul(KR)
          .add(g!.mul(KG))
          .add(bl!.mul(KB))
          .mul(219 * unit)
          .add(16 * unit + 0.5)
          .floor(),
      ];
    },
  });
  const differences = imageOp({
    shape: `yuv-differences-${codes.planes}${by}`,
    inputs: [pointwise(codes)],
    planes: 2,
    domain: 'none',
    build: (b) => {
      const [r, g, bl] = bounded(b.pixel(0));
      const y = r!.mul(KR).add(g!.mul(KG)).add(bl!.mul(KB));
      return [bl!.sub(y).mul(0.5 / (1 - KB)), r!.sub(y).mul(0.5 / (1 - KR))];
    },
  });
  const across = imageOp({
    shape: 'yuv-across',
    inputs: [stencil(differences)],
    planes: 2,
    domain: 'none',
    width: Math.ceil(codes.width / 2),
    height: codes.height,
    build: (b) =>
      [0, 1].map((p) =>
        b
          .tap(0, p, -1, 0, { sx: 'double' })
          .add(b.tap(0, p, 1, 0, { sx: 'double' }))
          .mul(0.25)
          .add(b.tap(0, p, 0, 0, { sx: 'double' }).mul(0.5)),
      ),
  });
  const chroma = imageOp({
    shape: `yuv-down${deep}`,
    inputs: [stencil(across)],
    planes: 2,
    domain: 'none',
    width: across.width,
    height: Math.ceil(codes.height / 2),
    build: (b) =>
      [0, 1].map((p) =>
        b
          .tap(0, p, 0, 0, { sy: 'double' })
          .add(b.tap(0, p, 0, 1, { sy: 'double' }))
          .mul(0.5)
          .mul(224 * unit)
          .add(128 * unit + 0.5)
          .floor(),
      ),
  });
  const cover =
    codes.planes === 4
      ? imageOp({
          shape: `yuv-cover${deep}`,
          inputs: [pointwise(codes)],
          planes: 1,
          domain: 'none',
          build: (b) => [whole(b.pixel(0)[3]!, 255)],
        })
      : undefined;
  return { luma, chroma, cover };
}
