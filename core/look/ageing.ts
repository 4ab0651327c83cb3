/**
 * A dial that changes over the clips of a video, from the first clip's value to the last clip's.
 */
export const EASES = {
  even: 'evenly',
  late: 'late',
  early: 'early',
  both: 'slowly at both ends',
} as const;
/** One of `EASES`. */
export type EaseId = keyof typeof EASES;

const eased: Readonly<Record<EaseId, (t: number) => number>> = {
  even: (t) => t,
  late: (t) => t * t,
  early: (t) => t * (2 - t),
  both: (t) => t * t * (3 - 2 * t),
};

/**
 * The dial's values for `count` clips in order. A single clip gets the first. Rounded to
 * hundredths; the ends are exact.
 */
export function agedValues(count: number, from: number, to: number, ease: EaseId): number[] {
  return Array.from({ length: count }, (_, i) => {
    const t = count < 2 ? 0 : i / (count - 1);
    if (t === 0) return from;
    return t === 1 ? to : Math.round((from + (to - from) * eased[ease](t)) * 100) / 100;
  });
}
