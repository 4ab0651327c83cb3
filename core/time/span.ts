/** Spans: how far something acts at a frame. */
import type { FrameIndex } from './clip-time';
import { type Ease, eased } from './ease';
import type { Stretch } from './instant';

/** A stretch of frames, and the numbers of frames over which it fades in and out. */
export interface Span extends Stretch {
  readonly coming: number;
  readonly going: number;
  readonly ease: Ease;
}

/**
 * The level of a span at a frame: exactly 0 outside, 1 inside after fading in. Fading in over n
 * frames, it is full n frames after its first; fading out over n, until n frames before its last.
 * With 0 it switches at the frame.
 */
export function levelAt({ first, last, coming, going, ease }: Span, frame: FrameIndex): number {
  if (frame < first || frame > last) return 0;
  return (
    eased(ease, (frame - first + 1) / (coming + 1)) * eased(ease, (last - frame + 1) / (going + 1))
  );
}
