/** Spans: how far something acts at a frame. */
import type { FrameIndex } from './clip-time';
import { type Ease, eased } from './ease';
import type { Stretch } from './instant';

/** A stretch of frames, and over how many of them what acts there comes and goes. */
export interface Span extends Stretch {
  readonly coming: number;
  readonly going: number;
  readonly ease: Ease;
}

/**
 * How far a span acts at a frame: 0 outside it, exactly; 1 inside once it has come. Coming over n
 * frames it is full n frames after its first, going over n frames it is full until n frames before
 * its last; with 0 at once, on the frame.
 */
export function levelAt({ first, last, coming, going, ease }: Span, frame: FrameIndex): number {
  if (frame < first || frame > last) return 0;
  return (
    eased(ease, (frame - first + 1) / (coming + 1)) * eased(ease, (last - frame + 1) / (going + 1))
  );
}
