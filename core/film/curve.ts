/** Characteristic curves in double precision. */
import { expd, log2d, logd } from '../kernel';
import type { Curve } from './stock';

/** log₁₀ 2. */
export const LOG10_2 = 0.3010299956639812;
/** log₁₀ in double precision, the same bits on every machine. */
export const log10d = (x: number): number => log2d(x) * LOG10_2;
/** 10^x in double precision, the same bits on every machine. */
export const pow10d = (x: number): number => expd(x * 2.302585092994046);

/** Soft hinge of width `w` between 0 and the line y = x: w·ln(1 + e^(x/w)). */
export function bend(x: number, w: number): number {
  const t = x / w;
  return t > 30 ? x : t < -30 ? w * expd(t) : w * logd(1 + expd(t));
}

/**
 * Density above base plus fog. `x`: decades of exposure beyond the curve's start, towards the dense
 * side.
 */
function above({ gamma, toe, range, shoulder }: Curve, x: number): number {
  const straight = gamma * bend(x, toe);
  // Bent into the shoulder; subtracting the bend's value at the foot makes the curve meet the base.
  return range - bend(range - straight, shoulder) - (range - bend(range, shoulder));
}

/** Density of a negative or a print at log₁₀ exposure `x`: rises with it. */
export const negativeDensity = (c: Curve, x: number): number => c.base + above(c, x - c.start);
/** Density of a reversal film at log₁₀ exposure `x`: falls with it. */
export const reversalDensity = (c: Curve, x: number): number => c.base + above(c, c.start - x);

/** The steepest slope of a curve, density a decade: the gamma that a densitometer measures. */
export function measuredGamma(density: (x: number) => number): number {
  let most = 0;
  for (let x = -4; x < 4; x += 0.01)
    most = Math.max(most, Math.abs(density(x + 0.005) - density(x - 0.005)) / 0.01);
  return most;
}

/**
 * A monotone function sampled at equal steps, with its inverse. Linear between samples, continued
 * by its end slopes.
 */
export class Sampled {
  private readonly rising: boolean;
  constructor(
    private readonly from: number,
    private readonly step: number,
    private readonly values: readonly number[],
  ) {
    this.rising = values.at(-1)! >= values[0]!;
  }
  at(x: number): number {
    const { values, from, step } = this;
    const t = (x - from) / step;
    const i = Math.max(0, Math.min(values.length - 2, Math.floor(t)));
    return values[i]! + (values[i + 1]! - values[i]!) * (t - i);
  }
  /** The argument at which the function has the value `y`; its ends beyond its range. */
  inverse(y: number): number {
    const { values, from, step, rising } = this;
    const first = values[0]!,
      last = values.at(-1)!;
    if (rising ? y <= first : y >= first) return from;
    if (rising ? y >= last : y <= last) return from + step * (values.length - 1);
    let low = 0,
      high = values.length - 1;
    while (high - low > 1) {
      const middle = (low + high) >> 1;
      if (values[middle]! <= y === rising) low = middle;
      else high = middle;
    }
    const a = values[low]!,
      b = values[high]!;
    return from + step * (low + (b === a ? 0 : (y - a) / (b - a)));
  }
}
