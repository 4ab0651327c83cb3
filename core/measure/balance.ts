/** Balances that bring clips together, computed from their statistics. */
import { LUMA } from '../image';
import { log2d, powd } from '../kernel';
import { type ClipStatistics, middle } from './statistics';

/** What a clip is brought to: two tones, and the colour of grey. */
export interface Ground {
  readonly middle: number;
  readonly bright: number;
  readonly red: number;
  readonly blue: number;
}
/** The ground that a clip itself has. */
export const groundOf = (s: ClipStatistics): Ground => ({
  middle: s.tones.p50,
  bright: s.tones.p95,
  red: s.neutral.red,
  blue: s.neutral.blue,
});

/** The common ground of several clips: the median of their tones, and neutral grey. */
export function commonGround(clips: readonly ClipStatistics[]): Ground {
  const of = (pick: (s: ClipStatistics) => number) => middle(clips.map(pick));
  return { middle: of((s) => s.tones.p50), bright: of((s) => s.tones.p95), red: 0, blue: 0 };
}

/** How far balances go. */
export interface BalanceOptions {
  /** 0…1: share of the way to the ground. */
  readonly strength: number;
  /** Limits: stops of light, and stops of red or blue against green. */
  readonly stops: number;
  readonly cast: number;
}
/** Cautious defaults, because clips differ mostly in what they show. */
export const BALANCE_DEFAULTS: BalanceOptions = { strength: 0.7, stops: 0.75, cast: 0.75 };

/** Approximate exponent of light to the encoded curve around the middle. */
const GAMMA = 2.2;
/** Distance of two tones (as a power of two) from which on they determine the power fully. */
const APART = 0.7;
const held = (v: number, most: number): number => Math.max(-most, Math.min(most, v));
const rounded = (v: number): number => Math.round(v * 1e4) / 1e4;

/**
 * The balance that brings a clip's middle and bright tones and its grey to a ground. Only slope and
 * power change, so black stays black. The middle moves by at most `stops`, the bright tone by half
 * of the remaining difference, so that a night shot stays night.
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
  // (s·x)^p through both tones. The closer they are, the less they determine the power.
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
