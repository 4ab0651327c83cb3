/** Random numbers outside kernels: the same seed gives the same numbers on any machine. */
import { mixed32 } from '../kernel';

/** A 32-bit hash of integers, mixed in one after another. */
export const named = (...parts: number[]): number =>
  parts.reduce((h, p) => mixed32(h ^ (p | 0)), 0x3c6ef372);
/** Uniform in 0 ≤ u < 1. */
export const chance = (...parts: number[]): number => (named(...parts) >>> 8) * 2 ** -24;
/** Uniform in −1 ≤ u < 1. */
export const either = (...parts: number[]): number => chance(...parts) * 2 - 1;

const fade = (t: number): number => t * t * t * (t * (t * 6 - 15) + 10);
const between = (a: number, b: number, t: number): number => a + (b - a) * t;
/** One-dimensional value noise in −1…1, with one cell per unit. */
export function sway(seed: number, t: number): number {
  const i = Math.floor(t);
  return between(either(seed, i), either(seed, i + 1), fade(t - i));
}
/** Least size of a swing, as a share of the largest. */
const LEAST_SWING = 0.35;
/**
 * A movement to and fro in −1…1 that turns once in a unit of `t`, each time as far as chance has it:
 * value noise of two cells a unit, whose signs alternate.
 */
export function swing(seed: number, t: number): number {
  const i = Math.floor(2 * t);
  const far = (k: number): number =>
    (LEAST_SWING + (1 - LEAST_SWING) * chance(seed, k)) * ((k & 1) === 0 ? 1 : -1);
  return between(far(i), far(i + 1), fade(2 * t - i));
}
/** Three-dimensional value noise in −1…1, with one cell per unit. */
export function drift(seed: number, x: number, y: number, z: number): number {
  const [ix, iy, iz] = [Math.floor(x), Math.floor(y), Math.floor(z)];
  const [u, v, w] = [fade(x - ix), fade(y - iy), fade(z - iz)];
  const at = (i: number, j: number, k: number): number => either(seed, ix + i, iy + j, iz + k);
  const plane = (k: number): number =>
    between(between(at(0, 0, k), at(1, 0, k), u), between(at(0, 1, k), at(1, 1, k), u), v);
  return between(plane(0), plane(1), w);
}
