/**
 * Interpolation between two frames: for each place its positions in both, and the confidence in
 * each.
 */
import { laid, rowLength, taken, withRoom } from './machine';
import { doubtsOf, type Tracked } from './motion';
import type { Vectors } from './vectors';

/** Vectors of a picture between two frames, in pixels of the vectors' own size. */
export interface Between {
  readonly width: number;
  readonly height: number;
  /** Motion of each place from the first frame to the second. */
  readonly u: Float32Array;
  readonly v: Float32Array;
  /** Weight of the second frame, 0…1. */
  readonly second: Float32Array;
  /** Confidence, 0…1. Where it is 0 the frames are mixed without motion. */
  readonly sure: Float32Array;
}
/** Vectors in both directions between two frames, with the doubt in each (0 trusted … 1 not). */
export interface Pair {
  readonly forward: Vectors;
  readonly backward: Vectors;
  readonly doubtFirst: Float32Array;
  readonly doubtSecond: Float32Array;
}
/** Vectors in both directions with their doubts. */
export function paired(first: Tracked, second: Tracked, forward: Vectors, backward: Vectors): Pair {
  const doubtFirst = doubtsOf(first, second, forward, backward),
    doubtSecond = doubtsOf(second, first, backward, forward);
  return {
    forward: filled(forward, doubtFirst),
    backward: filled(backward, doubtSecond),
    doubtFirst,
    doubtSecond,
  };
}

/**
 * Places with more doubt than the first get their vectors from others; places with less than the
 * second provide them.
 */
const HIDDEN = 0.9,
  TELLS = 0.3;
/** Reach of such vectors, in pixels. */
const TELLS_WITHIN = 32;

/** The median of those numbers of a plane that count. */
function median(f: Float32Array, counts: (o: number) => boolean): number {
  const some: number[] = [];
  // A sample of a few thousand is enough.
  const step = Math.max(1, Math.floor(f.length / 8191));
  for (let o = 0; o < f.length; o += step) if (counts(o)) some.push(f[o]!);
  return some.sort((a, b) => a - b)[some.length >> 1] ?? 0;
}

/**
 * Gives places hidden in the other frame the vectors of their surroundings. Where two surfaces
 * meet, the hidden one is the one behind; it is taken to be the one whose motion is closer to the
 * picture's main motion.
 */
function filled({ width, height, u, v }: Vectors, doubts: Float32Array): Vectors {
  const tells = (o: number): boolean => doubts[o]! < TELLS;
  const [mu, mv] = [median(u, tells), median(v, tells)];
  const outU = u.slice(),
    outV = v.slice(),
    apart = new Float32Array(u.length).fill(Infinity);
  const walk = (first: number, step: number, count: number): void => {
    let from = -1,
      since = 0;
    for (let i = 0, o = first; i < count; i++, o += step) {
      if (tells(o)) {
        from = o;
        since = 0;
        continue;
      }
      since++;
      if (from < 0 || since > TELLS_WITHIN || doubts[o]! < HIDDEN) continue;
      const far = Math.abs(u[from]! - mu) + Math.abs(v[from]! - mv) + 0.02 * since;
      if (far >= apart[o]!) continue;
      apart[o] = far;
      outU[o] = u[from]!;
      outV[o] = v[from]!;
    }
  };
  for (let y = 0; y < height; y++) {
    walk(y * width, 1, width);
    walk((y + 1) * width - 1, -1, width);
  }
  for (let x = 0; x < width; x++) {
    walk(x, width, height);
    walk((height - 1) * width + x, -width, height);
  }
  return { width, height, u: outU, v: outV };
}

/** Vectors at a share of the way between two frames (0 the first, 1 the second). */
export function between(
  { forward, backward, doubtFirst, doubtSecond }: Pair,
  share: number,
): Between {
  const { width, height } = forward,
    row = rowLength(width),
    plane = 4 * row * height;
  const { kernels, at, floats } = withRoom({
    u: plane,
    v: plane,
    backU: plane,
    backV: plane,
    first: plane,
    second: plane,
    outU: plane,
    outV: plane,
    share: plane,
    sure: plane,
    work: 11 * plane,
  });
  for (const [to, from] of [
    [at.u, forward.u],
    [at.v, forward.v],
    [at.backU, backward.u],
    [at.backV, backward.v],
    [at.first, doubtFirst],
    [at.second, doubtSecond],
  ] as const)
    laid(floats, to, from, width);
  const given = [at.u, at.v, at.backU, at.backV, at.first, at.second, width, height, row];
  kernels.between(...given, share, at.outU, at.outV, at.share, at.sure, at.work);
  const [u, v, second, sure] = [at.outU, at.outV, at.share, at.sure].map((p) =>
    taken(floats, p, width, height),
  ) as [Float32Array, Float32Array, Float32Array, Float32Array];
  // The square root: half-trusted vectors give a better picture than a mix does (decision 038).
  for (let o = 0; o < sure.length; o++) sure[o] = Math.sqrt(Math.max(0, sure[o]!));
  return { width, height, u, v, second, sure };
}
