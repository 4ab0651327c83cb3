/** Pictures from given numbers. */
import { type Domain, Hasher, type Leaf } from '../graph';

/**
 * Planes (rows tightly packed) as a leaf of the graph. Its content key is a hash of the numbers
 * unless a key is given.
 */
export function leaf(
  planes: readonly ArrayLike<number>[],
  width: number,
  height: number,
  domain: Domain,
  key?: string,
): Leaf {
  return {
    kind: 'leaf',
    key: key ?? contentKey(planes, width, height),
    width,
    height,
    planes: planes.length,
    domain,
    load: (p, into) => {
      const plane = planes[p]!,
        numbers = plane instanceof Float32Array ? plane : Float32Array.from(plane);
      for (let y = 0; y < height; y++) into(y).set(numbers.subarray(y * width, (y + 1) * width));
    },
  };
}

function contentKey(planes: readonly ArrayLike<number>[], width: number, height: number): string {
  const h = new Hasher().int(width).int(height);
  for (const p of planes) for (let i = 0; i < p.length; i++) h.float(p[i]!);
  return h.hex();
}
