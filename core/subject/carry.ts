/** Carries labels from a frame to the next, or back, along the motion between them. */
import type { Pair } from '../trace';
import { LocalModels } from './colour';
import { cutOut, fromEdge, partsWith } from './cut-out';
import type { Ready } from './marked';
import { coloursIn, laidIn, partAround, taken } from './part';

/** How much less the carried label counts where the motion is in doubt. */
const DOUBTED = 0.5;
/** Weights of what colours nearby, those of the marks, and the carried label say. */
const NEARBY = 0.9,
  MARKS = 0.25,
  CARRIED = 4;
/** How far from the carried edge labels may change: everywhere, and where the motion is in doubt. */
const SURE = 5,
  DOUBTFUL = 10;
/** Distance from the carried edge at which its label counts in full, in pixels. */
const RAMP = 6;
/** How far from a subject it may be on the next frame, in pixels. */
const REACHES = 40;
/** Distance from the edge within which it is asked how well colours agree, in pixels. */
const ASKED = 3;

/** Labels of a frame, and how well its colours agree with them (0…1). */
export interface Carried {
  readonly labels: Uint8Array;
  readonly agreed: number;
}

/**
 * Labels of `to` from those of `from`. `pair` is the motion between the two; `onward`: `to` is the
 * later one. `marks`: what the colours of marked frames say.
 */
export function carried(
  from: Ready & { readonly labels: Uint8Array },
  to: Ready,
  pair: Pair,
  onward: boolean,
  marks: Float32Array,
): Carried {
  const { width: across, height: down } = to.colours;
  const part = partAround(from.labels, across, down, REACHES);
  if (!part) return { labels: new Uint8Array(across * down), agreed: 0 };
  const { width, height } = part,
    size = width * height,
    colours = coloursIn(to.colours, part),
    bins = taken(to.bins, across, part);
  const back = onward ? pair.backward : pair.forward,
    doubts = onward ? pair.doubtSecond : pair.doubtFirst;
  const [kx, ky] = [back.width / across, back.height / down];
  const share = new Float32Array(size),
    doubt = new Float32Array(size),
    came = new Uint16Array(size),
    matte = new Uint8Array(size),
    labels = new Uint8Array(size);
  for (let y = 0, o = 0; y < height; y++)
    for (let x = 0; x < width; x++, o++) {
      const [gx, gy] = [part.x + x, part.y + y];
      const q =
        Math.min(back.height - 1, Math.floor((gy + 0.5) * ky)) * back.width +
        Math.min(back.width - 1, Math.floor((gx + 0.5) * kx));
      const px = Math.max(0, Math.min(across - 1, gx + back.u[q]! / kx)),
        py = Math.max(0, Math.min(down - 1, gy + back.v[q]! / ky));
      const x0 = Math.floor(px),
        y0 = Math.floor(py) * across,
        x1 = Math.min(across - 1, x0 + 1),
        y1 = Math.min(down - 1, Math.floor(py) + 1) * across;
      const [fx, fy] = [px - x0, py - Math.floor(py)];
      const own = from.labels;
      share[o] =
        (own[y0 + x0]! * (1 - fx) + own[y0 + x1]! * fx) * (1 - fy) +
        (own[y1 + x0]! * (1 - fx) + own[y1 + x1]! * fx) * fy;
      doubt[o] = doubts[q]!;
      came[o] = from.bins[Math.round(py) * across + Math.round(px)]!;
      matte[o] = Math.round(255 * share[o]!);
      labels[o] = share[o]! >= 0.5 ? 1 : 0;
    }
  if (!labels.includes(1)) return { labels: new Uint8Array(across * down), agreed: 0 };
  const edge = fromEdge(labels, width, height),
    models = new LocalModels(came, matte, width, height);
  const known = new Int8Array(size),
    evidence = new Float32Array(size),
    said = new Float32Array(size);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const o = y * width + x;
      if (edge[o]! > SURE + (DOUBTFUL - SURE) * doubt[o]!) {
        known[o] = labels[o] ? 1 : -1;
        continue;
      }
      const bin = bins[o]!,
        all = marks[bin]!;
      const near = models.at(x, y, bin);
      said[o] = near === undefined ? all : NEARBY * near + MARKS * all;
      evidence[o] =
        said[o]! +
        CARRIED *
          (labels[o] ? 1 : -1) *
          Math.min(1, (edge[o]! - 0.5) / RAMP) *
          (1 - DOUBTED * doubt[o]!);
    }
  const out = partsWith(cutOut(colours, known, evidence), width, (o) => labels[o] === 1);
  return {
    labels: laidIn(out, part, across, down),
    agreed: agreement(out, said, known, width, height),
  };
}

/** How well what colours say agrees with labels about their edge. */
function agreement(
  labels: Uint8Array,
  said: Float32Array,
  known: Int8Array,
  width: number,
  height: number,
): number {
  const edge = fromEdge(labels, width, height);
  let sum = 0,
    n = 0;
  for (let o = 0; o < labels.length; o++) {
    if (edge[o]! > ASKED || known[o] !== 0) continue;
    sum += Math.max(-1, Math.min(1, (labels[o] ? 1 : -1) * said[o]!));
    n++;
  }
  return n === 0 ? 0 : (1 + sum / n) / 2;
}
