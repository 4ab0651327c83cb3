/** Doubts in vectors, and interpolation between two frames. */
import { boxed, clampF, readAt, reading, valueAt } from './planes';

/** Approximately e^−q by eight factors: fast, and the same on every machine. */
function falloff(q: f32): f32 {
  const a: f32 = 1 + q * 0.125;
  const b = a * a;
  const c = b * b;
  return 1 / (c * c);
}

/**
 * A place that does not return to within this many pixels plus this share of its way is not
 * trusted.
 */
const RETURNS: f32 = 0.6;
const RETURNS_SHARE: f32 = 0.06;
/** A difference above this (of 255, after removing a common brightness) is a mismatch. */
const FITS: f32 = 12;
/** Where light changes by more than this (of 255, over some pixels), motion cannot be told. */
const FLASH: f32 = 14;
const FLASH_REACH: i32 = 6;

/**
 * Writes the doubt in vectors (0 trusted … 1 not) to `out`: from the disagreement of vectors there
 * (`u`, `v`) and back (`backU`, `backV`), and from the mismatch of what they connect. `a` is a
 * plain plane, `b` padded; `work` needs six planes.
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
  for (let o: usize = 0; o < plane; o += 16)
    v128.store(off + o, f32x4.sub(v128.load(off + o), v128.load(a + o)));
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

/**
 * Vectors projected to a moment. If several arrive at one place, the best match wins; `cost` is
 * infinite where none does.
 */
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

/** Weight of both frames where neither hides anything. */
const EVEN: f32 = 0.05;
/** From doubt to occlusion; small doubts are noise. */
function hidden(doubt: f32): f32 {
  return clampF((doubt - <f32>0.5) / <f32>0.4, 0, 1);
}

/**
 * Interpolates at a share of the way between two frames, from vectors in both directions and their
 * doubts. Writes motion (`outU`, `outV`), the weight of the second frame (`second`) and confidence
 * (`sure`). `work` needs eleven planes.
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
      // No vector arrived here: use what lies here in one of the frames.
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
      const inFirst = reading(
        doubtFirst,
        width,
        height,
        bytes,
        <f32>x - share * cu,
        <f32>y - share * cv,
      );
      const inSecond = reading(
        doubtSecond,
        width,
        height,
        bytes,
        <f32>x + rest * cu,
        <f32>y + rest * cv,
      );
      // What is hidden in the other frame is visible in its own only.
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
