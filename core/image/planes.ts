/** A picture whose numbers are given. */
import { type Domain, Hasher, type Leaf } from '../graph';

/** Planes (rows packed tightly) as the start of a graph; named by their contents unless a key is given. */
export function leaf(planes: readonly ArrayLike<number>[], width: number, height: number, domain: Domain, key?: string): Leaf {
  return {
    kind: 'leaf',
    key: key ?? contentKey(planes, width, height),
    width,
    height,
    planes: planes.length,
    domain,
    load: (p, into) => {
      for (let y = 0; y < height; y++) {
        const row = into(y);
        for (let x = 0; x < width; x++) row[x] = planes[p]![y * width + x]!;
      }
    },
  };
}

function contentKey(planes: readonly ArrayLike<number>[], width: number, height: number): string {
  const h = new Hasher().int(width).int(height);
  for (const p of planes) for (let i = 0; i < p.length; i++) h.float(p[i]!);
  return h.hex();
}
