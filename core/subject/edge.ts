/** The edge of a subject at the footage's size, found in the picture itself. */
import { FLOAT, type RawFrame } from '../image';
import { fullLuma } from '../trace';
import { type Colours, shownLight } from './colour';
import { fromEdge } from './cut-out';
import { coloursIn, partAround, taken } from './part';

/** How far each pixel of a frame is the subject: 0…255, rows tightly packed. */
export interface Matte {
  readonly width: number;
  readonly height: number;
  readonly data: Uint8Array;
}

/** Radius of the squares in which the matte is a linear function of the colours, in small pixels. */
const RADIUS = 3;
/** Variance of a colour below which it tells nothing, in squares of codes. */
const FLAT = 40;
/** How much steeper the edge is made. */
const STEEPER = 1.6;
/** Distance from the edge beyond which pixels are as they were labelled, in small pixels. */
const BAND = 5;

/** Means over squares, by sums along rows and columns; squares end at the picture's edges. */
function boxed(plane: Float32Array, width: number, height: number): Float32Array {
  const along = new Float32Array(plane.length),
    out = new Float32Array(plane.length);
  const pass = (
    from: Float32Array,
    to: Float32Array,
    lines: number,
    long: number,
    step: number,
  ) => {
    const skip = step === 1 ? long : 1;
    for (let l = 0; l < lines; l++) {
      const at = l * skip;
      let sum = 0,
        n = 0;
      for (let i = 0; i < Math.min(RADIUS, long); i++, n++) sum += from[at + i * step]!;
      for (let i = 0; i < long; i++) {
        if (i + RADIUS < long) {
          sum += from[at + (i + RADIUS) * step]!;
          n++;
        }
        if (i - RADIUS - 1 >= 0) {
          sum -= from[at + (i - RADIUS - 1) * step]!;
          n--;
        }
        to[at + i * step] = sum / n;
      }
    }
  };
  pass(plane, along, height, width, 1);
  pass(along, out, width, height, width);
  return out;
}
function times(a: Float32Array, b: Float32Array): Float32Array {
  const out = new Float32Array(a.length);
  for (let o = 0; o < out.length; o++) out[o] = a[o]! * b[o]!;
  return out;
}

/** A plane between its pixels. */
interface Between {
  a: number;
  b: number;
  c: number;
  d: number;
  fx: number;
  fy: number;
}
const between = (p: Float32Array, { a, b, c, d, fx, fy }: Between): number => {
  const top = p[a]! + (p[b]! - p[a]!) * fx,
    low = p[c]! + (p[d]! - p[c]!) * fx;
  return top + (low - top) * fy;
};

/** Slopes by each of the three colours, and what is left: the matte as a function of the colours. */
function slopesOf({ width: w, height: h, planes }: Colours, labels: Uint8Array): Float32Array[] {
  const covered = new Float32Array(labels);
  const mean = (p: Float32Array): Float32Array => boxed(p, w, h);
  const [I, J, K] = planes,
    P = mean(covered);
  const [mi, mj, mk] = [mean(I), mean(J), mean(K)];
  const [pi, pj, pk] = [mean(times(I, covered)), mean(times(J, covered)), mean(times(K, covered))];
  const [ii, ij, ik] = [mean(times(I, I)), mean(times(I, J)), mean(times(I, K))];
  const [jj, jk, kk] = [mean(times(J, J)), mean(times(J, K)), mean(times(K, K))];
  const size = w * h;
  const [sa, sb, sc, rest] = [
    new Float32Array(size),
    new Float32Array(size),
    new Float32Array(size),
    new Float32Array(size),
  ];
  for (let o = 0; o < size; o++) {
    const [x, y, z, p] = [mi[o]!, mj[o]!, mk[o]!, P[o]!];
    const a = ii[o]! - x * x + FLAT,
      b = ij[o]! - x * y,
      c = ik[o]! - x * z,
      d = jj[o]! - y * y + FLAT / 4,
      e = jk[o]! - y * z,
      f = kk[o]! - z * z + FLAT / 4;
    const [u, v, q] = [pi[o]! - x * p, pj[o]! - y * p, pk[o]! - z * p];
    // The inverse of the covariance, by its adjugate.
    const A = d * f - e * e,
      B = c * e - b * f,
      C = b * e - c * d,
      D = a * f - c * c,
      E = b * c - a * e,
      F = a * d - b * b;
    const det = a * A + b * B + c * C;
    sa[o] = (A * u + B * v + C * q) / det;
    sb[o] = (B * u + D * v + E * q) / det;
    sc[o] = (C * u + E * v + F * q) / det;
    rest[o] = p - sa[o]! * x - sb[o]! * y - sc[o]! * z;
  }
  return [mean(sa), mean(sb), mean(sc), mean(rest)];
}

/**
 * The matte of labels made on a frame's small picture: near the edge it follows the colours of the
 * picture (He, Sun and Tang, *Guided Image Filtering*, 2010, solved on the small picture and applied
 * at the footage's size).
 */
export function refined(raw: RawFrame, whole: Colours, labels: Uint8Array): Matte {
  const { width, height, depth } = raw.format,
    { by } = whole,
    data = new Uint8Array(width * height);
  const part = partAround(labels, whole.width, whole.height, BAND + 2 * RADIUS + 2);
  if (!part) return { width, height, data };
  const colours = coloursIn(whole, part),
    own = taken(labels, whole.width, part);
  const { width: w, height: h } = part,
    [, cb, cr] = colours.planes;
  const edge = fromEdge(own, w, h),
    [ga, gb, gc, gr] = slopesOf(colours, own) as [
      Float32Array,
      Float32Array,
      Float32Array,
      Float32Array,
    ];
  const luma = fullLuma(raw).data;
  const at: Between = { a: 0, b: 0, c: 0, d: 0, fx: 0, fy: 0 };
  const [left, top] = [part.x * by, part.y * by];
  for (let y = top; y < Math.min(height, top + h * by); y++) {
    const sy = Math.max(0, Math.min(h - 1, (y - top + 0.5) / by - 0.5)),
      y0 = Math.floor(sy),
      y1 = Math.min(h - 1, y0 + 1),
      row = Math.min(h - 1, Math.floor((y - top) / by)) * w;
    at.fy = sy - y0;
    for (let x = left; x < Math.min(width, left + w * by); x++) {
      const near = row + Math.min(w - 1, Math.floor((x - left) / by)),
        o = y * width + x;
      if (edge[near]! > BAND) {
        data[o] = own[near]! * 255;
        continue;
      }
      const sx = Math.max(0, Math.min(w - 1, (x - left + 0.5) / by - 0.5)),
        x0 = Math.floor(sx),
        x1 = Math.min(w - 1, x0 + 1);
      at.fx = sx - x0;
      at.a = y0 * w + x0;
      at.b = y0 * w + x1;
      at.c = y1 * w + x0;
      at.d = y1 * w + x1;
      const bright = depth === FLOAT ? shownLight(luma[o]! / 255) : luma[o]!;
      const cover =
        between(ga, at) * bright +
        between(gb, at) * between(cb, at) +
        between(gc, at) * between(cr, at) +
        between(gr, at);
      data[o] = Math.round(255 * Math.max(0, Math.min(1, (cover - 0.5) * STEEPER + 0.5)));
    }
  }
  return { width, height, data };
}
