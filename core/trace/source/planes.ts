/**
 * Planes of f32, given by the address of their first pixel; reading between pixels, and box means.
 */

/** Pixels by which padded planes extend beyond their edges. */
export let pad: i32 = 0;
/** Sets the padding. */
export function setPad(pixels: i32): void {
  pad = pixels;
}

/** The value at an address. */
export function valueAt(at: usize): f32 {
  return load<f32>(at);
}

/** The first position that can be read, plus a number of pixels. */
export function before(pixels: i32): f32 {
  const at: i32 = pixels - pad;
  return <f32>at;
}

/** The sum of four lanes. */
export function total(v: v128): f32 {
  return (
    f32x4.extract_lane(v, 0) +
    f32x4.extract_lane(v, 1) +
    (f32x4.extract_lane(v, 2) + f32x4.extract_lane(v, 3))
  );
}
/** A value clamped to least … most. */
export function clampF(x: f32, least: f32, most: f32): f32 {
  return max<f32>(least, min<f32>(most, x));
}

/** `b` (padded) read at the place that each pixel's vector points to. */
export function readAt(
  b: usize,
  paddedStride: i32,
  width: i32,
  height: i32,
  u: usize,
  v: usize,
  stride: i32,
  out: usize,
): void {
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

/** Vectors at twice the size, twice as long; from rows `from` apart to rows `stride` apart. */
export function doubled(
  u: usize,
  width: i32,
  height: i32,
  from: i32,
  w: i32,
  h: i32,
  stride: i32,
  out: usize,
): void {
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

/**
 * Means over squares of 2r + 1 pixels, edges repeated: running sums along rows, then from row to
 * row. `across` is a plane, `sums` a row.
 */
export function boxed(
  f: usize,
  width: i32,
  height: i32,
  stride: i32,
  r: i32,
  out: usize,
  across: usize,
  sums: usize,
): void {
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
      sum +=
        valueAt(row + ((<usize>min<i32>(x + r + 1, last)) << 2)) -
        valueAt(row + ((<usize>max<i32>(x - r, 0)) << 2));
    }
  }
  memory.fill(sums, 0, bytes);
  for (let i = -r; i <= r; i++) {
    const row = across + <usize>max<i32>(0, min<i32>(height - 1, i)) * bytes;
    for (let x: usize = 0; x < bytes; x += 16)
      v128.store(sums + x, f32x4.add(v128.load(sums + x), v128.load(row + x)));
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

/** A bilinear sample of a plane of vectors, edges repeated. */
export function reading(f: usize, width: i32, height: i32, bytes: usize, x: f32, y: f32): f32 {
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
