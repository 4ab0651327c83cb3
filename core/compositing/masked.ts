/** Pictures masked by a matte, and mixes of two pictures. */
import { imageOp, type ImageNode, pointwise } from '../graph';
import { blend2, inDomain } from '../image';

/** A picture multiplied by a matte (one plane, 0…1). */
export function masked(picture: ImageNode, matte: ImageNode): ImageNode {
  return imageOp({
    shape: `masked-${picture.planes}`,
    inputs: [pointwise(picture), pointwise(matte)],
    planes: 4,
    domain: picture.domain,
    build: (at) => {
      const c = at.pixel(0),
        a = at.pixel(1)[0]!;
      return [...c.slice(0, 3).map((x) => x.mul(a)), c[3] ? c[3].mul(a) : a];
    },
  });
}

/**
 * A mix of two pictures of one size: `bedrock` at strength 0, `result` at 1, mixed in the encoded
 * domain.
 */
export function withStrength(bedrock: ImageNode, result: ImageNode, strength: number): ImageNode {
  if (strength === 1 || result === bedrock) return result;
  if (strength === 0) return bedrock;
  const a = inDomain(bedrock, 'encoded'),
    b = inDomain(result, 'encoded');
  return imageOp({
    shape: `strength-${a.planes}-${b.planes}`,
    inputs: [pointwise(a), pointwise(b)],
    planes: Math.max(a.planes, b.planes),
    domain: 'encoded',
    params: [strength],
    build: (at) => blend2(at.pixel(0), at.pixel(1), at.param(0)),
  });
}
