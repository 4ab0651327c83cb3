const LEAST = 1e-9;

/** Corners of a closed outline, in shares of the picture's width and height. */
export type Outline = readonly (readonly [number, number])[];

/**
 * Coverage of each pixel by closed outlines (non-zero winding; overlapping areas count once). Each
 * edge adds its signed area to the pixels it crosses; a running sum along each row gives the
 * winding.
 */
export function filled(outlines: readonly Outline[], width: number, height: number): Float32Array {
  const sums = new Float64Array((width + 2) * height);
  const stride = width + 2;
  const edge = (x0: number, y0: number, x1: number, y1: number): void => {
    if (y0 === y1) return;
    const sign = y0 < y1 ? 1 : -1;
    if (sign < 0) [x0, y0, x1, y1] = [x1, y1, x0, y0];
    const slope = (x1 - x0) / (y1 - y0);
    const from = Math.max(0, y0),
      to = Math.min(height, y1);
    for (let y = Math.floor(from); y < to; y++) {
      const ya = Math.max(from, y),
        yb = Math.min(to, y + 1);
      if (yb <= ya) continue;
      band(y * stride, x0 + (ya - y0) * slope, x0 + (yb - y0) * slope, (yb - ya) * sign);
    }
  };
  /** Within one row: the area to the right of an edge piece from `xa` to `xb` of height `tall`. */
  const band = (row: number, xa: number, xb: number, tall: number): void => {
    const [l, r] = xa < xb ? [xa, xb] : [xb, xa];
    if (l >= width) return;
    if (l < 0) {
      const off = r <= 0 ? tall : (tall * -l) / (r - l);
      sums[row]! += off;
      if (r > 0) band(row, 0, r, tall - off);
      return;
    }
    if (r > width) return band(row, l, width, tall * ((width - l) / (r - l)));
    const first = Math.floor(l),
      last = Math.floor(r);
    if (first === last) {
      const cover = tall * (first + 1 - (l + r) / 2);
      sums[row + first]! += cover;
      sums[row + first + 1]! += tall - cover;
      return;
    }
    // A pixel's covered share is the mean distance to the edge piece within it.
    const per = tall / (r - l);
    let before = 0;
    for (let x = first; x <= last; x++) {
      const a = Math.max(l, x),
        b = Math.min(r, x + 1);
      const share = per * ((b - a) * (x + 1 - (a + b) / 2) + Math.max(0, Math.min(r, x) - l));
      sums[row + x]! += share - before;
      before = share;
    }
    sums[row + last + 1]! += tall - before;
  };
  for (const outline of outlines)
    outline.forEach(([ax, ay], i) => {
      const [bx, by] = outline[(i + 1) % outline.length]!;
      edge(ax * width, ay * height, bx * width, by * height);
    });
  const cover = new Float32Array(width * height);
  for (let y = 0; y < height; y++) {
    let sum = 0;
    for (let x = 0; x < width; x++) {
      sum += sums[y * stride + x]!;
      // Rounding residue counts as nothing.
      const share = Math.abs(sum);
      cover[y * width + x] = share < LEAST ? 0 : Math.min(1, share);
    }
  }
  return cover;
}
