/** A minute of a clip at 25 frames a second. */
import type { ClipTime } from '../time';

export const A_MINUTE: ClipTime = { frames: 1500, rate: [25, 1], cues: {} };
