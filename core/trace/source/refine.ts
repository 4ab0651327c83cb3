/**
 * Variational refinement of vectors (Brox et al., *High Accuracy Optical Flow Estimation Based on a
 * Theory for Warping*, 2004).
 */
import { readAt, valueAt } from './planes';

const OMEGA: f32 = 1.6;
/** Keeps pixels without slope and neighbours in place. */
const LEAST: f32 = 1e-6;
const EPSILON: f32 = 1e-6;
/** Prevents flat areas from being normalised into noise; for gradients of 0…255. */
const ZETA: f32 = 0.01;

/** Central differences across, edges repeated. */
function slopesX(f: usize, width: i32, height: i32, stride: i32, out: usize): void {
  const half = f32x4.splat(0.5);
  for (let y = 0; y < height; y++) {
    const row = (<usize>(y * stride)) << 2;
    const last = row + ((<usize>(width - 1)) << 2);
    for (let o = row + 4; o < last; o += 16)
      v128.store(out + o, f32x4.mul(f32x4.sub(v128.load(f + o + 4), v128.load(f + o - 4)), half));
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
    for (let x: usize = 0; x < bytes; x += 16)
      v128.store(
        out + row + x,
        f32x4.mul(f32x4.sub(v128.load(f + down + x), v128.load(f + up + x)), half),
      );
  }
}

/**
 * Refines vectors in place: brightness and gradients stay constant along the motion, and vectors
 * are smooth except at edges (Brox et al., 2004). Both data terms are normalised by their
 * gradients. Solved by red-black successive over-relaxation. `a` is a plain plane, `b` padded.
 * `stride` is a multiple of four and at least `width + 4`; a row before and after `u` and `v` must
 * be unused. `work` needs twenty planes, each with a row before and after.
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
        const squares = f32x4.add(
          f32x4.add(f32x4.mul(ux, ux), f32x4.mul(vx, vx)),
          f32x4.add(f32x4.mul(uy, uy), f32x4.mul(vy, vy)),
        );
        const w = f32x4.div(va, f32x4.sqrt(f32x4.add(squares, epsilon)));
        v128.store(right + q, w);
        v128.store(below + q, isLast ? f32x4.splat(0) : w);
      }
      // The last column has no right neighbour: only downward differences count.
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
      const w = f32x4.div(
        f32x4.mul(vd, norm),
        f32x4.sqrt(f32x4.add(f32x4.mul(f32x4.mul(d, d), norm), epsilon)),
      );
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
      const g = f32x4.div(
        vg,
        f32x4.sqrt(
          f32x4.add(
            f32x4.add(f32x4.mul(f32x4.mul(dx, dx), nx), f32x4.mul(f32x4.mul(dy, dy), ny)),
            epsilon,
          ),
        ),
      );
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
      // As whole vectors, not as increments.
      v128.store(
        b1 + o,
        f32x4.sub(
          f32x4.add(f32x4.mul(m11, ou), f32x4.mul(m12, ov)),
          f32x4.add(f32x4.mul(kx, z), f32x4.add(f32x4.mul(gxx, xz), f32x4.mul(hxy, yz))),
        ),
      );
      v128.store(
        b2 + o,
        f32x4.sub(
          f32x4.add(f32x4.mul(m12, ou), f32x4.mul(m22, ov)),
          f32x4.add(f32x4.mul(ky, z), f32x4.add(f32x4.mul(gxy, xz), f32x4.mul(hyy, yz))),
        ),
      );
      v128.store(inverse1 + o, f32x4.div(omega, f32x4.add(f32x4.add(m11, ties), tiny)));
      v128.store(inverse2 + o, f32x4.div(omega, f32x4.add(f32x4.add(m22, ties), tiny)));
    }
    for (let sweep = 0; sweep < sweeps; sweep++)
      for (let colour = 0; colour < 2; colour++)
        for (let y = 0; y < height; y++) {
          // Every other pixel changes; the others are written back unchanged.
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
              f32x4.add(
                f32x4.mul(wd, v128.load(u + q + bytes)),
                f32x4.mul(wu, v128.load(u + q - bytes)),
              ),
            );
            const nu = v128.bitselect(
              f32x4.add(
                f32x4.mul(rest, cu),
                f32x4.mul(
                  v128.load(inverse1 + q),
                  f32x4.add(f32x4.sub(v128.load(b1 + q), f32x4.mul(m12, cv)), su),
                ),
              ),
              cu,
              changes,
            );
            v128.store(u + q, nu);
            const sv = f32x4.add(
              f32x4.add(f32x4.mul(wr, v128.load(v + q + 4)), f32x4.mul(wl, v128.load(v + q - 4))),
              f32x4.add(
                f32x4.mul(wd, v128.load(v + q + bytes)),
                f32x4.mul(wu, v128.load(v + q - bytes)),
              ),
            );
            v128.store(
              v + q,
              v128.bitselect(
                f32x4.add(
                  f32x4.mul(rest, cv),
                  f32x4.mul(
                    v128.load(inverse2 + q),
                    f32x4.add(f32x4.sub(v128.load(b2 + q), f32x4.mul(m12, nu)), sv),
                  ),
                ),
                cv,
                changes,
              ),
            );
          }
        }
  }
}
