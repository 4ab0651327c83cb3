/**
 * Conversions between linear light and the working encoded curve. A conversion and its inverse
 * cancel out in the graph.
 */
import {
  type Building,
  type Domain,
  pointwise,
  type ImageOp,
  imageOp,
  type ImageNode,
} from '../graph';
import { type Node, type Pixel, select } from '../kernel';
import { SRGB_DECODE, SRGB_ENCODE } from './encodings';

/**
 * Applies a colour function to a pixel of 3 or 4 planes. Premultiplied colour is divided by
 * coverage first and multiplied after; where coverage is 0, colour is 0.
 */
export function onColour(pixel: Pixel, f: (c: Pixel) => Pixel): Pixel {
  if (pixel.length === 3) return f(pixel);
  const a = pixel[3]!;
  const some = zeroBelow(a);
  return [
    ...f(pixel.slice(0, 3).map((c) => select(some, c.div(a), 0))).map((c) =>
      select(some, c.mul(a), 0),
    ),
    a,
  ];
}
const zeroBelow = (a: Node): Node => a.le(0).not();

const convert = (from: ImageNode, to: 'light' | 'encoded'): ImageOp =>
  imageOp({
    shape: `convert-${to}-${from.planes}`,
    inputs: [pointwise(from)],
    planes: from.planes,
    domain: to,
    tables: [to === 'encoded' ? SRGB_ENCODE : SRGB_DECODE],
    build: (b: Building) => onColour(b.pixel(0), (c) => c.map((v) => b.lookup(0, v))),
  });

/** `picture` in another domain. Converting back returns the picture it came from. */
export function inDomain(picture: ImageNode, domain: Domain): ImageNode {
  if (domain === 'none' || picture.domain === 'none' || picture.domain === domain) return picture;
  if (
    picture.kind === 'operation' &&
    picture.shape.startsWith('convert-') &&
    picture.inputs[0]!.from.domain === domain
  )
    return picture.inputs[0]!.from;
  if (picture.kind === 'operation' && picture.inOther) return picture.inOther(domain);
  return convert(picture, domain as 'light' | 'encoded');
}
