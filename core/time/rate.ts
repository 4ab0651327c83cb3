/** Frames per second as an integer fraction. */
export type Rate = readonly [number, number];

/** Whether two rates are equal. */
export const sameRate = (a: Rate, b: Rate): boolean => a[0] * b[1] === b[0] * a[1];
/** A rate as a number. */
export const framesPerSecond = (r: Rate): number => r[0] / r[1];
/** Time at which a frame begins, in seconds. */
export const startOf = (frame: number, r: Rate): number => (frame * r[1]) / r[0];
/** The frame nearest to a time in seconds, halves up. */
export const frameAt = (seconds: number, r: Rate): number =>
  Math.floor((seconds * r[0]) / r[1] + 0.5);

/** Common rates, the likeliest first. */
export const COMMON: readonly Rate[] = [
  [24000, 1001],
  [24, 1],
  [25, 1],
  [30000, 1001],
  [30, 1],
  [48, 1],
  [50, 1],
  [60000, 1001],
  [60, 1],
  [12, 1],
  [15, 1],
  [18, 1],
  [100, 1],
  [120, 1],
];

/** The common rate within 0.1 % of `fps`, or a fraction over 1000. */
export function nearestRate(fps: number): Rate {
  const best = COMMON.reduce((a, b) =>
    Math.abs(framesPerSecond(b) - fps) < Math.abs(framesPerSecond(a) - fps) ? b : a,
  );
  return Math.abs(framesPerSecond(best) - fps) / fps < 0.001
    ? best
    : [Math.max(1, Math.round(fps * 1000)), 1000];
}

/** A rate as text: 25, 29.97. */
export const rateLabel = (r: Rate): string => String(Math.round((r[0] / r[1]) * 100) / 100);

const two = (n: number): string => String(n).padStart(2, '0');
/** Minutes, seconds and frames (fractional rates are rounded up; no frames are dropped). */
export function timecode(frame: number, r: Rate): string {
  const whole = Math.ceil(r[0] / r[1]),
    seconds = Math.floor(frame / whole);
  return `${two(Math.floor(seconds / 60))}:${two(seconds % 60)}:${two(frame % whole)}`;
}
