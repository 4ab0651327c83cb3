/** What lies between two frames: for each place where it comes from in both, and how far either is to be believed. */
import type { Tracked } from './motion';
import type { Vectors } from './patch-search';
import { readAt } from './refine';

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
  const doubtFirst = doubt(first, second, forward, backward),
    doubtSecond = doubt(second, first, backward, forward);
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

/** A place that does not come back to within so many pixels, and so large a share of its way, is not believed. */
const RETURNS = 0.6;
const RETURNS_SHARE = 0.06;
/** What differs by so much (of 255, after a common brightness) does not fit. */
const FITS = 12;
/** How much both frames count where neither hides anything. */
const EVEN = 0.05;
/** From a doubt to being hidden: a little of it is only noise. */
const hidden = (d: number): number => Math.max(0, Math.min(1, (d - 0.5) / 0.4));
/** Where light itself changes by so much (of 255, over some pixels) nothing is told of where things went. */
const FLASH = 14;
const FLASH_REACH = 6;

/** About e to the power −q, by eight factors: the same on every machine, and quick. */
function falloff(q: number): number {
  const a = 1 + q / 8,
    b = a * a,
    c = b * b;
  return 1 / (c * c);
}

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

/** Means over squares of 2r + 1 pixels, edges repeated. */
function boxed(f: Float32Array, width: number, height: number, r: number): Float32Array {
  const pass = (from: Float32Array, n: number, lines: number, step: number, jump: number): Float32Array => {
    const out = new Float32Array(from.length);
    for (let l = 0; l < lines; l++) {
      const at = (i: number) => from[l * jump + Math.max(0, Math.min(n - 1, i)) * step]!;
      let sum = 0;
      for (let i = -r; i <= r; i++) sum += at(i);
      for (let i = 0; i < n; i++) {
        out[l * jump + i * step] = sum / (2 * r + 1);
        sum += at(i + r + 1) - at(i - r);
      }
    }
    return out;
  };
  return pass(pass(f, width, height, 1, width), height, width, width, 1);
}

/** How far the vectors of one way and the other disagree, and how badly what they join fits: 0 believed … 1 not. */
function doubt(from: Tracked, to: Tracked, there: Vectors, back: Vectors): Float32Array {
  const { width, height } = there;
  const a = from.levels[0]!.luma.data;
  const off = readAt(to.levels[0]!.padded, there);
  for (let o = 0; o < off.length; o++) off[o] = off[o]! - a[o]!;
  const mean = boxed(off, width, height, 2);
  const apart = off.map((d, o) => (d - mean[o]!) * (d - mean[o]!));
  const misfit = boxed(apart, width, height, 2),
    flash = boxed(off, width, height, FLASH_REACH);
  const out = new Float32Array(width * height);
  for (let y = 0, o = 0; y < height; y++)
    for (let x = 0; x < width; x++, o++) {
      const u = there.u[o]!,
        v = there.v[o]!;
      const ru = u + reading(back, back.u, x + u, y + v),
        rv = v + reading(back, back.v, x + u, y + v);
      const way = RETURNS + RETURNS_SHARE * Math.sqrt(u * u + v * v);
      const returns = falloff((ru * ru + rv * rv) / (way * way)),
        fits = falloff(misfit[o]! / (FITS * FITS));
      const steady = falloff((flash[o]! * flash[o]!) / (FLASH * FLASH));
      out[o] = 1 - steady * returns * (0.25 + 0.75 * fits);
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
