/** Test helpers: times of clips. */
import type { ClipTime } from '../time';

/** A minute at 25 frames per second. */
export const A_MINUTE: ClipTime = { frames: 1500, rate: [25, 1], cues: {} };
