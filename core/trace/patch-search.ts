/**
 * Displacements of small patches by inverse search (Kroeger et al., *Fast Optical Flow using Dense Inverse Search*,
 * 2016): each patch is moved by Gauss and Newton until it fits, from where its neighbours or the coarser level say.
 */
import { type Padded, PAD } from './luma';

const PATCH = 8;
const STRIDE = 4;
const PIXELS = PATCH * PATCH;
const MOST_STEPS = 8;
/** A step smaller than this (pixels, squared) is the last. */
const SMALL_STEP = 0.06 ** 2;
/** A patch whose gradients tell less than this says nothing of where it went. */
const LEAST_TEXTURE = 40;

/** A vector for each pixel, in pixels of its own size. */
export interface Vectors {
  readonly width: number;
  readonly height: number;
  readonly u: Float32Array;
  readonly v: Float32Array;
}

export const patchesAlong = (size: number): number => Math.max(1, Math.ceil((size - PATCH) / STRIDE) + 1);
const placeOf = (i: number, size: number): number => Math.min(i * STRIDE, Math.max(0, size - PATCH));

/** Finds where patches of `a` lie in `b`; `start` says where to begin (of `a`'s size). */
export function searchPatches(a: Padded, b: Padded, start: Vectors): Vectors {
  const { width, height } = a;
  const nx = patchesAlong(width),
    ny = patchesAlong(height),
    n = nx * ny;
  const u = new Float32Array(n),
    v = new Float32Array(n),
    cost = new Float32Array(n);
  const gx = new Float32Array(PIXELS),
    gy = new Float32Array(PIXELS),
    own = new Float32Array(PIXELS);
  // The inverse of each patch's structure: what its gradients tell, but for their mean.
  const h11 = new Float64Array(n),
    h12 = new Float64Array(n),
    h22 = new Float64Array(n);
  // What a patch's loading and a comparison leave (variables that several functions write would be boxed).
  const left = new Float64Array(4);
  const [SUM_X, SUM_Y, SLOPE_X, SLOPE_Y] = [0, 1, 2, 3] as const;
  const A = a.data,
    B = b.data,
    sa = a.stride,
    sb = b.stride;

  const load = (px: number, py: number): void => {
    let sumX = 0,
      sumY = 0;
    for (let y = 0, k = 0; y < PATCH; y++) {
      let o = a.at + (py + y) * sa + px;
      for (let x = 0; x < PATCH; x++, k++, o++) {
        own[k] = A[o]!;
        const dx = (A[o + 1]! - A[o - 1]!) * 0.5,
          dy = (A[o + sa]! - A[o - sa]!) * 0.5;
        gx[k] = dx;
        gy[k] = dy;
        sumX += dx;
        sumY += dy;
      }
    }
    left[SUM_X] = sumX;
    left[SUM_Y] = sumY;
  };

  /** The cost but for a common brightness; leaves its slopes. */
  const compare = (px: number, py: number, du: number, dv: number): number => {
    const fx = Math.max(1 - PAD, Math.min(width - PATCH + PAD - 2, px + du)),
      fy = Math.max(1 - PAD, Math.min(height - PATCH + PAD - 2, py + dv));
    const ix = Math.floor(fx),
      iy = Math.floor(fy);
    const wx = fx - ix,
      wy = fy - iy;
    const w00 = (1 - wx) * (1 - wy),
      w10 = wx * (1 - wy),
      w01 = (1 - wx) * wy,
      w11 = wx * wy;
    let sum = 0,
      squares = 0,
      sx = 0,
      sy = 0;
    for (let y = 0, k = 0; y < PATCH; y++) {
      let o = b.at + (iy + y) * sb + ix + 1,
        upper = B[o - 1]!,
        lower = B[o + sb - 1]!;
      for (let x = 0; x < PATCH; x++, k++, o++) {
        const nextUpper = B[o]!,
          nextLower = B[o + sb]!;
        const d = upper * w00 + nextUpper * w10 + lower * w01 + nextLower * w11 - own[k]!;
        upper = nextUpper;
        lower = nextLower;
        sum += d;
        squares += d * d;
        sx += gx[k]! * d;
        sy += gy[k]! * d;
      }
    }
    const mean = sum / PIXELS;
    left[SLOPE_X] = sx - left[SUM_X]! * mean;
    left[SLOPE_Y] = sy - left[SUM_Y]! * mean;
    return squares - sum * mean;
  };

  const descend = (p: number, px: number, py: number, fromU: number, fromV: number): void => {
    let bestU = fromU,
      bestV = fromV,
      best = compare(px, py, fromU, fromV);
    if (h22[p] !== 0 || h11[p] !== 0) {
      let atU = fromU,
        atV = fromV;
      for (let step = 0; step < MOST_STEPS; step++) {
        const slopeX = left[SLOPE_X]!,
          slopeY = left[SLOPE_Y]!;
        const stepU = h11[p]! * slopeX + h12[p]! * slopeY,
          stepV = h12[p]! * slopeX + h22[p]! * slopeY;
        atU -= stepU;
        atV -= stepV;
        const offU = atU - fromU,
          offV = atV - fromV;
        // Without a bound a flash would carry patches away.
        if (offU * offU + offV * offV > PATCH * PATCH) break;
        const now = compare(px, py, atU, atV);
        if (now >= best) break;
        best = now;
        bestU = atU;
        bestV = atV;
        if (stepU * stepU + stepV * stepV < SMALL_STEP) break;
      }
    }
    u[p] = bestU;
    v[p] = bestV;
    cost[p] = best;
  };

  for (let j = 0; j < ny; j++)
    for (let i = 0; i < nx; i++) {
      const p = j * nx + i,
        px = placeOf(i, width),
        py = placeOf(j, height);
      load(px, py);
      let xx = 0,
        xy = 0,
        yy = 0;
      for (let k = 0; k < PIXELS; k++) {
        xx += gx[k]! * gx[k]!;
        xy += gx[k]! * gy[k]!;
        yy += gy[k]! * gy[k]!;
      }
      const sumX = left[SUM_X]!,
        sumY = left[SUM_Y]!;
      xx -= (sumX * sumX) / PIXELS;
      xy -= (sumX * sumY) / PIXELS;
      yy -= (sumY * sumY) / PIXELS;
      // A little more on the diagonal: along an edge nothing is told, and nothing is moved.
      const more = 1 + 0.005 * (xx + yy);
      const det = (xx + more) * (yy + more) - xy * xy;
      if (xx + yy > LEAST_TEXTURE) {
        h11[p] = (yy + more) / det;
        h12[p] = -xy / det;
        h22[p] = (xx + more) / det;
      }
      const middle = Math.min(height - 1, py + PATCH / 2) * width + Math.min(width - 1, px + PATCH / 2);
      let fromU = start.u[middle]!,
        fromV = start.v[middle]!;
      let best = compare(px, py, fromU, fromV);
      for (const q of [i > 0 ? p - 1 : -1, j > 0 ? p - nx : -1]) {
        if (q < 0) continue;
        const c = compare(px, py, u[q]!, v[q]!);
        if (c < best) [best, fromU, fromV] = [c, u[q]!, v[q]!];
      }
      descend(p, px, py, fromU, fromV);
    }
  for (let j = ny - 1; j >= 0; j--)
    for (let i = nx - 1; i >= 0; i--) {
      const p = j * nx + i;
      const px = placeOf(i, width),
        py = placeOf(j, height);
      let from = -1,
        best = cost[p]!,
        loaded = false;
      for (const q of [i < nx - 1 ? p + 1 : -1, j < ny - 1 ? p + nx : -1]) {
        if (q < 0 || (Math.abs(u[q]! - u[p]!) < 0.05 && Math.abs(v[q]! - v[p]!) < 0.05)) continue;
        if (!loaded) load(px, py);
        loaded = true;
        const c = compare(px, py, u[q]!, v[q]!);
        if (c < best) [best, from] = [c, q];
      }
      if (from >= 0) descend(p, px, py, u[from]!, v[from]!);
    }
  return spread(a, b, nx, ny, u, v);
}

/** To all pixels: what the patches over each say, by how well each fits there. */
function spread(a: Padded, b: Padded, nx: number, ny: number, u: Float32Array, v: Float32Array): Vectors {
  const { width, height } = a;
  const su = new Float32Array(width * height),
    sv = new Float32Array(width * height),
    sw = new Float32Array(width * height);
  const d = new Float32Array(PIXELS);
  for (let j = 0; j < ny; j++)
    for (let i = 0; i < nx; i++) {
      const p = j * nx + i,
        px = placeOf(i, width),
        py = placeOf(j, height);
      const fx = Math.max(1 - PAD, Math.min(width - PATCH + PAD - 2, px + u[p]!)),
        fy = Math.max(1 - PAD, Math.min(height - PATCH + PAD - 2, py + v[p]!));
      const ix = Math.floor(fx),
        iy = Math.floor(fy),
        wx = fx - ix,
        wy = fy - iy;
      let mean = 0;
      for (let y = 0, k = 0; y < PATCH; y++) {
        let o = b.at + (iy + y) * b.stride + ix,
          q = a.at + (py + y) * a.stride + px;
        for (let x = 0; x < PATCH; x++, k++, o++, q++) {
          const top = b.data[o]! + (b.data[o + 1]! - b.data[o]!) * wx,
            low = b.data[o + b.stride]! + (b.data[o + b.stride + 1]! - b.data[o + b.stride]!) * wx;
          d[k] = top + (low - top) * wy - a.data[q]!;
          mean += d[k]!;
        }
      }
      mean /= PIXELS;
      const rows = Math.min(PATCH, height - py),
        columns = Math.min(PATCH, width - px);
      for (let y = 0; y < rows; y++)
        for (let x = 0; x < columns; x++) {
          const off = d[y * PATCH + x]! - mean,
            o = (py + y) * width + px + x;
          const w = 1 / Math.max(1, off * off);
          su[o] = su[o]! + w * u[p]!;
          sv[o] = sv[o]! + w * v[p]!;
          sw[o] = sw[o]! + w;
        }
    }
  for (let o = 0; o < sw.length; o++) {
    su[o] = su[o]! / sw[o]!;
    sv[o] = sv[o]! / sw[o]!;
  }
  return { width, height, u: su, v: sv };
}
