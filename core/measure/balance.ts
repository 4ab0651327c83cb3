/** The decision lists that bring clips together, from their statistics. */
import { LUMA } from '../image';
import { log2d, powd } from '../kernel';
import { type ClipStatistics, middle } from './statistics';

/** Where a clip is to be brought: two tones and the colour of grey. */
export interface Ground {
  readonly middle: number;
  readonly bright: number;
  readonly red: number;
  readonly blue: number;
}
export const groundOf = (s: ClipStatistics): Ground => ({
  middle: s.tones.p50,
  bright: s.tones.p95,
  red: s.neutral.red,
  blue: s.neutral.blue,
});

/** The common ground of several clips: the median of their tones, and a grey that is grey. */
export function commonGround(clips: readonly ClipStatistics[]): Ground {
  const of = (pick: (s: ClipStatistics) => number) => middle(clips.map(pick));
  return { middle: of((s) => s.tones.p50), bright: of((s) => s.tones.p95), red: 0, blue: 0 };
}

export interface BalanceOptions {
  /** 0…1: how much of the way to the ground. */
  readonly strength: number;
  /**
   * At most so many stops of light are given or taken, and so many of red or blue against green.
   */
  readonly stops: number;
  readonly cast: number;
}
/** Careful: what differs between clips is mostly what they show. */
export const BALANCE_DEFAULTS: BalanceOptions = { strength: 0.7, stops: 0.75, cast: 0.75 };

/** Light to the encoded curve near its middle. */
const GAMMA = 2.2;
/** Tones that lie so far apart (as a power of two) tell a power fully. */
const APART = 0.7;
const held = (v: number, most: number): number => Math.max(-most, Math.min(most, v));
const rounded = (v: number): number => Math.round(v * 1e4) / 1e4;

/**
 * The decision list that brings a clip's middle and bright tones, and its grey, to a ground. Slope
 * and power alone: black stays black. The middle moves by at most `stops`, the bright by half of
 * what is left between them, so that a night shot stays night.
 */
export function balanceTo(
  from: ClipStatistics,
  ground: Ground,
  { strength, stops, cast }: BalanceOptions,
) {
  const own = Math.max(0.02, from.tones.p50),
    bright = Math.max(own * 1.05, from.tones.p95);
  const stopsTo = (a: number, b: number): number => GAMMA * (log2d(Math.max(0.02, b)) - log2d(a));
  const first = held(stopsTo(own, ground.middle) * strength, stops);
  const second = first + held(stopsTo(bright, ground.bright) * strength - first, stops) / 2;
  const toMiddle = own * powd(2, first / GAMMA),
    toBright = Math.max(toMiddle * 1.02, bright * powd(2, second / GAMMA));
  // (s·x)^p through both tones; the nearer they lie, the less they say of the power.
  const apart = log2d(bright / own);
  const power =
    1 +
    Math.min(1, apart / APART) *
      (Math.max(0.6, Math.min(1.6, log2d(toBright / toMiddle) / apart)) - 1);
  const slope = powd(toMiddle, 1 / power) / own;
  const red = held((ground.red - from.neutral.red) * strength, cast),
    blue = held((ground.blue - from.neutral.blue) * strength, cast);
  const gains = [powd(2, red), 1, powd(2, blue)];
  const light = LUMA.reduce((s, w, i) => s + w * gains[i]!, 0);
  const slopes = gains.map((g) =>
    rounded(slope * powd(g / light, 1 / (GAMMA * power))),
  ) as unknown as readonly [number, number, number];
  const powers = rounded(power);
  return {
    slope: slopes,
    offset: [0, 0, 0] as const,
    power: [powers, powers, powers] as const,
    saturation: 1,
  };
}
