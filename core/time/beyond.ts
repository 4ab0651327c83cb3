/** What is there before footage begins and after it has ended. */
import type { FrameIndex } from './clip-time';

const modulo = (v: number, n: number): number => ((v % n) + n) % n;

/**
 * The frame that is shown at a frame that may lie beyond footage of so many: its first or last
 * (`hold`), from the start `again`, or `to-and-fro` without the frames at either end twice. Any
 * other way: the frame itself, where nothing is.
 */
export function frameBeyond(at: FrameIndex, frames: number, how: string): FrameIndex {
  if (how === 'hold') return Math.max(0, Math.min(frames - 1, at));
  if (how === 'again') return modulo(at, frames);
  if (how !== 'to-and-fro') return at;
  if (frames === 1) return 0;
  const there = modulo(at, 2 * frames - 2);
  return there < frames ? there : 2 * frames - 2 - there;
}
