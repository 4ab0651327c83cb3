/** Colours of a frame at the size at which subjects are cut out, and models of them. */
import { FLOAT, type RawFrame, topCode } from '../image';
import { logd } from '../kernel';

/** Most pixels on the shorter side of the picture in which subjects are cut out. */
const MOST_LINES = 288;

/** Luma and two chroma planes, 0…255 (chroma about 128), each the mean of a square of pixels. */
export interface Colours {
  readonly width: number;
  readonly height: number;
  /** Pixels of the footage on a side of such a square. */
  readonly by: number;
  readonly planes: readonly [Float32Array, Float32Array, Float32Array];
  /** The mean difference of neighbours, squared (`apartAt`). */
  readonly apart: number;
}
type Planes = Colours['planes'];

/** The difference of the colours of two pixels, squared; chroma counts twice. */
export function apartAt([luma, cb, cr]: Planes, a: number, b: number): number {
  const y = luma[a]! - luma[b]!,
    u = 2 * (cb[a]! - cb[b]!),
    v = 2 * (cr[a]! - cr[b]!);
  return y * y + u * u + v * v;
}
function withApart(colours: Omit<Colours, 'apart'>): Colours {
  const { width, height, planes } = colours;
  let sum = 0;
  for (let y = 0; y < height - 1; y++)
    for (let x = 0; x < width - 1; x++) {
      const o = y * width + x;
      sum += apartAt(planes, o, o + 1) + apartAt(planes, o, o + width);
    }
  return { ...colours, apart: Math.max(1, sum / Math.max(1, 2 * (width - 1) * (height - 1))) };
}

/** Light 0…1 of floating-point footage about as a screen shows it, 0…255. */
export const shownLight = (light: number): number =>
  255 * Math.sqrt(Math.max(0, Math.min(1, light)));
/** Pixels of the footage on a side of the squares that are averaged. */
const squareOf = (width: number, height: number): number =>
  Math.max(1, Math.ceil(Math.min(width, height) / MOST_LINES));

/** A frame's colours as they are shown, whatever its encoding. */
export function coloursOf({ format, planes }: RawFrame): Colours {
  const by = squareOf(format.width, format.height);
  const width = Math.ceil(format.width / by),
    height = Math.ceil(format.height / by);
  const scale = 255 / topCode(format),
    { depth, full, layout } = format;
  /** The mean of a plane's samples over each square; `cx` and `cy` pixels of the picture a sample. */
  const mean = (p: number, cx: number, cy: number, of: (code: number) => number): Float32Array => {
    const plane = planes[p]!,
      across = Math.ceil(format.width / cx),
      down = Math.ceil(format.height / cy);
    const out = new Float32Array(width * height);
    for (let y = 0; y < height; y++) {
      const top = Math.floor((y * by) / cy),
        bottom = Math.min(down, Math.max(top + 1, Math.floor(((y + 1) * by) / cy)));
      for (let x = 0; x < width; x++) {
        const left = Math.floor((x * by) / cx),
          right = Math.min(across, Math.max(left + 1, Math.floor(((x + 1) * by) / cx)));
        let sum = 0;
        for (let j = top; j < bottom; j++)
          for (let i = left; i < right; i++) sum += of(plane[j * across + i]!);
        out[y * width + x] = sum / ((bottom - top) * (right - left));
      }
    }
    return out;
  };
  if (layout === 'yuv') {
    // Video range: black at 16, chroma 16 to 240 about 128, of 8 bits.
    const one = 2 ** (depth - 8);
    const luma = full
      ? (c: number) => c * scale
      : (c: number) => ((c - 16 * one) * 255) / (219 * one);
    const chroma = full
      ? (c: number) => c * scale
      : (c: number) => 128 + ((c - 128 * one) * 255) / (224 * one);
    const [cx, cy] = format.chroma;
    return withApart({
      ...{ width, height, by },
      planes: [mean(0, 1, 1, luma), mean(1, cx, cy, chroma), mean(2, cx, cy, chroma)],
    });
  }
  const code = depth === FLOAT ? shownLight : (c: number) => c * scale;
  const first = mean(0, 1, 1, code);
  if (layout === 'gray') {
    const none = new Float32Array(first.length).fill(128);
    return withApart({ width, height, by, planes: [first, none, none] });
  }
  const [green, blue] = [mean(1, 1, 1, code), mean(2, 1, 1, code)];
  const luma = new Float32Array(first.length),
    cb = new Float32Array(first.length),
    cr = new Float32Array(first.length);
  // ITU-R BT.709.
  for (let o = 0; o < luma.length; o++) {
    const y = 0.2126 * first[o]! + 0.7152 * green[o]! + 0.0722 * blue[o]!;
    luma[o] = y;
    cb[o] = 128 + (blue[o]! - y) / 1.8556;
    cr[o] = 128 + (first[o]! - y) / 1.5748;
  }
  return withApart({ width, height, by, planes: [luma, cb, cr] });
}

/** Bins of a colour along each of its three axes. */
const BINS = 16;
const ALL_BINS = BINS * BINS * BINS;
/** Chroma is told apart twice as finely as luma: it varies less. */
const FINER = 2;

/** The bin of each pixel's colour. */
export function binsOf({ planes: [luma, cb, cr] }: Colours): Uint16Array {
  const out = new Uint16Array(luma.length);
  const bin = (v: number): number => Math.max(0, Math.min(BINS - 1, Math.floor(v)));
  for (let o = 0; o < out.length; o++)
    out[o] =
      (bin(luma[o]! / 16) * BINS + bin(8 + ((cb[o]! - 128) * FINER) / 16)) * BINS +
      bin(8 + ((cr[o]! - 128) * FINER) / 16);
  return out;
}

/** Counts along one axis, each shared with its two neighbours ([1 2 1] / 4). */
function softenedAlong(counts: Float32Array, step: number, bins: number): void {
  const before = counts.slice();
  for (let o = 0; o < counts.length; o++) {
    const at = Math.floor(o / step) % bins;
    const a = at > 0 ? before[o - step]! : before[o]!,
      b = at < bins - 1 ? before[o + step]! : before[o]!;
    counts[o] = (a + 2 * before[o]! + b) / 4;
  }
}
/** Log-likelihood ratios beyond which a colour says no more. */
const MOST_SAID = 4;
/** Share of a model that any colour has. */
const ANY = 2e-5;

/** How often each colour lies on the subject and beside it. */
export class ColourModel {
  private readonly counts = [new Float32Array(ALL_BINS), new Float32Array(ALL_BINS)] as const;

  add(bin: number, on: boolean, weight: number): void {
    this.counts[on ? 1 : 0][bin]! += weight;
  }
  /** Log-likelihood ratio of each colour: positive where it is the subject’s. */
  ratios(): Float32Array {
    const soft = this.counts.map((c) => {
      const out = c.slice();
      for (const step of [1, BINS, BINS * BINS]) softenedAlong(out, step, BINS);
      const sum = out.reduce((n, v) => n + v, 0);
      return { out, sum };
    });
    const [off, on] = soft as [(typeof soft)[0], (typeof soft)[0]];
    if (on.sum === 0 || off.sum === 0) return new Float32Array(ALL_BINS);
    return Float32Array.from({ length: ALL_BINS }, (_, b) => {
      const ratio = logd(on.out[b]! / on.sum + ANY) - logd(off.out[b]! / off.sum + ANY);
      return Math.max(-MOST_SAID, Math.min(MOST_SAID, ratio));
    });
  }
}

/** Bins along each axis of models of a part of the picture. */
const COARSE = 8,
  COARSE_BINS = COARSE * COARSE * COARSE;
/** Distance of such parts, and how far from its middle each reaches, in pixels. */
const EVERY = 24,
  REACH = 36;
const coarse = (bin: number): number =>
  ((bin >> 9) & 7) * 64 + ((bin >> 5) & 7) * 8 + ((bin >> 1) & 7);

/** Models of parts of a picture: what is near tells more than what is far. */
export class LocalModels {
  private readonly across: number;
  private readonly down: number;
  private readonly ratios: readonly (Float32Array | undefined)[];

  /** From a picture's bins and how far each pixel is the subject, 0…255. */
  constructor(
    bins: Uint16Array,
    matte: Uint8Array,
    private readonly width: number,
    private readonly height: number,
  ) {
    this.across = Math.ceil(width / EVERY) + 1;
    this.down = Math.ceil(height / EVERY) + 1;
    this.ratios = Array.from({ length: this.across * this.down }, (_, i) =>
      this.part(bins, matte, (i % this.across) * EVERY, Math.floor(i / this.across) * EVERY),
    );
  }
  private part(
    bins: Uint16Array,
    matte: Uint8Array,
    cx: number,
    cy: number,
  ): Float32Array | undefined {
    const on = new Float32Array(COARSE_BINS),
      off = new Float32Array(COARSE_BINS);
    let [ons, offs] = [0, 0];
    for (let y = Math.max(0, cy - REACH); y < Math.min(this.height, cy + REACH); y++)
      for (let x = Math.max(0, cx - REACH); x < Math.min(this.width, cx + REACH); x++) {
        const o = y * this.width + x,
          b = coarse(bins[o]!);
        if (matte[o]! > 191) {
          on[b]!++;
          ons++;
        } else if (matte[o]! < 64) {
          off[b]!++;
          offs++;
        }
      }
    // A part without an edge says nothing.
    if (ons < 40 || offs < 40) return undefined;
    for (const step of [1, COARSE, COARSE * COARSE]) {
      softenedAlong(on, step, COARSE);
      softenedAlong(off, step, COARSE);
    }
    return Float32Array.from({ length: COARSE_BINS }, (_, b) => {
      const ratio = logd(on[b]! / ons + 1e-3) - logd(off[b]! / offs + 1e-3);
      return Math.max(-MOST_SAID, Math.min(MOST_SAID, ratio));
    });
  }
  /** The ratio of a colour at a pixel by the parts around it; undefined where none says anything. */
  at(x: number, y: number, bin: number): number | undefined {
    const i = Math.min(this.across - 2, Math.floor(x / EVERY)),
      j = Math.min(this.down - 2, Math.floor(y / EVERY));
    const [fx, fy] = [x / EVERY - i, y / EVERY - j],
      b = coarse(bin);
    let sum = 0,
      weights = 0;
    for (let n = 0; n < 4; n++) {
      const [dx, dy] = [n & 1, n >> 1];
      const part = this.ratios[(j + dy) * this.across + i + dx];
      const w = (dx ? fx : 1 - fx) * (dy ? fy : 1 - fy);
      if (!part || w === 0) continue;
      sum += w * part[b]!;
      weights += w;
    }
    return weights > 0.05 ? sum / weights : undefined;
  }
}
