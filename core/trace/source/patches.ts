/**
 * Displacements of small patches by inverse search (Kroeger et al., *Fast Optical Flow using Dense
 * Inverse Search*, 2016).
 */
import { before, clampF, pad, total, valueAt } from './planes';

const PATCH: i32 = 8;
const STRIDE: i32 = 4;
const MOST_STEPS: i32 = 8;
/** The search ends with a step smaller than this (pixels, squared). */
const SMALL_STEP: f32 = 0.0036;
/** Start vectors closer than this (pixels) count as the same. */
const SAME: f32 = 0.05;
/** A patch with weaker gradients than this has no reliable motion. */
const LEAST_TEXTURE: f32 = 40;

let sumX: f32 = 0;
let sumY: f32 = 0;
let slopeX: f32 = 0;
let slopeY: f32 = 0;

/**
 * Copies a patch and its gradients to scratch: 64 values, 64 slopes across, 64 down. `from`: its
 * first pixel.
 */
function take(from: usize, stride: usize, scratch: usize): void {
  let sx = f32x4.splat(0);
  let sy = f32x4.splat(0);
  const half = f32x4.splat(0.5);
  for (let y = 0; y < PATCH; y++) {
    const row = from + <usize>y * stride;
    const to = scratch + ((<usize>y * 8) << 2);
    for (let x: usize = 0; x < 32; x += 16) {
      const o = row + x;
      const dx = f32x4.mul(f32x4.sub(v128.load(o + 4), v128.load(o - 4)), half);
      const dy = f32x4.mul(f32x4.sub(v128.load(o + stride), v128.load(o - stride)), half);
      v128.store(to + x, v128.load(o));
      v128.store(to + x + 256, dx);
      v128.store(to + x + 512, dy);
      sx = f32x4.add(sx, dx);
      sy = f32x4.add(sy, dy);
    }
  }
  sumX = total(sx);
  sumY = total(sy);
}

/** The patch's cost at a displacement, ignoring a common brightness; stores its slopes. */
function compare(
  b: usize,
  strideB: usize,
  width: i32,
  height: i32,
  px: i32,
  py: i32,
  du: f32,
  dv: f32,
  scratch: usize,
): f32 {
  const fx = clampF(<f32>px + du, before(1), <f32>(width - PATCH + pad - 2));
  const fy = clampF(<f32>py + dv, before(1), <f32>(height - PATCH + pad - 2));
  const ix = <i32>floor<f32>(fx);
  const iy = <i32>floor<f32>(fy);
  const wx = fx - <f32>ix;
  const wy = fy - <f32>iy;
  const w00 = f32x4.splat((1 - wx) * (1 - wy));
  const w10 = f32x4.splat(wx * (1 - wy));
  const w01 = f32x4.splat((1 - wx) * wy);
  const w11 = f32x4.splat(wx * wy);
  let o = b + <usize>(iy * <i32>strideB + (ix << 2));
  let u0 = v128.load(o);
  let u1 = v128.load(o + 4);
  let u2 = v128.load(o + 16);
  let u3 = v128.load(o + 20);
  let sum = f32x4.splat(0);
  let squares = f32x4.splat(0);
  let sx = f32x4.splat(0);
  let sy = f32x4.splat(0);
  for (let y = 0; y < PATCH; y++) {
    o += strideB;
    const l0 = v128.load(o);
    const l1 = v128.load(o + 4);
    const l2 = v128.load(o + 16);
    const l3 = v128.load(o + 20);
    const own = scratch + ((<usize>y * 8) << 2);
    const d0 = f32x4.sub(
      f32x4.add(
        f32x4.add(f32x4.mul(u0, w00), f32x4.mul(u1, w10)),
        f32x4.add(f32x4.mul(l0, w01), f32x4.mul(l1, w11)),
      ),
      v128.load(own),
    );
    const d1 = f32x4.sub(
      f32x4.add(
        f32x4.add(f32x4.mul(u2, w00), f32x4.mul(u3, w10)),
        f32x4.add(f32x4.mul(l2, w01), f32x4.mul(l3, w11)),
      ),
      v128.load(own + 16),
    );
    sum = f32x4.add(sum, f32x4.add(d0, d1));
    squares = f32x4.add(squares, f32x4.add(f32x4.mul(d0, d0), f32x4.mul(d1, d1)));
    sx = f32x4.add(
      sx,
      f32x4.add(f32x4.mul(v128.load(own + 256), d0), f32x4.mul(v128.load(own + 272), d1)),
    );
    sy = f32x4.add(
      sy,
      f32x4.add(f32x4.mul(v128.load(own + 512), d0), f32x4.mul(v128.load(own + 528), d1)),
    );
    u0 = l0;
    u1 = l1;
    u2 = l2;
    u3 = l3;
  }
  const all = total(sum);
  const mean = all / 64;
  slopeX = total(sx) - sumX * mean;
  slopeY = total(sy) - sumY * mean;
  return total(squares) - all * mean;
}

/**
 * Moves a patch by Gauss–Newton steps from a vector with known cost and slopes; stores the final
 * vector and cost.
 */
function descend(
  b: usize,
  strideB: usize,
  width: i32,
  height: i32,
  px: i32,
  py: i32,
  fromU: f32,
  fromV: f32,
  fromCost: f32,
  fromX: f32,
  fromY: f32,
  h: usize,
  u: usize,
  v: usize,
  cost: usize,
  scratch: usize,
): void {
  let bestU = fromU;
  let bestV = fromV;
  let best = fromCost;
  slopeX = fromX;
  slopeY = fromY;
  const h11 = valueAt(h);
  const h12 = valueAt(h + 4);
  const h22 = valueAt(h + 8);
  if (h11 != 0 || h22 != 0) {
    let atU = fromU;
    let atV = fromV;
    for (let step = 0; step < MOST_STEPS; step++) {
      const stepU = h11 * slopeX + h12 * slopeY;
      const stepV = h12 * slopeX + h22 * slopeY;
      atU -= stepU;
      atV -= stepV;
      const offU = atU - fromU;
      const offV = atV - fromV;
      // Without a bound, flashes would carry patches away.
      if (offU * offU + offV * offV > <f32>(PATCH * PATCH)) break;
      const now = compare(b, strideB, width, height, px, py, atU, atV, scratch);
      if (now >= best) break;
      best = now;
      bestU = atU;
      bestV = atV;
      if (stepU * stepU + stepV * stepV < SMALL_STEP) break;
    }
  }
  store<f32>(u, bestU);
  store<f32>(v, bestV);
  store<f32>(cost, best);
}
function placeOf(i: i32, size: i32): i32 {
  return min<i32>(i * STRIDE, size - PATCH);
}

/**
 * Finds patches of `a` in `b` (both padded, `width`×`height`), starting from the vectors at
 * `startU`, `startV` (rows `stride` pixels apart), and spreads the results over all pixels into
 * `outU`, `outV`, weighted by their match there. Kroeger et al., *Fast Optical Flow using Dense
 * Inverse Search*, 2016. `work` needs 6·nx·ny values and 192 more, then three planes.
 */
export function searchPatches(
  a: usize,
  b: usize,
  paddedStride: i32,
  width: i32,
  height: i32,
  startU: usize,
  startV: usize,
  stride: i32,
  nx: i32,
  ny: i32,
  outU: usize,
  outV: usize,
  work: usize,
): void {
  const bytes = (<usize>paddedStride) << 2;
  const n = nx * ny;
  const scratch = work;
  const us = work + 1024;
  const vs = us + ((<usize>n) << 2);
  const costs = vs + ((<usize>n) << 2);
  const hs = costs + ((<usize>n) << 2);
  for (let j = 0; j < ny; j++)
    for (let i = 0; i < nx; i++) {
      const p = j * nx + i;
      const px = placeOf(i, width);
      const py = placeOf(j, height);
      take(a + <usize>py * bytes + ((<usize>px) << 2), bytes, scratch);
      let vxx = f32x4.splat(0);
      let vxy = f32x4.splat(0);
      let vyy = f32x4.splat(0);
      for (let k: usize = 0; k < 256; k += 16) {
        const gx = v128.load(scratch + k + 256);
        const gy = v128.load(scratch + k + 512);
        vxx = f32x4.add(vxx, f32x4.mul(gx, gx));
        vxy = f32x4.add(vxy, f32x4.mul(gx, gy));
        vyy = f32x4.add(vyy, f32x4.mul(gy, gy));
      }
      const xx = total(vxx) - (sumX * sumX) / 64;
      const xy = total(vxy) - (sumX * sumY) / 64;
      const yy = total(vyy) - (sumY * sumY) / 64;
      // Slightly more on the diagonal, so that nothing moves along an edge, where motion is
      // undetermined.
      const more: f32 = 1 + 0.005 * (xx + yy);
      const det = (xx + more) * (yy + more) - xy * xy;
      const tells = xx + yy > LEAST_TEXTURE;
      const h = hs + <usize>p * 12;
      store<f32>(h, tells ? (yy + more) / det : 0);
      store<f32>(h + 4, tells ? -xy / det : 0);
      store<f32>(h + 8, tells ? (xx + more) / det : 0);
      const middle =
        (<usize>(
          (min<i32>(height - 1, py + PATCH / 2) * stride + min<i32>(width - 1, px + PATCH / 2))
        )) << 2;
      let fromU = valueAt(startU + middle);
      let fromV = valueAt(startV + middle);
      let best = compare(b, bytes, width, height, px, py, fromU, fromV, scratch);
      let bestX = slopeX;
      let bestY = slopeY;
      for (let side = 0; side < 2; side++) {
        if (side == 0 ? i == 0 : j == 0) continue;
        const q = (<usize>(side == 0 ? p - 1 : p - nx)) << 2;
        const qu = valueAt(us + q);
        const qv = valueAt(vs + q);
        const c = compare(b, bytes, width, height, px, py, qu, qv, scratch);
        if (c < best) {
          best = c;
          bestX = slopeX;
          bestY = slopeY;
          fromU = qu;
          fromV = qv;
        }
      }
      const at = (<usize>p) << 2;
      descend(
        b,
        bytes,
        width,
        height,
        px,
        py,
        fromU,
        fromV,
        best,
        bestX,
        bestY,
        h,
        us + at,
        vs + at,
        costs + at,
        scratch,
      );
    }
  for (let j = ny - 1; j >= 0; j--)
    for (let i = nx - 1; i >= 0; i--) {
      const p = j * nx + i;
      const at = (<usize>p) << 2;
      const px = placeOf(i, width);
      const py = placeOf(j, height);
      let best = valueAt(costs + at);
      let from: usize = 0;
      let found = false;
      let bestX: f32 = 0;
      let bestY: f32 = 0;
      let loaded = false;
      for (let side = 0; side < 2; side++) {
        if (side == 0 ? i == nx - 1 : j == ny - 1) continue;
        const q = (<usize>(side == 0 ? p + 1 : p + nx)) << 2;
        const qu = valueAt(us + q);
        const qv = valueAt(vs + q);
        if (abs<f32>(qu - valueAt(us + at)) < SAME && abs<f32>(qv - valueAt(vs + at)) < SAME)
          continue;
        if (!loaded) take(a + <usize>py * bytes + ((<usize>px) << 2), bytes, scratch);
        loaded = true;
        const c = compare(b, bytes, width, height, px, py, qu, qv, scratch);
        if (c < best) {
          best = c;
          bestX = slopeX;
          bestY = slopeY;
          from = q;
          found = true;
        }
      }
      if (found)
        descend(
          b,
          bytes,
          width,
          height,
          px,
          py,
          valueAt(us + from),
          valueAt(vs + from),
          best,
          bestX,
          bestY,
          hs + <usize>p * 12,
          us + at,
          vs + at,
          costs + at,
          scratch,
        );
    }
  spread(a, b, bytes, width, height, stride, nx, ny, us, vs, outU, outV, hs + <usize>n * 12);
}

/**
 * For every pixel, the mean of the vectors of all patches over it, weighted by their match there.
 * `weights` is a separate plane.
 */
function spread(
  a: usize,
  b: usize,
  bytes: usize,
  width: i32,
  height: i32,
  stride: i32,
  nx: i32,
  ny: i32,
  us: usize,
  vs: usize,
  outU: usize,
  outV: usize,
  weights: usize,
): void {
  const plane = (<usize>(stride * height)) << 2;
  memory.fill(outU, 0, plane);
  memory.fill(outV, 0, plane);
  memory.fill(weights, 0, plane);
  const rowBytes = (<usize>stride) << 2;
  const one = f32x4.splat(1);
  const d = weights + plane;
  for (let j = 0; j < ny; j++)
    for (let i = 0; i < nx; i++) {
      const p = (<usize>(j * nx + i)) << 2;
      const px = placeOf(i, width);
      const py = placeOf(j, height);
      const u = valueAt(us + p);
      const v = valueAt(vs + p);
      const fx = clampF(<f32>px + u, before(1), <f32>(width - PATCH + pad - 2));
      const fy = clampF(<f32>py + v, before(1), <f32>(height - PATCH + pad - 2));
      const ix = <i32>floor<f32>(fx);
      const iy = <i32>floor<f32>(fy);
      const wx = f32x4.splat(fx - <f32>ix);
      const wy = f32x4.splat(fy - <f32>iy);
      let from = b + <usize>(iy * <i32>bytes + (ix << 2));
      let own = a + <usize>py * bytes + ((<usize>px) << 2);
      let sum = f32x4.splat(0);
      for (let y = 0; y < PATCH; y++) {
        for (let x: usize = 0; x < 32; x += 16) {
          const o = from + x;
          const t = v128.load(o);
          const l = v128.load(o + bytes);
          const top = f32x4.add(t, f32x4.mul(f32x4.sub(v128.load(o + 4), t), wx));
          const low = f32x4.add(l, f32x4.mul(f32x4.sub(v128.load(o + bytes + 4), l), wx));
          const off = f32x4.sub(
            f32x4.add(top, f32x4.mul(f32x4.sub(low, top), wy)),
            v128.load(own + x),
          );
          v128.store(d + ((<usize>y * 8) << 2) + x, off);
          sum = f32x4.add(sum, off);
        }
        from += bytes;
        own += bytes;
      }
      const mean = f32x4.splat(total(sum) / 64);
      const vu = f32x4.splat(u);
      const vv = f32x4.splat(v);
      let o = (<usize>(py * stride + px)) << 2;
      for (let y = 0; y < PATCH; y++) {
        for (let x: usize = 0; x < 32; x += 16) {
          const off = f32x4.sub(v128.load(d + ((<usize>y * 8) << 2) + x), mean);
          const w = f32x4.div(one, f32x4.max(one, f32x4.mul(off, off)));
          const at = o + x;
          v128.store(outU + at, f32x4.add(v128.load(outU + at), f32x4.mul(w, vu)));
          v128.store(outV + at, f32x4.add(v128.load(outV + at), f32x4.mul(w, vv)));
          v128.store(weights + at, f32x4.add(v128.load(weights + at), w));
        }
        o += rowBytes;
      }
    }
  const least = f32x4.splat(1e-20);
  for (let o: usize = 0; o < plane; o += 16) {
    const w = f32x4.max(v128.load(weights + o), least);
    v128.store(outU + o, f32x4.div(v128.load(outU + o), w));
    v128.store(outV + o, f32x4.div(v128.load(outV + o), w));
  }
}
