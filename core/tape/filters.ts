/**
 * Filters along a line: weights at BT.601's samples for the responses of tape, in double precision.
 */
import { cosTurnsd, powd, sinTurnsd } from '../kernel';
import { RATE } from './grade';

/** Gain and phase (turns; positive is later) at a frequency in MHz. */
export interface Response {
  readonly gain: (f: number) => number;
  readonly phase?: (f: number) => number;
}

/** A Butterworth response of an order, −3 dB at `width` MHz. */
export const butterworth =
  (width: number, order: number) =>
  (f: number): number =>
    1 / Math.sqrt(1 + powd(f / width, 2 * order));

/** The −3 dB width of `n` of them in series: width · (2^(1/n) − 1)^(1/2N). */
export const afterCopies = (width: number, order: number, n: number): number =>
  width * powd(powd(2, 1 / n) - 1, 1 / (2 * order));

/**
 * Luma's response: Butterworth with a peak at about two thirds of its width, and −3 dB at the
 * stated width.
 */
export function lumaGain(width: number, order: number, peak: number): (f: number) => number {
  const raw = (scale: number) => {
    const fall = butterworth(width * scale, order),
      top = width * scale * 0.6;
    return (f: number): number => {
      const t = (f - top) / (top * 0.55);
      return fall(f) * (1 + peak / (1 + t * t * t * t) - peak / (1 + powd(1 / 0.55, 4)));
    };
  };
  let low = 0.4,
    high = 1.2;
  for (let i = 0; i < 40; i++) {
    const middle = (low + high) / 2;
    if (raw(middle)(width) < Math.SQRT1_2) low = middle;
    else high = middle;
  }
  const made = raw((low + high) / 2),
    dc = made(0);
  return (f) => made(f) / dc;
}

/** Arctangent in turns, by its series after halving the angle twice. */
function atanTurns(x: number): number {
  const half = (t: number): number => t / (1 + Math.sqrt(1 + t * t));
  const t = half(half(x)),
    t2 = t * t;
  let sum = 0,
    term = t;
  for (let k = 1; k < 24; k += 2) {
    sum += term / k;
    term *= -t2;
  }
  return (sum * 4) / 6.283185307179586;
}

/**
 * The phase of a delay (µs) plus a pole with a time constant (µs), whose own delay at low
 * frequencies is subtracted.
 */
export const trailing =
  (delay: number, trail: number) =>
  (f: number): number =>
    f * (delay - trail) + atanTurns(6.283185307179586 * f * trail);

/**
 * A filter along a line: weights at every `stride`-th sample, −reach … reach. A stride of four
 * reads a line averaged by `averaging`.
 */
export interface LineFilter {
  readonly weights: readonly number[];
  readonly stride: 1 | 4;
}

/**
 * Two means of four samples in series: zero at a quarter and a half of the sample rate, where a
 * stride of four aliases.
 */
export const AVERAGING = [1, 2, 3, 4, 3, 2, 1].map((v) => v / 16);
const averaging = (f: number): number => {
  const t = f / RATE / 2;
  if (t < 1e-9) return 1;
  const one = sinTurnsd(4 * t) / (4 * sinTurnsd(t));
  return one * one;
};

const FREQUENCIES = 256;
/**
 * A filter with a response and a reach in samples. The weights sum to the response's gain at 0
 * (unless that is 0). With a stride of four the loss by `averaging` is compensated.
 */
export function filterOf(
  { gain, phase = () => 0 }: Response,
  reach: number,
  stride: LineFilter['stride'] = 1,
): LineFilter {
  const n = Math.ceil(reach / stride);
  const left = (f: number): number => (stride === 1 ? gain(f) : gain(f) / averaging(f));
  const weights = Array.from({ length: 2 * n + 1 }, (_, i) => {
    const k = i - n;
    let sum = 0;
    for (let j = 0; j < FREQUENCIES; j++) {
      const f = ((j + 0.5) / FREQUENCIES) * 0.5,
        mhz = (f * RATE) / stride;
      sum += left(mhz) * cosTurnsd(f * k - phase(mhz));
    }
    // A soft end over the last quarter, so that truncation does not ring.
    const t = Math.max(0, (Math.abs(k) / (n + 1) - 0.75) * 4);
    return (sum / FREQUENCIES) * (0.5 + 0.5 * cosTurnsd(t / 2));
  });
  const total = weights.reduce((a, b) => a + b, 0);
  return { stride, weights: gain(0) === 0 ? weights : weights.map((w) => (w * gain(0)) / total) };
}

/** Gain of a filter at `f` MHz. */
export function amplitude({ weights, stride }: LineFilter, f: number): number {
  const n = (weights.length - 1) / 2;
  let re = 0,
    im = 0;
  weights.forEach((w, i) => {
    re += w * cosTurnsd((f / RATE) * stride * (i - n));
    im += w * sinTurnsd((f / RATE) * stride * (i - n));
  });
  return Math.sqrt(re * re + im * im) * (stride === 1 ? 1 : averaging(f));
}

/**
 * Noise of a demodulated frequency-modulated carrier: proportional to f, reduced by de-emphasis
 * above `corner` MHz, within luma's band.
 */
export const carrierNoise =
  (corner: number, band: (f: number) => number) =>
  (f: number): number =>
    (f / Math.sqrt(1 + (f / corner) * (f / corner))) * band(f);

/** Scaled so that white noise of variance 1 keeps variance 1. */
export function unitVariance({ weights, stride }: LineFilter): LineFilter {
  // The response to one sample.
  const n = (weights.length - 1) / 2;
  const whole = new Map<number, number>();
  weights.forEach((w, i) =>
    (stride === 1 ? [1] : AVERAGING).forEach((a, j) => {
      const at = (i - n) * stride + j;
      whole.set(at, (whole.get(at) ?? 0) + w * a);
    }),
  );
  const sigma = Math.sqrt([...whole.values()].reduce((s, w) => s + w * w, 0));
  return { stride, weights: weights.map((w) => w / sigma) };
}
