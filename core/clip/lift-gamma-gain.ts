/**
 * Converts a balance (slope, offset, power) to lift, gamma and gain, and back. Both describe the
 * same function.
 */
import { log2d, powd } from '../kernel';
import type { Colour } from '../parameters';
import type { Balance } from './balance';

/**
 * In per cent, as the step *three-way* counts: lift of half the scale, gamma and gain of a factor
 * of four.
 */
export interface ThreeWay {
  readonly lift: Colour;
  readonly gamma: Colour;
  readonly gain: Colour;
  readonly saturation: number;
}
/** The balance that changes nothing. */
export const NEUTRAL_BALANCE: Balance = {
  slope: [1, 1, 1],
  offset: [0, 0, 0],
  power: [1, 1, 1],
  saturation: 1,
};

const each = (f: (i: 0 | 1 | 2) => number): Colour => [f(0), f(1), f(2)];
const held = (v: number, most: number): number => Math.max(-most, Math.min(most, v));
const rounded = (v: number): number => Math.round(v * 1e5) / 1e5;

/**
 * (gain · (x + lift · (1 − x)))^(1 ÷ gamma) as slope, offset and power: slope = gain · (1 − lift),
 * offset = gain · lift.
 */
export function balanceFrom({ lift, gamma, gain, saturation }: ThreeWay): Balance {
  const lifted = (i: 0 | 1 | 2) => held(lift[i] / 200, 0.9),
    gained = (i: 0 | 1 | 2) => powd(4, held(gain[i] / 100, 1));
  return {
    slope: each((i) => rounded(gained(i) * (1 - lifted(i)))),
    offset: each((i) => rounded(gained(i) * lifted(i))),
    power: each((i) => rounded(powd(4, held(-gamma[i] / 100, 1)))),
    saturation: rounded(saturation),
  };
}

/**
 * Lift, gamma and gain of a balance; the nearest ones where no three-way gives that balance
 * exactly.
 */
export function threeWayOf({ slope, offset, power, saturation }: Balance): ThreeWay {
  const gain = (i: 0 | 1 | 2) => Math.max(1 / 4, Math.min(4, slope[i] + offset[i]));
  const percent = (v: number) => Math.round(v * 1e4) / 100 + 0; // never −0
  return {
    lift: each((i) => percent(2 * held(offset[i] / gain(i), 0.9))),
    gamma: each((i) => percent(held(-log2d(Math.max(1e-3, power[i])) / 2, 1))),
    gain: each((i) => percent(log2d(gain(i)) / 2)),
    saturation,
  };
}
