/** What footage shows before its first frame and after its last. */
import type { FrameIndex } from './clip-time';

const modulo = (v: number, n: number): number => ((v % n) + n) % n;

/**
 * The frame shown at an index that may lie outside footage of `frames` frames: the first or last
 * (`hold`), repeated (`again`), or `to-and-fro` without doubling the ends. Any other way returns
 * the index itself, where nothing is shown.
 */
export function frameBeyond(at: FrameIndex, frames: number, how: string): FrameIndex {
  if (how === 'hold') return Math.max(0, Math.min(frames - 1, at));
  if (how === 'again') return modulo(at, frames);
  if (how !== 'to-and-fro') return at;
  if (frames === 1) return 0;
  const there = modulo(at, 2 * frames - 2);
  return there < frames ? there : 2 * frames - 2 - there;
}
