/**
 * Test helpers: pictures of given numbers, and graphs evaluated by both references one operation at
 * a time.
 */
import { type Engine, expressions, groupOf } from '../engine';
import type { Domain, Leaf, ImageNode } from '../graph';
import { leaf } from '../image';
import { building, evaluate, lower, type Precision, type ReferenceImage } from '../kernel';

/** A leaf of given planes; each call gives a new content key. */
export const leafOf = (
  planes: readonly ArrayLike<number>[],
  width: number,
  height: number,
  domain: Domain,
  key = `leaf-${Math.random()}`,
): Leaf => leaf(planes, width, height, domain, key);

/** A generator of random numbers 0 ≤ u < 1 from a seed. */
export function randomFrom(seed: number): () => number {
  let s = seed >>> 0;
  return () => {
    s = (Math.imul(s, 1664525) + 1013904223) >>> 0;
    return s / 4294967296;
  };
}

/**
 * Planes of random numbers from −0.5 to 4. A fourth plane is coverage, with colour premultiplied.
 */
export function randomPlanes(
  planes: number,
  width: number,
  height: number,
  seed: number,
): Float32Array[] {
  const random = randomFrom(seed);
  const colour = Array.from({ length: Math.min(planes, 3) }, () =>
    Float32Array.from({ length: width * height }, () => random() * 4.5 - 0.5),
  );
  if (planes < 4) return colour;
  const cover = Float32Array.from({ length: width * height }, () =>
    Math.min(1, Math.max(0, random() * 1.6 - 0.3)),
  );
  return [...colour.map((p) => p.map((v, i) => v * cover[i]!)), cover];
}

/** Evaluates every operation separately by the reference in a precision. */
export function referenceOf(root: ImageNode, precision: Precision): ReferenceImage {
  const done = new Map<ImageNode, ReferenceImage>();
  const visit = (node: ImageNode): ReferenceImage => {
    const known = done.get(node);
    if (known) return known;
    let image: ReferenceImage;
    if (node.kind === 'leaf') {
      const planes = Array.from(
        { length: node.planes },
        () => new Float32Array(node.width * node.height),
      );
      planes.forEach((plane, p) =>
        node.load(p, (y) => plane.subarray(y * node.width, (y + 1) * node.width)),
      );
      image = { width: node.width, height: node.height, planes };
    } else {
      const inputs = new Map(node.inputs.map((i) => [i.from, visit(i.from)]));
      const group = groupOf(node, new Set<ImageNode>([node, ...inputs.keys()]));
      const numbers = precision === 'single' ? group.params.map(Math.fround) : group.params;
      const planes = building(() => {
        const written = expressions(group);
        return evaluate(
          precision === 'single' ? lower(written) : written,
          {
            inputs: group.reads.map((r) => inputs.get(r)!),
            params: numbers,
            ints: group.ints,
            tables: group.tables,
          },
          node.width,
          node.height,
          precision,
        );
      });
      image = { width: node.width, height: node.height, planes };
    }
    done.set(node, image);
    return image;
  };
  return visit(root);
}

/**
 * Number of values of a computed picture that differ in any bit from the single-precision
 * reference.
 */
export function bitsThatDiffer(engine: Engine, root: ImageNode, keepCheckpoints = false): number {
  const image = engine.compute(root, { keepCheckpoints });
  const reference = referenceOf(root, 'single');
  let count = 0;
  for (let p = 0; p < image.planes; p++)
    engine.memory.plane(image, p).forEach((v, i) => {
      if (!Object.is(v, reference.planes[p]![i])) count++;
    });
  return count;
}

/** The largest |Δ| ÷ max(1, |value|) between simd and the double-precision reference. */
export function largestError(engine: Engine, root: ImageNode): number {
  const image = engine.compute(root);
  const reference = referenceOf(root, 'double');
  let most = 0;
  for (let p = 0; p < image.planes; p++)
    engine.memory.plane(image, p).forEach((v, i) => {
      const r = reference.planes[p]![i]!;
      most = Math.max(most, Math.abs(v - r) / Math.max(1, Math.abs(r)));
    });
  return most;
}

/** Share of values for which that exceeds `error`. */
export function shareBeyond(engine: Engine, root: ImageNode, error: number): number {
  const image = engine.compute(root);
  const reference = referenceOf(root, 'double');
  let beyond = 0;
  for (let p = 0; p < image.planes; p++)
    engine.memory.plane(image, p).forEach((v, i) => {
      const r = reference.planes[p]![i]!;
      if (Math.abs(v - r) / Math.max(1, Math.abs(r)) > error) beyond++;
    });
  return beyond / (image.planes * image.width * image.height);
}
