/** Checks of one frame's code values for faults that a delivery must not have. Shares are 0…1. */
import type { CodePlanes } from './scopes';

const luma = (p: CodePlanes, i: number): number =>
  0.2126 * p.planes[0][i]! + 0.7152 * p.planes[1][i]! + 0.0722 * p.planes[2][i]!;
/** Checks that do not need every pixel read every second one, across and down. */
const STEP = 2;

const BINS = 512;
/**
 * The black level: the luma that 1 % of the picture lies at or below, to 1/512; between −½ and 1½.
 */
export function blackOf(p: CodePlanes): number {
  const counts = new Uint32Array(2 * BINS);
  let n = 0;
  for (let y = 0; y < p.height; y += STEP)
    for (let x = 0; x < p.width; x += STEP) {
      counts[
        Math.max(0, Math.min(2 * BINS - 1, Math.floor((luma(p, y * p.stride + x) + 0.5) * BINS)))
      ]!++;
      n++;
    }
  let below = 0;
  for (let i = 0; i < counts.length; i++) {
    below += counts[i]!;
    if (below >= n / 100) return (i + 0.5) / BINS - 0.5;
  }
  return 0;
}

/**
 * Chroma (√(Cb² + Cr²) by BT.709, in code values) above which a colour is at the limit of a
 * display: its primaries have 0.50 to 0.60.
 */
const STRONG = 0.4;
/** The share of pixels with colours at the limit of a display. */
export function strongShare(p: CodePlanes): number {
  let strong = 0,
    n = 0;
  for (let y = 0; y < p.height; y += STEP)
    for (let x = 0; x < p.width; x += STEP) {
      const i = y * p.stride + x,
        l = luma(p, i);
      const cb = (p.planes[2][i]! - l) / 1.8556,
        cr = (p.planes[0][i]! - l) / 1.5748;
      if (cb * cb + cr * cr > STRONG * STRONG) strong++;
      n++;
    }
  return n > 0 ? strong / n : 0;
}

const RUN = 32;
/** In 8-bit codes: the largest difference that is no step, and the range of steps in a band. */
const NO_STEP = 0.3,
  LEAST = 1.4,
  MOST = 8;
/**
 * Whether a run of pixels is a staircase: nearly all flat, with two or more steps in one direction.
 */
function isStaircase(p: CodePlanes, from: number): boolean {
  let flat = 0,
    up = 0,
    down = 0;
  for (let i = from; i < from + RUN - 1; i++) {
    const d = (luma(p, i + 1) - luma(p, i)) * 255,
      size = Math.abs(d);
    if (size < NO_STEP) flat++;
    else if (size >= LEAST && size <= MOST) {
      if (d > 0) up++;
      else down++;
    } else return false;
  }
  return flat >= (RUN - 1) * 0.75 && up + down >= 2 && (up === 0 || down === 0);
}
/**
 * The share of the picture where a smooth gradient shows bands: runs of 32 pixels that are flat
 * except for two or more steps in one direction, each of 1.4 to 8 8-bit codes. Grain and noise hide
 * bands; their runs are no staircases.
 */
export function bandedShare(p: CodePlanes): number {
  let banded = 0,
    n = 0;
  for (let y = 0; y < p.height; y += STEP)
    for (let x = 0; x + RUN <= p.width; x += RUN) {
      if (isStaircase(p, y * p.stride + x)) banded++;
      n++;
    }
  return n > 0 ? banded / n : 0;
}

/**
 * Width of the checked edge, as a share of the shorter side; code values below which nothing is
 * visible, and above which something was.
 */
const EDGE = 0.01,
  DARK = 0.012,
  SEEN = 0.05;
/**
 * The largest share, over the four edges, that is black in `after` where `before` showed something:
 * an edge uncovered by a shift, say.
 */
export function bareEdge(after: CodePlanes, before: CodePlanes): number {
  const { width, height } = after;
  const deep = Math.max(1, Math.round(EDGE * Math.min(width, height)));
  const share = (x0: number, y0: number, x1: number, y1: number): number => {
    let bare = 0;
    for (let y = y0; y < y1; y++)
      for (let x = x0; x < x1; x++)
        if (luma(after, y * after.stride + x) < DARK && luma(before, y * before.stride + x) > SEEN)
          bare++;
    return bare / ((x1 - x0) * (y1 - y0));
  };
  return Math.max(
    share(0, 0, width, deep),
    share(0, height - deep, width, height),
    share(0, 0, deep, height),
    share(width - deep, 0, width, height),
  );
}
