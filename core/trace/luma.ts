/** Luma planes, with padding for reads outside, and pyramids of them. */

/** Luma 0…255, rows tightly packed. */
export interface Luma {
  readonly width: number;
  readonly height: number;
  readonly data: Float32Array;
}

/** Pixels by which a padded plane repeats its edges. */
export const PAD = 16;

/** A plane with its edges repeated by `PAD` pixels. `at`: index of its first pixel. */
export interface Padded {
  readonly width: number;
  readonly height: number;
  readonly stride: number;
  readonly at: number;
  readonly data: Float32Array;
}

/** A plane with padding. */
export function padded({ width, height, data }: Luma): Padded {
  const stride = width + 2 * PAD;
  const out = new Float32Array(stride * (height + 2 * PAD));
  for (let y = -PAD; y < height + PAD; y++) {
    const from = Math.max(0, Math.min(height - 1, y)) * width,
      to = (y + PAD) * stride + PAD;
    out.fill(data[from]!, to - PAD, to);
    out.set(data.subarray(from, from + width), to);
    out.fill(data[from + width - 1]!, to + width, to + width + PAD);
  }
  return { width, height, stride, at: PAD * stride + PAD, data: out };
}

/** Half the size (rounded up) by [1 3 3 1]/8, edges repeated. */
export function halved({ width, height, data }: Luma): Luma {
  const w = Math.ceil(width / 2),
    h = Math.ceil(height / 2);
  const across = new Float32Array(w * height);
  const right = width - 1;
  for (let y = 0, to = 0; y < height; y++) {
    const o = y * width;
    for (let i = 0; i < width; i += 2, to++) {
      const before = i > 0 ? i - 1 : 0,
        next = i < right ? i + 1 : right,
        after = i + 1 < right ? i + 2 : right;
      across[to] =
        (data[o + before]! + data[o + after]!) * 0.125 + (data[o + i]! + data[o + next]!) * 0.375;
    }
  }
  const out = new Float32Array(w * h);
  const bottom = height - 1;
  for (let y = 0, to = 0; y < h; y++) {
    const j = 2 * y;
    const before = (j > 0 ? j - 1 : 0) * w,
      here = j * w,
      next = (j < bottom ? j + 1 : bottom) * w,
      after = (j + 1 < bottom ? j + 2 : bottom) * w;
    for (let x = 0; x < w; x++, to++)
      out[to] =
        (across[before + x]! + across[after + x]!) * 0.125 +
        (across[here + x]! + across[next + x]!) * 0.375;
  }
  return { width: w, height: h, data: out };
}

/** A pyramid: the plane itself, down to one of at least `least` pixels on the shorter side. */
export function pyramid(luma: Luma, least: number): Luma[] {
  const all = [luma];
  while (Math.min(all.at(-1)!.width, all.at(-1)!.height) >= 2 * least)
    all.push(halved(all.at(-1)!));
  return all;
}
