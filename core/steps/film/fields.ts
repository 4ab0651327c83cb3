/**
 * Smooth pictures computed at a small size outside kernels and enlarged: light leaks, uneven
 * development.
 */
import { Hasher, type Leaf, type ImageNode } from '../../graph';
import { enlarge } from '../../image';
import type { FrameContext } from '../declare';

/** Number of halvings from the full size to the small picture. */
const SMALLER = 4;

/**
 * One plane at the size of the frame. `value` gives the value at a place in shares of the frame (x
 * across, y down, 0…1); `name` and `numbers` identify the function in the content key.
 */
export function slowField(
  name: string,
  numbers: readonly number[],
  at: FrameContext,
  value: (x: number, y: number) => number,
): ImageNode {
  const sizes: [number, number][] = [];
  let [width, height] = [at.width, at.height];
  for (let i = 0; i < SMALLER && Math.min(width, height) > 8; i++) {
    sizes.push([width, height]);
    [width, height] = [Math.ceil(width / 2), Math.ceil(height / 2)];
  }
  const h = new Hasher().text(name).int(width).int(height).int(at.seed).int(at.frame);
  numbers.forEach((v) => h.float(v));
  const shrunk = 2 ** sizes.length;
  const small: Leaf = {
    kind: 'leaf',
    key: h.hex(),
    width,
    height,
    planes: 1,
    domain: 'none',
    load: (_, into) => {
      for (let y = 0; y < height; y++) {
        const row = into(y);
        for (let x = 0; x < width; x++)
          row[x] = value(((x + 0.5) * shrunk) / at.width, ((y + 0.5) * shrunk) / at.height);
      }
    },
  };
  return sizes.reverse().reduce<ImageNode>((picture, [w, h]) => enlarge(picture, w, h), small);
}
