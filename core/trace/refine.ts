/**
 * Variational refinement of vectors: brightness and gradients stay what they are, vectors are smooth but for their edges
 * (Brox et al., *High Accuracy Optical Flow Estimation Based on a Theory for Warping*, 2004), with both data terms
 * normalised by their gradients. Solved by red-black successive over-relaxation: the same bits on every run.
 */
import { type Padded, PAD } from './luma';
import type { Vectors } from './patch-search';

export interface Refining {
  /** Smoothness, gradient constancy, brightness constancy. */
  readonly alpha: number;
  readonly gamma: number;
  readonly delta: number;
  /** Times the weights are found anew, and sweeps of each. */
  readonly rounds: number;
  readonly sweeps: number;
}
export const REFINING: Refining = { alpha: 40, gamma: 10, delta: 0.5, rounds: 3, sweeps: 5 };

const OMEGA = 1.6;
/** Keeps a pixel without slope and neighbours where it is. */
const LEAST = 1e-6;
const EPSILON = 0.001 ** 2;
/** Keeps flat places from being normalised into noise; of gradients of 0…255. */
const ZETA = 0.1 ** 2;

/** `b` read where `flow` leads from each pixel. */
export function readAt(b: Padded, { width, height, u, v }: Vectors, into = new Float32Array(width * height)): Float32Array {
  const { data, stride, at } = b;
  const farX = width + PAD - 3,
    farY = height + PAD - 3;
  for (let y = 0, o = 0; y < height; y++)
    for (let x = 0; x < width; x++, o++) {
      const fx = Math.max(2 - PAD, Math.min(farX, x + u[o]!)),
        fy = Math.max(2 - PAD, Math.min(farY, y + v[o]!));
      const ix = Math.floor(fx),
        iy = Math.floor(fy),
        i = at + iy * stride + ix,
        wx = fx - ix;
      const top = data[i]! + (data[i + 1]! - data[i]!) * wx,
        low = data[i + stride]! + (data[i + stride + 1]! - data[i + stride]!) * wx;
      into[o] = top + (low - top) * (fy - iy);
    }
  return into;
}

/** Central differences with edges repeated. */
function slopes(f: Float32Array, width: number, height: number): readonly [x: Float32Array, y: Float32Array] {
  const dx = new Float32Array(f.length),
    dy = new Float32Array(f.length);
  for (let y = 0, o = 0; y < height; y++) {
    const up = y > 0 ? -width : 0,
      down = y < height - 1 ? width : 0;
    for (let x = 0; x < width; x++, o++) {
      dx[o] = (f[o + (x < width - 1 ? 1 : 0)]! - f[o - (x > 0 ? 1 : 0)]!) * 0.5;
      dy[o] = (f[o + down]! - f[o + up]!) * 0.5;
    }
  }
  return [dx, dy];
}

export function refined(a: Float32Array, b: Padded, flow: Vectors, { alpha, gamma, delta, rounds, sweeps }: Refining = REFINING): Vectors {
  const { width: W, height: H } = flow,
    n = W * H;
  const warped = readAt(b, flow);
  const mean = new Float32Array(n),
    iz = new Float32Array(n);
  for (let o = 0; o < n; o++) {
    mean[o] = (a[o]! + warped[o]!) * 0.5;
    iz[o] = warped[o]! - a[o]!;
  }
  const [ix, iy] = slopes(mean, W, H);
  const [ixz, iyz] = slopes(iz, W, H);
  const [ixx, ixy] = slopes(ix, W, H);
  const [, iyy] = slopes(iy, W, H);
  // A row of nothing before and after: what lies beyond weighs nothing.
  const size = n + 2 * W + 2,
    base = W + 1;
  const u = new Float32Array(size),
    v = new Float32Array(size);
  u.set(flow.u, base);
  v.set(flow.v, base);
  // Of each pixel: what ties right and down to left, the inverse of what lies on the diagonal.
  const a12 = new Float32Array(n),
    b1 = new Float32Array(n),
    b2 = new Float32Array(n),
    inverse1 = new Float32Array(n),
    inverse2 = new Float32Array(n);
  const right = new Float32Array(size),
    below = new Float32Array(size);
  for (let round = 0; round < rounds; round++) {
    for (let y = 0, q = base; y < H; y++)
      for (let x = 0; x < W; x++, q++) {
        const cu = u[q]!,
          cv = v[q]!;
        const onX = x < W - 1 ? 1 : 0,
          onY = y < H - 1 ? W : 0;
        const ux = u[q + onX]! - cu,
          vx = v[q + onX]! - cv,
          uy = u[q + onY]! - cu,
          vy = v[q + onY]! - cv;
        const w = alpha / Math.sqrt(ux * ux + vx * vx + uy * uy + vy * vy + EPSILON);
        right[q] = onX ? w : 0;
        below[q] = onY ? w : 0;
      }
    for (let o = 0, q = base; o < n; o++, q++) {
      const fu = flow.u[o]!,
        fv = flow.v[o]!,
        cu = u[q]! - fu,
        cv = v[q]! - fv;
      const x = ix[o]!,
        y = iy[o]!,
        z = iz[o]!;
      const norm = 1 / (x * x + y * y + ZETA);
      const d = z + x * cu + y * cv;
      const w = (delta * norm) / Math.sqrt(d * d * norm + EPSILON);
      const xx = ixx[o]!,
        xy = ixy[o]!,
        yy = iyy[o]!,
        xz = ixz[o]!,
        yz = iyz[o]!;
      const nx = 1 / (xx * xx + xy * xy + ZETA),
        ny = 1 / (xy * xy + yy * yy + ZETA);
      const dx = xz + xx * cu + xy * cv,
        dy = yz + xy * cu + yy * cv;
      const g = gamma / Math.sqrt(dx * dx * nx + dy * dy * ny + EPSILON);
      const wx = g * nx,
        wy = g * ny;
      const m11 = w * x * x + wx * xx * xx + wy * xy * xy,
        m12 = w * x * y + wx * xx * xy + wy * xy * yy,
        m22 = w * y * y + wx * xy * xy + wy * yy * yy;
      const ties = right[q]! + right[q - 1]! + below[q]! + below[q - W]!;
      a12[o] = m12;
      // In whole vectors, not in what is added to those it began with.
      b1[o] = m11 * fu + m12 * fv - (w * x * z + wx * xx * xz + wy * xy * yz);
      b2[o] = m12 * fu + m22 * fv - (w * y * z + wx * xy * xz + wy * yy * yz);
      inverse1[o] = OMEGA / (m11 + ties + LEAST);
      inverse2[o] = OMEGA / (m22 + ties + LEAST);
    }
    for (let sweep = 0; sweep < sweeps; sweep++)
      for (let colour = 0; colour < 2; colour++)
        for (let y = 0; y < H; y++)
          for (let x = (y + colour) & 1, o = y * W + x, q = base + o; x < W; x += 2, o += 2, q += 2) {
            const wr = right[q]!,
              wl = right[q - 1]!,
              wd = below[q]!,
              wu = below[q - W]!;
            const m12 = a12[o]!,
              cv = v[q]!;
            const cu = (1 - OMEGA) * u[q]! + inverse1[o]! * (b1[o]! - m12 * cv + wr * u[q + 1]! + wl * u[q - 1]! + wd * u[q + W]! + wu * u[q - W]!);
            u[q] = cu;
            v[q] = (1 - OMEGA) * cv + inverse2[o]! * (b2[o]! - m12 * cu + wr * v[q + 1]! + wl * v[q - 1]! + wd * v[q + W]! + wu * v[q - W]!);
          }
  }
  return { width: W, height: H, u: u.slice(base, base + n), v: v.slice(base, base + n) };
}
