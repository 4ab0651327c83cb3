/** Other frames of a clip, as far as they belong to the same shot. */
import { inBetween } from '../assets';
import { checkpoint, type ImageNode } from '../graph';
import { type FrameIndex, isCutBetween } from '../time';
import type { ClipFrame } from './scene';

/**
 * The shot of one frame of a clip. `at` gives other frames; undefined outside the clip. `nothing`
 * is the picture where there is no frame.
 */
export class Shot {
  constructor(
    private readonly clip: ClipFrame,
    private readonly at: (frame: FrameIndex) => ClipFrame | undefined,
    private readonly nothing: ImageNode,
  ) {}

  /** Whether a frame belongs to the shot. */
  has(frame: FrameIndex): boolean {
    const { time, frame: now } = this.clip,
      { before, after } = time.spare ?? { before: 0, after: 0 };
    return frame >= -before && frame < time.frames + after && !isCutBetween(time, now, frame);
  }

  private frame(frame: FrameIndex): ClipFrame | undefined {
    if (frame === this.clip.frame) return this.clip;
    return this.has(frame) ? this.at(frame) : undefined;
  }

  /** The clip at a frame. */
  picture(frame: FrameIndex): ImageNode {
    return this.frame(frame)?.bedrock ?? this.nothing;
  }

  /**
   * The clip at a share of the way between two frames, along its motion if `moves`; only adjacent
   * frames have motion between them. If one of them is outside the shot, the other one.
   */
  between(first: FrameIndex, second: FrameIndex, share: number, moves: boolean): ImageNode {
    if (!this.has(first) || !this.has(second))
      return this.picture(this.has(first) ? first : second);
    const motion = moves && second === first + 1 ? this.frame(first)?.part?.('motion') : undefined;
    return checkpoint(
      inBetween(this.picture(first), this.picture(second), motion?.between?.(share), share),
    );
  }

  /**
   * Motion vectors from a frame to the next; for the last frame of the shot, those of the frame
   * before it.
   */
  onward(frame: FrameIndex): ImageNode | undefined {
    const at = this.has(frame + 1) ? frame : frame - 1;
    return this.has(at) ? this.frame(at)?.part?.('motion')?.onward : undefined;
  }
}
