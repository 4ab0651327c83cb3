/** Dust, hairs and scratches, drawn outside kernels: few small shapes on large empty planes. */
import { Hasher, type Leaf } from '../../graph';
import { cosTurnsd, expd, sinTurnsd } from '../../kernel';
import { chance, either, named, sway } from '../../graph';
import type { FrameContext } from '../declare';

/** How much damage, and of what kind. */
export interface Damage {
  /** Mean number of specks per frame, and of hairs and scratches at a time. */
  readonly dust: number;
  readonly hairs: number;
  readonly scratches: number;
  /** Relative size; 1 is usual. */
  readonly size: number;
  /** Mean lifetime of hairs and scratches, in frames. */
  readonly life: number;
  /** Share of the damage that is bright (on the negative) rather than dark (on the print). */
  readonly bright: number;
}

/** Coverage of each pixel by dark and by bright damage. */
class Sheet {
  readonly planes: readonly [Float32Array, Float32Array];
  private readonly scale: number;
  constructor(
    private readonly width: number,
    private readonly height: number,
  ) {
    this.planes = [new Float32Array(width * height), new Float32Array(width * height)];
    this.scale = height / 1080;
  }

  /** Draws a line of `width` lines from one place to another (lines from the upper left corner). */
  stroke(
    plane: 0 | 1,
    x0: number,
    y0: number,
    x1: number,
    y1: number,
    width: number,
    cover: number,
  ): void {
    const k = this.scale;
    const [ax, ay, bx, by] = [x0 * k - 0.5, y0 * k - 0.5, x1 * k - 0.5, y1 * k - 0.5];
    // Lines thinner than a pixel cover it partly.
    const wide = width * k,
      half = Math.max(wide, 1) / 2,
      share = cover * Math.min(1, wide);
    const dx = bx - ax,
      dy = by - ay,
      length = dx * dx + dy * dy;
    const pad = half + 1;
    const left = Math.max(0, Math.floor(Math.min(ax, bx) - pad)),
      right = Math.min(this.width - 1, Math.ceil(Math.max(ax, bx) + pad));
    const top = Math.max(0, Math.floor(Math.min(ay, by) - pad)),
      bottom = Math.min(this.height - 1, Math.ceil(Math.max(ay, by) + pad));
    const to = this.planes[plane];
    for (let y = top; y <= bottom; y++)
      for (let x = left; x <= right; x++) {
        const t =
          length > 0 ? Math.max(0, Math.min(1, ((x - ax) * dx + (y - ay) * dy) / length)) : 0;
        const ex = x - ax - t * dx,
          ey = y - ay - t * dy;
        const c = Math.max(0, Math.min(1, half + 0.5 - Math.sqrt(ex * ex + ey * ey))) * share;
        const i = y * this.width + x;
        if (c > to[i]!) to[i] = c;
      }
  }
}

const poisson = (mean: number, ...key: number[]): number => {
  // Poisson by Knuth's product of random numbers; the means are small.
  const least = expd(-mean);
  let count = 0;
  for (let p = chance(...key, 0); p > least && count < 400; p *= chance(...key, count)) count++;
  return count;
};

/** A fibre: a bent line of several pieces, from a place in a direction (turns, clockwise from right). */
function fibre(
  sheet: Sheet,
  plane: 0 | 1,
  [x, y]: readonly [number, number],
  direction: number,
  long: number,
  width: number,
  cover: number,
  key: number,
): void {
  let angle = direction,
    [px, py] = [x, y];
  const bent = named(key, 77);
  const bend = either(bent, 2) * 0.05,
    pieces = 12;
  for (let i = 0; i < pieces; i++) {
    angle += bend + either(bent, 3, i) * 0.03;
    const nx = px + (cosTurnsd(angle) * long) / pieces,
      ny = py + (sinTurnsd(angle) * long) / pieces;
    sheet.stroke(plane, px, py, nx, ny, width * (1 - (0.5 * i) / pieces), cover);
    [px, py] = [nx, ny];
  }
}

function dust(sheet: Sheet, of: Damage, at: FrameContext, wide: number): void {
  const count = poisson(of.dust, at.seed, 11, at.frame);
  for (let i = 0; i < count; i++) {
    const key = named(at.seed, 12, at.frame, i);
    const plane = chance(key, 0) < of.bright ? 1 : 0;
    const [x, y] = [chance(key, 1) * wide, chance(key, 2) * 1080];
    // Many small ones, few large.
    const size = of.size * (1.2 + 7 * chance(key, 3) * chance(key, 4) * chance(key, 5) * 2);
    const cover = 0.55 + 0.45 * chance(key, 6);
    if (chance(key, 7) < 0.18)
      fibre(
        sheet,
        plane,
        [x, y],
        chance(key, 10),
        of.size * (14 + 60 * chance(key, 8)),
        of.size * 1.6,
        cover,
        key,
      );
    else {
      // A speck consists of a few short strokes through one point.
      const strokes = 2 + Math.floor(chance(key, 9) * 3);
      for (let s = 0; s < strokes; s++) {
        const a = chance(key, 20 + s);
        const [ex, ey] = [
          cosTurnsd(a) * size * 0.6,
          sinTurnsd(a) * size * 0.6 * (0.5 + chance(key, 30 + s)),
        ];
        sheet.stroke(
          plane,
          x - ex,
          y - ey,
          x + ex * chance(key, 40 + s),
          y + ey,
          size * (0.5 + 0.5 * chance(key, 50 + s)),
          cover,
        );
      }
    }
  }
}

/** Shortest life and its spread, in mean lives; and the mean that comes of both. */
const SHORTEST = 0.4,
  SPREAD = 1.1,
  MEAN_LIFE = SHORTEST + SPREAD / 2;
/**
 * Damage with a lifetime: in each slot of `life` frames a number of items begin, at any frame of
 * it, and last about that long.
 */
function* living(
  mean: number,
  life: number,
  seed: number,
  kind: number,
  frame: number,
): Generator<{ key: number; age: number; long: number }> {
  const slot = Math.floor(frame / life);
  for (let s = slot - 2; s <= slot; s++) {
    const count = poisson(mean / MEAN_LIFE, seed, kind, s);
    for (let i = 0; i < count; i++) {
      const key = named(seed, kind, s, i);
      const begun = s * life + chance(key, 90) * life,
        long = life * (SHORTEST + SPREAD * chance(key, 91));
      const age = frame - begun;
      if (age >= 0 && age < long) yield { key, age, long };
    }
  }
}

function hairs(sheet: Sheet, of: Damage, at: FrameContext, wide: number): void {
  for (const { key, age } of living(of.hairs, of.life, at.seed, 21, at.frame)) {
    // They hang into the gate from its upper or lower edge and tremble there.
    const below = chance(key, 1) < 0.65;
    const x = chance(key, 2) * wide + sway(key, age * 0.35) * 2,
      y = 6 * chance(key, 3);
    // Into the picture, up to 40° to either side.
    const direction = (below ? 0.75 : 0.25) + either(key, 6) / 9;
    fibre(
      sheet,
      0,
      [x, below ? 1080 - y : y],
      direction,
      of.size * (50 + 120 * chance(key, 4)),
      of.size * 2.4,
      0.92,
      key,
    );
  }
}

function scratches(sheet: Sheet, of: Damage, at: FrameContext, wide: number): void {
  for (const { key, age, long } of living(of.scratches, of.life, at.seed, 31, at.frame)) {
    const plane = chance(key, 1) < of.bright ? 1 : 0;
    const home = chance(key, 2) * wide,
      width = of.size * (0.7 + 1.6 * chance(key, 3) * chance(key, 4));
    const swelling = Math.min(1, age / 4, (long - age) / 4);
    const pieces = 36;
    const place = (i: number): number =>
      home +
      sway(key, age * 0.16 + i / 90) * 9 +
      either(key, 5, Math.floor(age)) * 1.2 +
      sway(key + 1, i * 0.5 + age * 36) * 0.8;
    for (let i = 0; i < pieces; i++) {
      // Deep in places, faint in others.
      const depth = 0.35 + 0.65 * sway(key + 2, i * 0.22 + Math.floor(age) * 7.3);
      const cover = Math.max(0, Math.min(0.85, depth)) * swelling;
      if (cover > 0.02)
        sheet.stroke(
          plane,
          place(i),
          (i * 1080) / pieces,
          place(i + 1),
          ((i + 1) * 1080) / pieces,
          width,
          cover,
        );
    }
  }
}

/**
 * Two planes: coverage of each pixel of the frame by dark and by bright damage. Drawn when first
 * read.
 */
export function damageLeaf(of: Damage, at: FrameContext): Leaf {
  const h = new Hasher().text('damage').int(at.width).int(at.height).int(at.seed).int(at.frame);
  [of.dust, of.hairs, of.scratches, of.size, of.life, of.bright].forEach((v) => h.float(v));
  let drawn: Sheet | undefined;
  const sheet = (): Sheet => {
    if (drawn) return drawn;
    drawn = new Sheet(at.width, at.height);
    const wide = (1080 * at.width) / at.height;
    if (of.dust > 0) dust(drawn, of, at, wide);
    if (of.hairs > 0) hairs(drawn, of, at, wide);
    if (of.scratches > 0) scratches(drawn, of, at, wide);
    return drawn;
  };
  return {
    kind: 'leaf',
    key: h.hex(),
    width: at.width,
    height: at.height,
    planes: 2,
    domain: 'none',
    load: (plane, into) => {
      const from = sheet().planes[plane as 0 | 1];
      for (let y = 0; y < at.height; y++)
        into(y).set(from.subarray(y * at.width, (y + 1) * at.width));
    },
  };
}
