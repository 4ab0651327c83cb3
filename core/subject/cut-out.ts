/**
 * Cuts a subject out of a frame: colours and what is known of each pixel against edges, by a minimum
 * cut (Boykov and Jolly, *Interactive Graph Cuts*, 2001; colours learnt anew from each result as in
 * Rother et al., *GrabCut*, 2004).
 */
import { expd } from '../kernel';
import { apartAt, type Colours } from './colour';
import { MinCut } from './min-cut';

/** Weight of an edge between equal pixels, in the unit of log-likelihood ratios. */
const SMOOTH = 3;
/** Least weight of an edge, as a share. */
const LEAST = 0.06;
/** Capacities a unit. */
const UNIT = 1024;
const TOLD = 64;
/** Falls off with the square of a difference over the picture's mean: a table of exp(−x), 0…6. */
const FALLS = Float64Array.from({ length: 6 * TOLD + 1 }, (_, i) => expd(-i / TOLD));
const fall = (x: number): number => (x >= 6 ? 0 : FALLS[Math.floor(x * TOLD)]!);

const HALF = Math.SQRT1_2;
/** Neighbours of a pixel, with the weight of their distance. */
const NEIGHBOURS = [
  [1, 0, 1],
  [0, 1, 1],
  [1, 1, HALF],
  [-1, 1, HALF],
  [-1, 0, 1],
  [0, -1, 1],
  [-1, -1, HALF],
  [1, -1, HALF],
] as const;

/**
 * Labels of pixels: 1 on the subject. `known` holds 1 and −1 where a pixel is known, 0 elsewhere;
 * `evidence` is positive where a pixel speaks for the subject.
 */
export function cutOut(
  { width, height, planes, apart }: Colours,
  known: Int8Array,
  evidence: Float32Array,
): Uint8Array {
  const node = new Int32Array(known.length).fill(-1),
    pixels: number[] = [];
  for (let o = 0; o < known.length; o++) if (known[o] === 0) node[o] = pixels.push(o) - 1;
  const graph = new MinCut(pixels.length, 4 * pixels.length);
  const per = 1 / (2 * apart);
  for (let m = 0; m < pixels.length; m++) {
    const a = pixels[m]!,
      x = a % width,
      y = (a - x) / width;
    graph.terminal[m]! += Math.round(UNIT * evidence[a]!);
    for (const [dx, dy, share] of NEIGHBOURS) {
      if (x + dx < 0 || x + dx >= width || y + dy < 0 || y + dy >= height) continue;
      const b = a + dy * width + dx,
        n = node[b]!;
      // Between two unknown pixels there is one edge.
      if (n >= 0 && n < m) continue;
      const weight = Math.round(
        UNIT * SMOOTH * share * (LEAST + (1 - LEAST) * fall(apartAt(planes, a, b) * per)),
      );
      if (n >= 0) graph.edge(m, n, weight);
      // An edge to a pixel that is known pulls towards what it is.
      else graph.terminal[m]! += known[b]! * weight;
    }
  }
  const cut = graph.solve(),
    out = new Uint8Array(known.length);
  for (let o = 0; o < out.length; o++)
    out[o] = known[o] === 0 ? cut[node[o]!]! : known[o]! > 0 ? 1 : 0;
  return out;
}

/** Labels without the parts of the subject in which no pixel counts. */
export function partsWith(
  labels: Uint8Array,
  width: number,
  counts: (pixel: number) => boolean,
): Uint8Array {
  const out = new Uint8Array(labels.length),
    seen = new Uint8Array(labels.length),
    stack: number[] = [];
  for (let from = 0; from < labels.length; from++) {
    if (!labels[from] || seen[from]) continue;
    const part: number[] = [];
    let kept = false;
    seen[from] = 1;
    stack.push(from);
    while (stack.length > 0) {
      const o = stack.pop()!;
      part.push(o);
      kept ||= counts(o);
      const x = o % width;
      for (const n of [
        x > 0 ? o - 1 : -1,
        x < width - 1 ? o + 1 : -1,
        o - width,
        o + width < labels.length ? o + width : -1,
      ])
        if (n >= 0 && labels[n] && !seen[n]) {
          seen[n] = 1;
          stack.push(n);
        }
    }
    if (kept) for (const o of part) out[o] = 1;
  }
  return out;
}

/**
 * Distance of each pixel to the nearest one of another label, in pixels, by two passes (chamfer 3–4,
 * Borgefors 1986), up to a distance.
 */
export function fromEdge(labels: ArrayLike<number>, width: number, height: number): Float32Array {
  const out = new Float32Array(labels.length).fill(1e6);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const o = y * width + x;
      if (
        (x > 0 && labels[o - 1] !== labels[o]) ||
        (x < width - 1 && labels[o + 1] !== labels[o]) ||
        (y > 0 && labels[o - width] !== labels[o]) ||
        (y < height - 1 && labels[o + width] !== labels[o])
      )
        out[o] = 1;
    }
  const near = (o: number, n: number, by: number): void => {
    if (out[n]! + by < out[o]!) out[o] = out[n]! + by;
  };
  const D = 4 / 3;
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const o = y * width + x;
      if (x > 0) near(o, o - 1, 1);
      if (y > 0) near(o, o - width, 1);
      if (x > 0 && y > 0) near(o, o - width - 1, D);
      if (x < width - 1 && y > 0) near(o, o - width + 1, D);
    }
  for (let y = height - 1; y >= 0; y--)
    for (let x = width - 1; x >= 0; x--) {
      const o = y * width + x;
      if (x < width - 1) near(o, o + 1, 1);
      if (y < height - 1) near(o, o + width, 1);
      if (x < width - 1 && y < height - 1) near(o, o + width + 1, D);
      if (x > 0 && y < height - 1) near(o, o + width - 1, D);
    }
  return out;
}
