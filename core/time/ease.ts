/** Eases: progress between two values over a share of the time. */
export const EASE_KINDS = [
  'linear',
  'hold',
  'soft',
  'fast-first',
  'slow-first',
  'overshoot',
  'bounce',
  'cubic',
] as const;
/** One of `EASE_KINDS`. */
export type EaseKind = (typeof EASE_KINDS)[number];
/** The eases as text. */
export const EASE_WORDS: Record<EaseKind, string> = {
  linear: 'evenly',
  hold: 'held, then at once',
  soft: 'softly',
  'fast-first': 'fast first',
  'slow-first': 'slow first',
  overshoot: 'overshooting',
  bounce: 'bouncing once',
  cubic: 'by its handles',
};
/**
 * Inner control points of a cubic from (0, 0) to (1, 1). Times are clamped to 0…1, so that time
 * never runs backwards.
 */
export type EaseHandles = readonly [number, number, number, number];
/** An ease. */
export interface Ease {
  readonly kind: EaseKind;
  /** Strength, 0…100. Default: 50. `linear` and `hold` ignore it. */
  readonly by?: number | undefined;
  readonly handles?: EaseHandles | undefined;
}
/** Linear progress. */
export const LINEAR: Ease = { kind: 'linear' };
/** Handles that give linear progress. */
export const STILL_HANDLES: EaseHandles = [1 / 3, 0, 2 / 3, 1];

const smooth = (x: number): number => x * x * (3 - 2 * x);
const within = (x: number): number => (x < 0 ? 0 : x > 1 ? 1 : x);
/**
 * x to a power of 1…5, mixed from integer powers so that the result is the same on every machine.
 */
function power(x: number, by: number): number {
  const p = 1 + (by / 100) * 4,
    whole = Math.floor(p);
  let v = 1;
  for (let i = 0; i < whole; i++) v *= x;
  return v * (1 + (x - 1) * (p - whole));
}
const bezier = (a: number, b: number, t: number): number => {
  const s = 1 - t;
  return 3 * s * s * t * a + 3 * s * t * t * b + t * t * t;
};
/**
 * The cubic's value at time x. Time rises monotonically, so bisection finds it (40 halvings:
 * 1e-12).
 */
function cubic(x: number, [x1, y1, x2, y2]: EaseHandles): number {
  const [a, b] = [within(x1), within(x2)];
  let low = 0,
    high = 1;
  for (let i = 0; i < 40; i++) {
    const middle = (low + high) / 2;
    if (bezier(a, b, middle) < x) low = middle;
    else high = middle;
  }
  return bezier(y1, y2, (low + high) / 2);
}

/**
 * Progress at a share of the time: exactly 0 at 0 and 1 at 1. In between `overshoot` and handles
 * may leave 0…1.
 */
export function eased({ kind, by = 50, handles = STILL_HANDLES }: Ease, share: number): number {
  if (share <= 0) return 0;
  if (share >= 1) return 1;
  switch (kind) {
    case 'linear':
      return share;
    case 'hold':
      return 0;
    case 'soft': {
      const s = smooth(share);
      return by <= 50 ? share + (s - share) * (by / 50) : s + (smooth(s) - s) * (by / 50 - 1);
    }
    case 'slow-first':
      return power(share, by);
    case 'fast-first':
      return 1 - power(1 - share, by);
    case 'overshoot': {
      // A cubic that passes 1 and returns.
      const t = share - 1,
        over = 0.4 + (by / 100) * 3;
      return 1 + t * t * ((over + 1) * t + over);
    }
    case 'bounce': {
      // Falls to 1 over the first 60 % of the time, then rebounds and falls again.
      const fall = 0.6;
      if (share < fall) return (share / fall) * (share / fall);
      const t = (share - fall) / (1 - fall);
      return 1 - (by / 100) * 4 * t * (1 - t);
    }
    case 'cubic':
      return cubic(share, handles);
  }
}
