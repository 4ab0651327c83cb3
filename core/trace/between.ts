/** What lies between two frames: for each place where it comes from in both, and how far either is to be believed. */
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
  return { forward: filled(forward, doubtFirst), backward: filled(backward, doubtSecond), doubtFirst, doubtSecond };
}

/** What is doubted more than this is not told by its own vector, and what is doubted less may tell it. */
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
 * Vectors of what is hidden in the other frame are those of what it lies beside. Of two surfaces that meet there the one
 * behind is hidden by the other: taken to be the one that moves more as most of the picture does.
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

/** How much both frames count where neither hides anything. */
const EVEN = 0.05;
/** From a doubt to being hidden: a little of it is only noise. */
const hidden = (d: number): number => Math.max(0, Math.min(1, (d - 0.5) / 0.4));
/** A bilinear reading of a plane of vectors, edges repeated. */
function reading({ width, height }: Vectors, f: Float32Array, x: number, y: number): number {
  const fx = Math.max(0, Math.min(width - 1, x)),
    fy = Math.max(0, Math.min(height - 1, y));
  const x0 = Math.floor(fx),
    y0 = Math.floor(fy),
    x1 = Math.min(width - 1, x0 + 1),
    y1 = Math.min(height - 1, y0 + 1),
    wx = fx - x0;
  const top = f[y0 * width + x0]! + (f[y0 * width + x1]! - f[y0 * width + x0]!) * wx,
    low = f[y1 * width + x0]! + (f[y1 * width + x1]! - f[y1 * width + x0]!) * wx;
  return top + (low - top) * (fy - y0);
}

/** Means over squares of 2r + 1 pixels, edges repeated: running sums along rows, then row by row down. */
function boxed(f: Float32Array, width: number, height: number, r: number): Float32Array {
  const across = new Float32Array(f.length),
    out = new Float32Array(f.length);
  const share = 1 / (2 * r + 1),
    last = width - 1;
  for (let y = 0, row = 0; y < height; y++, row += width) {
    let sum = r * f[row]!;
    for (let i = 0; i <= r; i++) sum += f[row + (i < last ? i : last)]!;
    for (let x = 0; x < width; x++) {
      across[row + x] = sum * share;
      const enters = x + r + 1,
        leaves = x - r;
      sum += f[row + (enters < last ? enters : last)]! - f[row + (leaves > 0 ? leaves : 0)]!;
    }
  }
  const rowAt = (y: number): number => Math.max(0, Math.min(height - 1, y)) * width;
  const sums = new Float64Array(width);
  for (let i = -r; i <= r; i++) for (let x = 0, o = rowAt(i); x < width; x++, o++) sums[x] = sums[x]! + across[o]!;
  for (let y = 0, o = 0; y < height; y++) {
    const enters = rowAt(y + r + 1),
      leaves = rowAt(y - r);
    for (let x = 0; x < width; x++, o++) {
      out[o] = sums[x]! * share;
      sums[x] = sums[x]! + across[enters + x]! - across[leaves + x]!;
    }
  }
  return out;
}

/** Vectors carried to where they are at a moment: of several that come to one place, those that fit best. */
function carried(vectors: Vectors, share: number, sign: number, doubts: Float32Array): { u: Float32Array; v: Float32Array; cost: Float32Array } {
  const { width, height } = vectors,
    n = width * height;
  const u = new Float32Array(n),
    v = new Float32Array(n),
    cost = new Float32Array(n).fill(Infinity);
  for (let y = 0, o = 0; y < height; y++)
    for (let x = 0; x < width; x++, o++) {
      const vu = vectors.u[o]!,
        vv = vectors.v[o]!;
      const tx = x + share * vu,
        ty = y + share * vv;
      const x0 = Math.floor(tx),
        y0 = Math.floor(ty);
      for (let dy = 0; dy < 2; dy++)
        for (let dx = 0; dx < 2; dx++) {
          const X = x0 + dx,
            Y = y0 + dy;
          if (X < 0 || Y < 0 || X >= width || Y >= height) continue;
          const far = Math.abs(tx - X) + Math.abs(ty - Y);
          const c = doubts[o]! + 0.05 * far,
            q = Y * width + X;
          if (c < cost[q]!) {
            cost[q] = c;
            u[q] = sign * vu;
            v[q] = sign * vv;
          }
        }
    }
  return { u, v, cost };
}

/** What is at a share of the way (0 the first frame … 1 the second) between two frames. */
export function between(pair: Pair, share: number): Between {
  const { forward, backward } = pair,
    { width, height } = forward,
    n = width * height;
  const { doubtFirst, doubtSecond } = pair;
  const fromFirst = carried(forward, share, 1, doubtFirst),
    fromSecond = carried(backward, 1 - share, -1, doubtSecond);
  const u = new Float32Array(n),
    v = new Float32Array(n);
  for (let o = 0; o < n; o++) {
    const first = fromFirst.cost[o]!,
      second = fromSecond.cost[o]!;
    if (first !== Infinity && first <= second) {
      u[o] = fromFirst.u[o]!;
      v[o] = fromFirst.v[o]!;
    } else if (second !== Infinity) {
      u[o] = fromSecond.u[o]!;
      v[o] = fromSecond.v[o]!;
    } else if (doubtFirst[o]! <= doubtSecond[o]!) {
      // Nothing was carried here: what merely lies here in one of the frames.
      u[o] = forward.u[o]!;
      v[o] = forward.v[o]!;
    } else {
      u[o] = -backward.u[o]!;
      v[o] = -backward.v[o]!;
    }
  }
  const whole = { width, height, u: boxed(u, width, height, 1), v: boxed(v, width, height, 1) };
  const seconds = new Float32Array(n),
    sure = new Float32Array(n);
  for (let y = 0, o = 0; y < height; y++)
    for (let x = 0; x < width; x++, o++) {
      const cu = whole.u[o]!,
        cv = whole.v[o]!;
      const inFirst = 1 - reading(forward, doubtFirst, x - share * cu, y - share * cv),
        inSecond = 1 - reading(forward, doubtSecond, x + (1 - share) * cu, y + (1 - share) * cv);
      // What is hidden in the other frame is seen in its own alone.
      const [a, b] = [hidden(1 - inFirst), hidden(1 - inSecond)];
      const wa = (1 - share) * (a * (1 - b) + EVEN),
        wb = share * (b * (1 - a) + EVEN);
      seconds[o] = wb / (wa + wb);
      sure[o] = 1 - (1 - inFirst) * (1 - inSecond);
    }
  return { ...whole, second: boxed(seconds, width, height, 1), sure: boxed(sure, width, height, 1) };
}
