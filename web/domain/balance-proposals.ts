/** Proposes balances for clips from their statistics, and predicts the results. */
import {
  type Balance,
  BALANCE_DEFAULTS,
  balanceTo,
  type BalanceOptions,
  type ClipStatistics,
  commonGround,
  type Ground,
  greyUnder,
  groundOf,
  SRGB_DECODE,
} from '../../core';
import type { ClipView } from '../data/views';

/** `common` ground, a clip's id, or `reference:` with a reference's id. */
export interface Wish extends BalanceOptions {
  readonly to: string;
}
/** The initial wish. */
export const FIRST_WISH: Wish = { to: 'common', ...BALANCE_DEFAULTS };

type Measured = ClipView & { readonly statistics: ClipStatistics };
/** Whether a clip has statistics. */
export const isMeasured = (c: ClipView): c is Measured => c.statistics !== null;

/** A clip's ground (middle, bright, grey) under its own balance. */
function groundUnder(
  { statistics, encoding }: Pick<Measured, 'statistics' | 'encoding'>,
  b: Balance | null,
): Ground {
  const own = groundOf(statistics);
  if (!b) return own;
  const tone = (v: number) => mean(greyUnder(v, b, encoding));
  const middle = greyUnder(own.middle, b, encoding).map((v) => SRGB_DECODE.fn(v));
  const stops = (i: 0 | 2) => Math.log2(Math.max(1e-6, middle[i]!) / Math.max(1e-6, middle[1]!));
  return {
    middle: tone(own.middle),
    bright: tone(own.bright),
    red: own.red + stops(0),
    blue: own.blue + stops(2),
  };
}
const mean = (c: readonly [number, number, number]): number =>
  0.2126 * c[0] + 0.7152 * c[1] + 0.0722 * c[2];

/** A proposed balance, with the ground before and after. */
export interface Proposal {
  readonly clip: Measured;
  readonly balance: Balance | null;
  readonly now: Ground;
  readonly then: Ground;
}

/** The id of the reference in a wish; null if it names none. */
export const referenceIn = (wish: Wish): string | null =>
  wish.to.startsWith('reference:') ? wish.to.slice('reference:'.length) : null;

/**
 * Proposals for the measured clips of `chosen`. The ground is that of a clip as balanced now, of a
 * reference's picture (none until measured), or of all clips as shot.
 */
export function proposals(
  all: readonly ClipView[],
  chosen: ReadonlySet<string>,
  wish: Wish,
  reference?: ClipStatistics,
): Proposal[] {
  const measured = all.filter(isMeasured);
  const hero = measured.find((c) => c.id === wish.to);
  if (measured.length === 0 || (referenceIn(wish) !== null && !reference)) return [];
  const ground = reference
    ? groundOf(reference)
    : hero
      ? groundUnder(hero, hero.balance)
      : commonGround(measured.map((c) => c.statistics));
  return measured
    .filter((c) => chosen.has(c.id))
    .map((clip) => {
      const balance = clip.id === wish.to ? clip.balance : balanceTo(clip.statistics, ground, wish);
      return {
        clip,
        balance,
        now: groundUnder(clip, clip.balance),
        then: groundUnder(clip, balance),
      };
    });
}
