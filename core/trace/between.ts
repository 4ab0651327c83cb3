/**
 * What lies between two frames: for each place where it comes from in both, and how far either is
 * to be believed.
 */
import { laid, rowLength, taken, withRoom } from './machine';
import { doubtsOf, type Tracked } from './motion';
import type { Vectors } from './vectors';

/** Of a picture between two frames, in pixels of the vectors' own size. */
export interface Between {
  readonly width: number;
  readonly height: number;
  /** How far what lies there moves from the first frame to the second. */
  readonly u: Float32Array;
  readonly v: Float32Array;
  /** The second frame's share, 0…1. */
  readonly second: Float32Array;
  /** 0…1: where it is 0 nothing is known, and the frames are mixed as they stand. */
  readonly sure: Float32Array;
}
/** Vectors both ways between two frames, and how far each is to be doubted (0 believed … 1 not). */
export interface Pair {
  readonly forward: Vectors;
  readonly backward: Vectors;
  readonly doubtFirst: Float32Array;
  readonly doubtSecond: Float32Array;
}
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
 * What is doubted more than this is not told by its own vector, and what is doubted less may tell
 * it.
 */
const HIDDEN = 0.9,
  TELLS = 0.3;
/** From so far away, in pixels. */
const TELLS_WITHIN = 32;

/** The middle one of a plane's numbers, of those that count. */
function median(f: Float32Array, counts: (o: number) => boolean): number {
  const some: number[] = [];
  // A few thousand tell it as well as all.
  const step = Math.max(1, Math.floor(f.length / 8191));
  for (let o = 0; o < f.length; o += step) if (counts(o)) some.push(f[o]!);
  return some.sort((a, b) => a - b)[some.length >> 1] ?? 0;
}

/**
 * Vectors of what is hidden in the other frame are those of what it lies beside. Of two surfaces
 * that meet there the one behind is hidden by the other: taken to be the one that moves more as
 * most of the picture does.
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

/** What is at a share of the way (0 the first frame … 1 the second) between two frames. */
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
  // By its root: vectors that are half believed make a better picture than a mix does (decision
  // 038).
  for (let o = 0; o < sure.length; o++) sure[o] = Math.sqrt(Math.max(0, sure[o]!));
  return { width, height, u, v, second, sure };
}
