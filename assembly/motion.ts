/**
 * Motion between two planes of luma, in WebAssembly: `core/trace` calls it, `npm run assembly` compiles it into
 * `core/trace/motion-wasm.ts`. AssemblyScript; planes are f32, named by the address of their first pixel, rows `stride`
 * pixels apart. Everything is in single precision and in one order, so the same bits come out on every machine.
 */

const PATCH: i32 = 8;
const STRIDE: i32 = 4;
const MOST_STEPS: i32 = 8;
/** A step smaller than this (pixels, squared) is the last. */
const SMALL_STEP: f32 = 0.0036;
/** Vectors no further apart than this (pixels) begin the same search. */
const SAME: f32 = 0.05;
/** A patch whose gradients tell less than this says nothing of where it went. */
const LEAST_TEXTURE: f32 = 40;

/** How far padded planes go on beyond their edges, in pixels. */
let pad: i32 = 0;
export function setPad(pixels: i32): void {
  pad = pixels;
}

function valueAt(at: usize): f32 {
  return load<f32>(at);
}

/** The first place that can be read, but for so many pixels. */
function before(pixels: i32): f32 {
  const at: i32 = pixels - pad;
  return <f32>at;
}

let sumX: f32 = 0;
let sumY: f32 = 0;
let slopeX: f32 = 0;
let slopeY: f32 = 0;

function total(v: v128): f32 {
  return f32x4.extract_lane(v, 0) + f32x4.extract_lane(v, 1) + (f32x4.extract_lane(v, 2) + f32x4.extract_lane(v, 3));
}
function clampF(x: f32, least: f32, most: f32): f32 {
  return max<f32>(least, min<f32>(most, x));
}

/** A patch and its gradients into scratch: 64 values, 64 slopes across, 64 down. `from` is its first pixel. */
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

/** The patch's cost where it is moved to, but for a common brightness; leaves its slopes. */
function compare(b: usize, strideB: usize, width: i32, height: i32, px: i32, py: i32, du: f32, dv: f32, scratch: usize): f32 {
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
      f32x4.add(f32x4.add(f32x4.mul(u0, w00), f32x4.mul(u1, w10)), f32x4.add(f32x4.mul(l0, w01), f32x4.mul(l1, w11))),
      v128.load(own),
    );
    const d1 = f32x4.sub(
      f32x4.add(f32x4.add(f32x4.mul(u2, w00), f32x4.mul(u3, w10)), f32x4.add(f32x4.mul(l2, w01), f32x4.mul(l3, w11))),
      v128.load(own + 16),
    );
    sum = f32x4.add(sum, f32x4.add(d0, d1));
    squares = f32x4.add(squares, f32x4.add(f32x4.mul(d0, d0), f32x4.mul(d1, d1)));
    sx = f32x4.add(sx, f32x4.add(f32x4.mul(v128.load(own + 256), d0), f32x4.mul(v128.load(own + 272), d1)));
    sy = f32x4.add(sy, f32x4.add(f32x4.mul(v128.load(own + 512), d0), f32x4.mul(v128.load(own + 528), d1)));
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

/** Moves a patch by Gauss and Newton from a vector on, whose cost and slopes are known; leaves its vector and its cost. */
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
      // Without a bound a flash would carry patches away.
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
 * Finds where patches of `a` lie in `b` (both padded, `width`×`height`), beginning with the vectors at `startU`, `startV`
 * (rows `stride` pixels apart), and spreads them over all pixels into `outU`, `outV` by how well each fits there.
 * Kroeger et al., *Fast Optical Flow using Dense Inverse Search*, 2016. `work` needs 6·nx·ny values and 192 more, then
 * three planes.
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
      // A little more on the diagonal: along an edge nothing is told, and nothing is moved.
      const more: f32 = 1 + 0.005 * (xx + yy);
      const det = (xx + more) * (yy + more) - xy * xy;
      const tells = xx + yy > LEAST_TEXTURE;
      const h = hs + <usize>p * 12;
      store<f32>(h, tells ? (yy + more) / det : 0);
      store<f32>(h + 4, tells ? -xy / det : 0);
      store<f32>(h + 8, tells ? (xx + more) / det : 0);
      const middle = (<usize>(min<i32>(height - 1, py + PATCH / 2) * stride + min<i32>(width - 1, px + PATCH / 2))) << 2;
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
      descend(b, bytes, width, height, px, py, fromU, fromV, best, bestX, bestY, h, us + at, vs + at, costs + at, scratch);
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
        if (abs<f32>(qu - valueAt(us + at)) < SAME && abs<f32>(qv - valueAt(vs + at)) < SAME) continue;
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

/** To all pixels: what the patches over each say, by how well each fits there. `weights` is a plane of its own. */
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
          const off = f32x4.sub(f32x4.add(top, f32x4.mul(f32x4.sub(low, top), wy)), v128.load(own + x));
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

const OMEGA: f32 = 1.6;
/** Keeps a pixel without slope and neighbours where it is. */
const LEAST: f32 = 1e-6;
const EPSILON: f32 = 1e-6;
/** Keeps flat places from being normalised into noise; of gradients of 0…255. */
const ZETA: f32 = 0.01;

/** `b` (padded) read where vectors lead from each pixel. */
export function readAt(b: usize, paddedStride: i32, width: i32, height: i32, u: usize, v: usize, stride: i32, out: usize): void {
  const bytes = (<usize>paddedStride) << 2;
  const least = before(2);
  const farX = <f32>(width + pad - 3);
  const farY = <f32>(height + pad - 3);
  for (let y = 0; y < height; y++) {
    let o = (<usize>(y * stride)) << 2;
    for (let x = 0; x < width; x++, o += 4) {
      const fx = clampF(<f32>x + valueAt(u + o), least, farX);
      const fy = clampF(<f32>y + valueAt(v + o), least, farY);
      const ix = <i32>floor<f32>(fx);
      const iy = <i32>floor<f32>(fy);
      const i = b + <usize>(iy * <i32>bytes + (ix << 2));
      const wx = fx - <f32>ix;
      const t = valueAt(i);
      const l = valueAt(i + bytes);
      const top = t + (valueAt(i + 4) - t) * wx;
      const low = l + (valueAt(i + bytes + 4) - l) * wx;
      store<f32>(out + o, top + (low - top) * (fy - <f32>iy));
    }
  }
}

/** Central differences across, edges repeated. */
function slopesX(f: usize, width: i32, height: i32, stride: i32, out: usize): void {
  const half = f32x4.splat(0.5);
  for (let y = 0; y < height; y++) {
    const row = (<usize>(y * stride)) << 2;
    const last = row + ((<usize>(width - 1)) << 2);
    for (let o = row + 4; o < last; o += 16) v128.store(out + o, f32x4.mul(f32x4.sub(v128.load(f + o + 4), v128.load(f + o - 4)), half));
    store<f32>(out + row, (valueAt(f + row + 4) - valueAt(f + row)) * 0.5);
    store<f32>(out + last, (valueAt(f + last) - valueAt(f + last - 4)) * 0.5);
  }
}
/** Central differences down, edges repeated. */
function slopesY(f: usize, height: i32, stride: i32, out: usize): void {
  const half = f32x4.splat(0.5);
  const bytes = (<usize>stride) << 2;
  for (let y = 0; y < height; y++) {
    const row = <usize>y * bytes;
    const up: usize = y > 0 ? row - bytes : row;
    const down: usize = y < height - 1 ? row + bytes : row;
    for (let x: usize = 0; x < bytes; x += 16) v128.store(out + row + x, f32x4.mul(f32x4.sub(v128.load(f + down + x), v128.load(f + up + x)), half));
  }
}

/**
 * Refines vectors in place: brightness and gradients stay what they are, vectors are smooth but for their edges (Brox et
 * al., 2004), both data terms normalised by their gradients, by red-black successive over-relaxation. `a` is a plain plane,
 * `b` padded. `stride` is a multiple of four and at least `width + 4`; a row before and after `u` and `v` is nothing's.
 * `work` needs twenty planes, each with a row before and after.
 */
export function refine(
  a: usize,
  b: usize,
  paddedStride: i32,
  width: i32,
  height: i32,
  u: usize,
  v: usize,
  stride: i32,
  alpha: f32,
  gamma: f32,
  delta: f32,
  rounds: i32,
  sweeps: i32,
  work: usize,
): void {
  const bytes = (<usize>stride) << 2;
  const plane = bytes * <usize>(height + 2);
  const size = bytes * <usize>height;
  const warped = work + bytes;
  const mean = warped + plane;
  const iz = mean + plane;
  const ix = iz + plane;
  const iy = ix + plane;
  const ixz = iy + plane;
  const iyz = ixz + plane;
  const ixx = iyz + plane;
  const ixy = ixx + plane;
  const iyy = ixy + plane;
  const fu = iyy + plane;
  const fv = fu + plane;
  const a12 = fv + plane;
  const b1 = a12 + plane;
  const b2 = b1 + plane;
  const inverse1 = b2 + plane;
  const inverse2 = inverse1 + plane;
  const right = inverse2 + plane;
  const below = right + plane;
  memory.fill(work, 0, plane * 20);
  readAt(b, paddedStride, width, height, u, v, stride, warped);
  const half = f32x4.splat(0.5);
  for (let o: usize = 0; o < size; o += 16) {
    const own = v128.load(a + o);
    const other = v128.load(warped + o);
    v128.store(mean + o, f32x4.mul(f32x4.add(own, other), half));
    v128.store(iz + o, f32x4.sub(other, own));
  }
  slopesX(mean, width, height, stride, ix);
  slopesY(mean, height, stride, iy);
  slopesX(iz, width, height, stride, ixz);
  slopesY(iz, height, stride, iyz);
  slopesX(ix, width, height, stride, ixx);
  slopesY(ix, height, stride, ixy);
  slopesY(iy, height, stride, iyy);
  memory.copy(fu, u, size);
  memory.copy(fv, v, size);
  const va = f32x4.splat(alpha);
  const vg = f32x4.splat(gamma);
  const vd = f32x4.splat(delta);
  const epsilon = f32x4.splat(EPSILON);
  const zeta = f32x4.splat(ZETA);
  const one = f32x4.splat(1);
  const omega = f32x4.splat(OMEGA);
  const rest = f32x4.splat(1 - OMEGA);
  const tiny = f32x4.splat(LEAST);
  for (let round = 0; round < rounds; round++) {
    for (let y = 0; y < height; y++) {
      const row = <usize>y * bytes;
      const isLast = y == height - 1;
      const down: usize = isLast ? 0 : bytes;
      for (let x: usize = 0; x < bytes; x += 16) {
        const q = row + x;
        const cu = v128.load(u + q);
        const cv = v128.load(v + q);
        const ux = f32x4.sub(v128.load(u + q + 4), cu);
        const vx = f32x4.sub(v128.load(v + q + 4), cv);
        const uy = f32x4.sub(v128.load(u + q + down), cu);
        const vy = f32x4.sub(v128.load(v + q + down), cv);
        const squares = f32x4.add(f32x4.add(f32x4.mul(ux, ux), f32x4.mul(vx, vx)), f32x4.add(f32x4.mul(uy, uy), f32x4.mul(vy, vy)));
        const w = f32x4.div(va, f32x4.sqrt(f32x4.add(squares, epsilon)));
        v128.store(right + q, w);
        v128.store(below + q, isLast ? f32x4.splat(0) : w);
      }
      // The last column has none to its right: it counts only what differs downwards, and what lies beyond ties nothing.
      const q = row + ((<usize>(width - 1)) << 2);
      const uy = valueAt(u + q + down) - valueAt(u + q);
      const vy = valueAt(v + q + down) - valueAt(v + q);
      store<f32>(below + q, isLast ? 0 : alpha / sqrt<f32>(uy * uy + vy * vy + EPSILON));
      for (let x = (<usize>(width - 1)) << 2; x < bytes; x += 4) {
        store<f32>(right + row + x, 0);
        if (x > (<usize>(width - 1)) << 2) store<f32>(below + row + x, 0);
      }
    }
    for (let o: usize = 0; o < size; o += 16) {
      const ou = v128.load(fu + o);
      const ov = v128.load(fv + o);
      const cu = f32x4.sub(v128.load(u + o), ou);
      const cv = f32x4.sub(v128.load(v + o), ov);
      const x = v128.load(ix + o);
      const y = v128.load(iy + o);
      const z = v128.load(iz + o);
      const norm = f32x4.div(one, f32x4.add(f32x4.add(f32x4.mul(x, x), f32x4.mul(y, y)), zeta));
      const d = f32x4.add(z, f32x4.add(f32x4.mul(x, cu), f32x4.mul(y, cv)));
      const w = f32x4.div(f32x4.mul(vd, norm), f32x4.sqrt(f32x4.add(f32x4.mul(f32x4.mul(d, d), norm), epsilon)));
      const xx = v128.load(ixx + o);
      const xy = v128.load(ixy + o);
      const yy = v128.load(iyy + o);
      const xz = v128.load(ixz + o);
      const yz = v128.load(iyz + o);
      const xy2 = f32x4.mul(xy, xy);
      const nx = f32x4.div(one, f32x4.add(f32x4.add(f32x4.mul(xx, xx), xy2), zeta));
      const ny = f32x4.div(one, f32x4.add(f32x4.add(xy2, f32x4.mul(yy, yy)), zeta));
      const dx = f32x4.add(xz, f32x4.add(f32x4.mul(xx, cu), f32x4.mul(xy, cv)));
      const dy = f32x4.add(yz, f32x4.add(f32x4.mul(xy, cu), f32x4.mul(yy, cv)));
      const g = f32x4.div(vg, f32x4.sqrt(f32x4.add(f32x4.add(f32x4.mul(f32x4.mul(dx, dx), nx), f32x4.mul(f32x4.mul(dy, dy), ny)), epsilon)));
      const wx = f32x4.mul(g, nx);
      const wy = f32x4.mul(g, ny);
      const kx = f32x4.mul(w, x);
      const ky = f32x4.mul(w, y);
      const gxx = f32x4.mul(wx, xx);
      const gxy = f32x4.mul(wx, xy);
      const hxy = f32x4.mul(wy, xy);
      const hyy = f32x4.mul(wy, yy);
      const m11 = f32x4.add(f32x4.mul(kx, x), f32x4.add(f32x4.mul(gxx, xx), f32x4.mul(hxy, xy)));
      const m12 = f32x4.add(f32x4.mul(kx, y), f32x4.add(f32x4.mul(gxx, xy), f32x4.mul(hxy, yy)));
      const m22 = f32x4.add(f32x4.mul(ky, y), f32x4.add(f32x4.mul(gxy, xy), f32x4.mul(hyy, yy)));
      const ties = f32x4.add(
        f32x4.add(v128.load(right + o), v128.load(right + o - 4)),
        f32x4.add(v128.load(below + o), v128.load(below + o - bytes)),
      );
      v128.store(a12 + o, m12);
      // In whole vectors, not in what is added to those it began with.
      v128.store(
        b1 + o,
        f32x4.sub(f32x4.add(f32x4.mul(m11, ou), f32x4.mul(m12, ov)), f32x4.add(f32x4.mul(kx, z), f32x4.add(f32x4.mul(gxx, xz), f32x4.mul(hxy, yz)))),
      );
      v128.store(
        b2 + o,
        f32x4.sub(f32x4.add(f32x4.mul(m12, ou), f32x4.mul(m22, ov)), f32x4.add(f32x4.mul(ky, z), f32x4.add(f32x4.mul(gxy, xz), f32x4.mul(hyy, yz)))),
      );
      v128.store(inverse1 + o, f32x4.div(omega, f32x4.add(f32x4.add(m11, ties), tiny)));
      v128.store(inverse2 + o, f32x4.div(omega, f32x4.add(f32x4.add(m22, ties), tiny)));
    }
    for (let sweep = 0; sweep < sweeps; sweep++)
      for (let colour = 0; colour < 2; colour++)
        for (let y = 0; y < height; y++) {
          // Every other pixel changes, the rest are written as they were.
          const changes = ((y + colour) & 1) == 0 ? i32x4(-1, 0, -1, 0) : i32x4(0, -1, 0, -1);
          const row = <usize>y * bytes;
          for (let q = row; q < row + bytes; q += 16) {
            const wr = v128.load(right + q);
            const wl = v128.load(right + q - 4);
            const wd = v128.load(below + q);
            const wu = v128.load(below + q - bytes);
            const m12 = v128.load(a12 + q);
            const cu = v128.load(u + q);
            const cv = v128.load(v + q);
            const su = f32x4.add(
              f32x4.add(f32x4.mul(wr, v128.load(u + q + 4)), f32x4.mul(wl, v128.load(u + q - 4))),
              f32x4.add(f32x4.mul(wd, v128.load(u + q + bytes)), f32x4.mul(wu, v128.load(u + q - bytes))),
            );
            const nu = v128.bitselect(
              f32x4.add(f32x4.mul(rest, cu), f32x4.mul(v128.load(inverse1 + q), f32x4.add(f32x4.sub(v128.load(b1 + q), f32x4.mul(m12, cv)), su))),
              cu,
              changes,
            );
            v128.store(u + q, nu);
            const sv = f32x4.add(
              f32x4.add(f32x4.mul(wr, v128.load(v + q + 4)), f32x4.mul(wl, v128.load(v + q - 4))),
              f32x4.add(f32x4.mul(wd, v128.load(v + q + bytes)), f32x4.mul(wu, v128.load(v + q - bytes))),
            );
            v128.store(
              v + q,
              v128.bitselect(
                f32x4.add(f32x4.mul(rest, cv), f32x4.mul(v128.load(inverse2 + q), f32x4.add(f32x4.sub(v128.load(b2 + q), f32x4.mul(m12, nu)), sv))),
                cv,
                changes,
              ),
            );
          }
        }
  }
}

/** Vectors twice as large, and twice as long: from rows `from` apart to rows `stride` apart. */
export function doubled(u: usize, width: i32, height: i32, from: i32, w: i32, h: i32, stride: i32, out: usize): void {
  for (let y = 0; y < h; y++) {
    const fy = clampF(<f32>y * 0.5 - 0.25, 0, <f32>(height - 1));
    const y0 = <i32>fy;
    const wy = fy - <f32>y0;
    const upper = u + ((<usize>(y0 * from)) << 2);
    const lower = u + ((<usize>(min<i32>(height - 1, y0 + 1) * from)) << 2);
    let o = out + ((<usize>(y * stride)) << 2);
    for (let x = 0; x < w; x++, o += 4) {
      const fx = clampF(<f32>x * 0.5 - 0.25, 0, <f32>(width - 1));
      const x0 = <i32>fx;
      const x1 = min<i32>(width - 1, x0 + 1);
      const wx = fx - <f32>x0;
      const a = (<usize>x0) << 2;
      const b = (<usize>x1) << 2;
      const top = valueAt(upper + a) * (1 - wx) + valueAt(upper + b) * wx;
      const low = valueAt(lower + a) * (1 - wx) + valueAt(lower + b) * wx;
      store<f32>(o, 2 * (top * (1 - wy) + low * wy));
    }
  }
}

/** Means over squares of 2r + 1 pixels, edges repeated: running sums along rows, then row by row down. `across` is a plane, `sums` a row. */
function boxed(f: usize, width: i32, height: i32, stride: i32, r: i32, out: usize, across: usize, sums: usize): void {
  const bytes = (<usize>stride) << 2;
  const count: i32 = 2 * r + 1;
  const share: f32 = 1 / <f32>count;
  const last = width - 1;
  for (let y = 0; y < height; y++) {
    const row = f + <usize>y * bytes;
    const to = across + <usize>y * bytes;
    let sum: f32 = <f32>r * valueAt(row);
    for (let i = 0; i <= r; i++) sum += valueAt(row + ((<usize>min<i32>(i, last)) << 2));
    for (let x = 0; x < width; x++) {
      store<f32>(to + ((<usize>x) << 2), sum * share);
      sum += valueAt(row + ((<usize>min<i32>(x + r + 1, last)) << 2)) - valueAt(row + ((<usize>max<i32>(x - r, 0)) << 2));
    }
  }
  memory.fill(sums, 0, bytes);
  for (let i = -r; i <= r; i++) {
    const row = across + <usize>max<i32>(0, min<i32>(height - 1, i)) * bytes;
    for (let x: usize = 0; x < bytes; x += 16) v128.store(sums + x, f32x4.add(v128.load(sums + x), v128.load(row + x)));
  }
  const shares = f32x4.splat(share);
  for (let y = 0; y < height; y++) {
    const enters = across + <usize>min<i32>(height - 1, y + r + 1) * bytes;
    const leaves = across + <usize>max<i32>(0, y - r) * bytes;
    const to = out + <usize>y * bytes;
    for (let x: usize = 0; x < bytes; x += 16) {
      const sum = v128.load(sums + x);
      v128.store(to + x, f32x4.mul(sum, shares));
      v128.store(sums + x, f32x4.add(sum, f32x4.sub(v128.load(enters + x), v128.load(leaves + x))));
    }
  }
}

/** About e to the power −q, by eight factors: the same on every machine, and quick. */
function falloff(q: f32): f32 {
  const a: f32 = 1 + q * 0.125;
  const b = a * a;
  const c = b * b;
  return 1 / (c * c);
}
/** A bilinear reading of a plane of vectors, edges repeated. */
function reading(f: usize, width: i32, height: i32, bytes: usize, x: f32, y: f32): f32 {
  const fx = clampF(x, 0, <f32>(width - 1));
  const fy = clampF(y, 0, <f32>(height - 1));
  const x0 = <i32>fx;
  const y0 = <i32>fy;
  const wx = fx - <f32>x0;
  const left = (<usize>x0) << 2;
  const right = (<usize>min<i32>(width - 1, x0 + 1)) << 2;
  const upper = f + <usize>y0 * bytes;
  const lower = f + <usize>min<i32>(height - 1, y0 + 1) * bytes;
  const top = valueAt(upper + left) + (valueAt(upper + right) - valueAt(upper + left)) * wx;
  const low = valueAt(lower + left) + (valueAt(lower + right) - valueAt(lower + left)) * wx;
  return top + (low - top) * (fy - <f32>y0);
}

/** A place that does not come back to within so many pixels, and so large a share of its way, is not believed. */
const RETURNS: f32 = 0.6;
const RETURNS_SHARE: f32 = 0.06;
/** What differs by so much (of 255, after a common brightness) does not fit. */
const FITS: f32 = 12;
/** Where light itself changes by so much (of 255, over some pixels) nothing is told of where things went. */
const FLASH: f32 = 14;
const FLASH_REACH: i32 = 6;

/**
 * How far vectors there (`u`, `v`) and back (`backU`, `backV`) disagree, and how badly what they join fits: 0 believed … 1
 * not, into `out`. `a` is a plain plane, `b` padded; `work` needs six planes.
 */
export function doubts(
  a: usize,
  b: usize,
  paddedStride: i32,
  width: i32,
  height: i32,
  u: usize,
  v: usize,
  backU: usize,
  backV: usize,
  stride: i32,
  out: usize,
  work: usize,
): void {
  const bytes = (<usize>stride) << 2;
  const plane = bytes * <usize>height;
  const off = work;
  const mean = off + plane;
  const misfit = mean + plane;
  const flash = misfit + plane;
  const across = flash + plane;
  const sums = across + plane;
  memory.fill(work, 0, plane * 5 + bytes);
  readAt(b, paddedStride, width, height, u, v, stride, off);
  for (let o: usize = 0; o < plane; o += 16) v128.store(off + o, f32x4.sub(v128.load(off + o), v128.load(a + o)));
  boxed(off, width, height, stride, 2, mean, across, sums);
  boxed(off, width, height, stride, FLASH_REACH, flash, across, sums);
  for (let o: usize = 0; o < plane; o += 16) {
    const apart = f32x4.sub(v128.load(off + o), v128.load(mean + o));
    v128.store(off + o, f32x4.mul(apart, apart));
  }
  boxed(off, width, height, stride, 2, misfit, across, sums);
  for (let y = 0; y < height; y++) {
    let o = <usize>y * bytes;
    for (let x = 0; x < width; x++, o += 4) {
      const du = valueAt(u + o);
      const dv = valueAt(v + o);
      const ru = du + reading(backU, width, height, bytes, <f32>x + du, <f32>y + dv);
      const rv = dv + reading(backV, width, height, bytes, <f32>x + du, <f32>y + dv);
      const way = RETURNS + RETURNS_SHARE * sqrt<f32>(du * du + dv * dv);
      const light = valueAt(flash + o);
      const steady = falloff((light * light) / (FLASH * FLASH));
      const returns = falloff((ru * ru + rv * rv) / (way * way));
      const fits = falloff(valueAt(misfit + o) / (FITS * FITS));
      store<f32>(out + o, 1 - steady * returns * (0.25 + 0.75 * fits));
    }
  }
}

/** Vectors carried to where they are at a moment: of several that come to one place, those that fit best. `cost` is infinite where none does. */
function carried(
  u: usize,
  v: usize,
  doubt: usize,
  width: i32,
  height: i32,
  stride: i32,
  share: f32,
  sign: f32,
  outU: usize,
  outV: usize,
  cost: usize,
): void {
  const bytes = (<usize>stride) << 2;
  const none = f32x4.splat(Infinity);
  for (let o: usize = 0; o < bytes * <usize>height; o += 16) v128.store(cost + o, none);
  for (let y = 0; y < height; y++) {
    let o = <usize>y * bytes;
    for (let x = 0; x < width; x++, o += 4) {
      const vu = valueAt(u + o);
      const vv = valueAt(v + o);
      const own = valueAt(doubt + o);
      const tx = <f32>x + share * vu;
      const ty = <f32>y + share * vv;
      const x0 = <i32>floor<f32>(tx);
      const y0 = <i32>floor<f32>(ty);
      for (let dy = 0; dy < 2; dy++) {
        const row = y0 + dy;
        if (row < 0 || row >= height) continue;
        const farY = abs<f32>(ty - <f32>row);
        for (let dx = 0; dx < 2; dx++) {
          const column = x0 + dx;
          if (column < 0 || column >= width) continue;
          const c = own + <f32>0.05 * (abs<f32>(tx - <f32>column) + farY);
          const q = (<usize>(row * stride + column)) << 2;
          if (c >= valueAt(cost + q)) continue;
          store<f32>(cost + q, c);
          store<f32>(outU + q, sign * vu);
          store<f32>(outV + q, sign * vv);
        }
      }
    }
  }
}

/** How much both frames count where neither hides anything. */
const EVEN: f32 = 0.05;
/** From a doubt to being hidden: a little of it is only noise. */
function hidden(doubt: f32): f32 {
  return clampF((doubt - <f32>0.5) / <f32>0.4, 0, 1);
}

/**
 * What is at a share of the way between two frames, from vectors both ways and their doubts: how far what lies there moves
 * (`outU`, `outV`), the second frame's share (`second`), how far all of it is believed (`sure`). `work` needs eleven planes.
 */
export function between(
  u: usize,
  v: usize,
  backU: usize,
  backV: usize,
  doubtFirst: usize,
  doubtSecond: usize,
  width: i32,
  height: i32,
  stride: i32,
  share: f32,
  outU: usize,
  outV: usize,
  second: usize,
  sure: usize,
  work: usize,
): void {
  const bytes = (<usize>stride) << 2;
  const plane = bytes * <usize>height;
  const u1 = work;
  const v1 = u1 + plane;
  const c1 = v1 + plane;
  const u2 = c1 + plane;
  const v2 = u2 + plane;
  const c2 = v2 + plane;
  const across = c2 + plane;
  const sums = across + plane;
  memory.fill(work, 0, plane * 7 + bytes);
  const rest: f32 = <f32>1 - share;
  carried(u, v, doubtFirst, width, height, stride, share, 1, u1, v1, c1);
  carried(backU, backV, doubtSecond, width, height, stride, rest, -1, u2, v2, c2);
  for (let y = 0; y < height; y++) {
    let o = <usize>y * bytes;
    for (let x = 0; x < width; x++, o += 4) {
      const first = valueAt(c1 + o);
      const other = valueAt(c2 + o);
      if (first != Infinity && first <= other) continue;
      if (other != Infinity) {
        store<f32>(u1 + o, valueAt(u2 + o));
        store<f32>(v1 + o, valueAt(v2 + o));
        continue;
      }
      // Nothing was carried here: what merely lies here in one of the frames.
      const isFirst = valueAt(doubtFirst + o) <= valueAt(doubtSecond + o);
      store<f32>(u1 + o, isFirst ? valueAt(u + o) : -valueAt(backU + o));
      store<f32>(v1 + o, isFirst ? valueAt(v + o) : -valueAt(backV + o));
    }
  }
  boxed(u1, width, height, stride, 1, outU, across, sums);
  boxed(v1, width, height, stride, 1, outV, across, sums);
  for (let y = 0; y < height; y++) {
    let o = <usize>y * bytes;
    for (let x = 0; x < width; x++, o += 4) {
      const cu = valueAt(outU + o);
      const cv = valueAt(outV + o);
      const inFirst = reading(doubtFirst, width, height, bytes, <f32>x - share * cu, <f32>y - share * cv);
      const inSecond = reading(doubtSecond, width, height, bytes, <f32>x + rest * cu, <f32>y + rest * cv);
      // What is hidden in the other frame is seen in its own alone.
      const a = hidden(inFirst);
      const b = hidden(inSecond);
      const wa = rest * (a * (<f32>1 - b) + EVEN);
      const wb = share * (b * (<f32>1 - a) + EVEN);
      store<f32>(u1 + o, wb / (wa + wb));
      store<f32>(v1 + o, <f32>1 - inFirst * inSecond);
    }
  }
  boxed(u1, width, height, stride, 1, second, across, sums);
  boxed(v1, width, height, stride, 1, sure, across, sums);
}
