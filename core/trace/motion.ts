/** Where each part of a picture went: dense vectors from one frame to another, coarse to fine. */
import { type Luma, padded, pyramid } from './luma';
import { searchPatches, type Vectors } from './patch-search';
import { refined } from './refine';

/** The coarsest level has at least so many pixels on its shorter side. */
const COARSEST = 16;

/** Twice as large, with vectors twice as long. */
function doubled({ width, height, u, v }: Vectors, w: number, h: number): Vectors {
  const out = { width: w, height: h, u: new Float32Array(w * h), v: new Float32Array(w * h) };
  for (let y = 0; y < h; y++) {
    const fy = Math.max(0, Math.min(height - 1, y / 2 - 0.25)),
      y0 = Math.floor(fy),
      wy = fy - y0,
      upper = y0 * width,
      lower = Math.min(height - 1, y0 + 1) * width;
    for (let x = 0; x < w; x++) {
      const fx = Math.max(0, Math.min(width - 1, x / 2 - 0.25)),
        x0 = Math.floor(fx),
        x1 = Math.min(width - 1, x0 + 1),
        wx = fx - x0;
      const [w00, w10, w01, w11] = [(1 - wx) * (1 - wy), wx * (1 - wy), (1 - wx) * wy, wx * wy];
      const [a, b, c, d] = [upper + x0, upper + x1, lower + x0, lower + x1];
      out.u[y * w + x] = 2 * (u[a]! * w00 + u[b]! * w10 + u[c]! * w01 + u[d]! * w11);
      out.v[y * w + x] = 2 * (v[a]! * w00 + v[b]! * w10 + v[c]! * w01 + v[d]! * w11);
    }
  }
  return out;
}

/** A frame with what its comparisons need, made once for all of them. */
export interface Tracked {
  readonly levels: readonly { readonly luma: Luma; readonly padded: ReturnType<typeof padded> }[];
}
export const tracked = (luma: Luma): Tracked => ({ levels: pyramid(luma, COARSEST).map((l) => ({ luma: l, padded: padded(l) })) });

/** Where each pixel of `a` lies in `b`: vectors in pixels. Both of one size. */
export function motionBetween(a: Tracked, b: Tracked): Vectors {
  let flow: Vectors | undefined;
  for (let level = a.levels.length - 1; level >= 0; level--) {
    const from = a.levels[level]!,
      to = b.levels[level]!;
    const { width, height } = from.luma;
    const start = flow ? doubled(flow, width, height) : { width, height, u: new Float32Array(width * height), v: new Float32Array(width * height) };
    flow = refined(from.luma.data, to.padded, searchPatches(from.padded, to.padded, start));
  }
  return flow!;
}
