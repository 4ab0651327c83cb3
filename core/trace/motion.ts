/**
 * Dense motion vectors from one frame to another, coarse to fine: patch search (Kroeger et al.,
 * *Fast Optical Flow using Dense Inverse Search*, 2016) followed by variational refinement (Brox et
 * al., 2004); both in WebAssembly (`core/trace/source/motion.ts`).
 */
import { type Luma, type Padded, padded, pyramid } from './luma';
import { laid, rowLength, taken, withRoom } from './machine';
import type { Vectors } from './vectors';

/** Fewest pixels on the shorter side of the coarsest level. */
const COARSEST = 16;
/** Anything smaller than a patch has no motion. */
const PATCH = 8,
  STRIDE = 4;
/**
 * Smoothness, gradient constancy, brightness constancy; number of weight updates, and of sweeps per
 * update.
 */
const REFINING = [40, 10, 0.5, 3, 5] as const;

/** A frame with everything its comparisons need, computed once. */
export interface Tracked {
  readonly levels: readonly { readonly luma: Luma; readonly padded: Padded }[];
}
/** A frame prepared for motion measurement. */
export const tracked = (luma: Luma): Tracked => ({
  levels: pyramid(luma, COARSEST).map((l) => ({ luma: l, padded: padded(l) })),
});

const patchesAlong = (size: number): number => Math.ceil((size - PATCH) / STRIDE) + 1;

/** Memory for the largest level of frames, with the addresses of its blocks. */
function prepared({ levels }: Tracked) {
  const { luma, padded } = levels[0]!;
  const plane = 4 * rowLength(luma.width) * (luma.height + 2),
    patches = patchesAlong(luma.width) * patchesAlong(luma.height);
  return withRoom({
    a: 4 * padded.data.length,
    b: 4 * padded.data.length,
    own: plane,
    startU: plane,
    startV: plane,
    u: plane,
    v: plane,
    work: Math.max(20 * plane, 24 * patches + 2 * plane) + 4096,
  });
}
const hasMotion = ({ levels }: Tracked): boolean =>
  Math.min(levels[0]!.luma.width, levels[0]!.luma.height) >= PATCH;

/**
 * For each pixel of `a` its motion to `b`, in pixels; both of one size. In frames smaller than a
 * patch everything stays in place.
 */
export function motionBetween(a: Tracked, b: Tracked): Vectors {
  const { width: W, height: H } = a.levels[0]!.luma;
  if (!hasMotion(a))
    return { width: W, height: H, u: new Float32Array(W * H), v: new Float32Array(W * H) };
  const { kernels, at, floats } = prepared(a);
  let last: { readonly width: number; readonly height: number; readonly row: number } | undefined;
  for (let level = a.levels.length - 1; level >= 0; level--) {
    const from = a.levels[level]!,
      to = b.levels[level]!;
    const { width, height, data } = from.luma,
      { stride } = from.padded;
    const row = rowLength(width),
      size = row * (height + 2);
    // A row of zeros before the first.
    const first = (plane: number): number => plane + 4 * row;
    floats.set(from.padded.data, at.a / 4);
    floats.set(to.padded.data, at.b / 4);
    for (const plane of [at.own, at.startU, at.startV]) floats.fill(0, plane / 4, plane / 4 + size);
    laid(floats, first(at.own), data, width);
    if (last)
      for (const [coarse, fine] of [
        [at.u, at.startU],
        [at.v, at.startV],
      ] as const)
        kernels.doubled(
          coarse + 4 * last.row,
          last.width,
          last.height,
          last.row,
          width,
          height,
          row,
          first(fine),
        );
    for (const plane of [at.u, at.v]) floats.fill(0, plane / 4, plane / 4 + size);
    const [pa, pb] = [at.a + 4 * from.padded.at, at.b + 4 * to.padded.at];
    const [nx, ny] = [patchesAlong(width), patchesAlong(height)];
    kernels.searchPatches(
      pa,
      pb,
      stride,
      width,
      height,
      first(at.startU),
      first(at.startV),
      row,
      nx,
      ny,
      first(at.u),
      first(at.v),
      at.work,
    );
    kernels.refine(
      first(at.own),
      pb,
      stride,
      width,
      height,
      first(at.u),
      first(at.v),
      row,
      ...REFINING,
      at.work,
    );
    last = { width, height, row };
  }
  const [u, v] = [at.u, at.v].map((plane) => taken(floats, plane + 4 * rowLength(W), W, H)) as [
    Float32Array,
    Float32Array,
  ];
  return { width: W, height: H, u, v };
}

/**
 * Doubt in each vector from a frame to another (0 trusted … 1 not), from the vectors back and from
 * the difference of what they connect.
 */
export function doubtsOf(from: Tracked, to: Tracked, there: Vectors, back: Vectors): Float32Array {
  const { width, height } = there;
  if (!hasMotion(from)) return new Float32Array(width * height).fill(1);
  const { kernels, at, floats } = prepared(from);
  const row = rowLength(width),
    { stride, data, at: first } = to.levels[0]!.padded;
  for (const plane of [at.own, at.u, at.v, at.startU, at.startV])
    floats.fill(0, plane / 4, plane / 4 + row * (height + 2));
  floats.set(data, at.b / 4);
  laid(floats, at.own, from.levels[0]!.luma.data, width);
  for (const [plane, f] of [
    [at.u, there.u],
    [at.v, there.v],
    [at.startU, back.u],
    [at.startV, back.v],
  ] as const)
    laid(floats, plane, f, width);
  // Doubts are written over the patches' padded frame, which is not needed here.
  kernels.doubts(
    at.own,
    at.b + 4 * first,
    stride,
    width,
    height,
    at.u,
    at.v,
    at.startU,
    at.startV,
    row,
    at.a,
    at.work,
  );
  return taken(floats, at.a, width, height);
}
