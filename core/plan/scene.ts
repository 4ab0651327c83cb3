/** What a look is planned over: a frame of a clip, and the look's plain values around it. */
import type { InTarget, Motion, PlatePoints, PointsInFrame, WholeClip } from '../clip';
import type { ImageNode } from '../graph';
import type { EncodingId } from '../image';
import { type DialValues, type Evaluation, evaluationAt, type LookDocument } from '../look';
import type { ClipTime, FrameIndex } from '../time';

export interface ClipFrame {
  /** The clip in the look frame at the working size, in light. */
  readonly bedrock: ImageNode;
  /** Names the clip's contents, for seeds: never a database id. */
  readonly content: string;
  /** Counted from the clip's first. */
  readonly frame: FrameIndex;
  /** How long the clip is, its rate, its cues. */
  readonly time: ClipTime;
  /** How the clip is coded; sRGB where nothing says. */
  readonly encoding?: EncodingId;
  /** The clip's points in the look frame, where it has set any. */
  readonly points?: PointsInFrame;
  /**
   * The whole clip: luma by shares, for keys that count in them; and its mean colour, for what
   * stands out from it.
   */
  readonly whole?: WholeClip | undefined;
  /**
   * The footage of the clip's pins at this moment, as the bedrock is; where one is not set, the
   * clip itself stands in.
   */
  readonly footage?: Readonly<Record<string, ImageNode>>;
  /** Of the footage that serves as plates: its own black and white. */
  readonly plates?: Readonly<Record<string, PlatePoints>>;
  /** Where the look's frame lies in the one that is asked for; without, they are the same. */
  readonly framed?: InTarget | undefined;
  /** The clip at another frame, as `requirements` asked for it; undefined outside the clip. */
  readonly at?: (frame: FrameIndex) => ClipFrame | undefined;
  /**
   * The clip as it was shot, without its balance; or its bare code values, as they would be seen
   * undecoded.
   */
  readonly before?: (how: 'shot' | 'recorded') => ImageNode;
  /** From this frame to the next, as `needs` asked for it; undefined where it is not measured. */
  readonly motion?: () => Motion | undefined;
}

/** Pictures of the frame that is asked for. */
export interface Plan {
  readonly result: ImageNode;
  /** The clip as the look begins with it. */
  readonly bedrock: ImageNode;
  /** What each layer leads to, up to and including itself, by the layer's key. */
  readonly strata: ReadonlyMap<string, ImageNode>;
  /** What each layer's and step's mattes cover, by the layer's key or `layer/step`; one plane. */
  readonly mattes: ReadonlyMap<string, ImageNode>;
}

/** A look at a frame of a clip, its dials where they stand. */
export interface Scene {
  readonly look: LookDocument;
  readonly clip: ClipFrame;
  readonly dials: DialValues;
}

/** The look so many frames after the scene's, or a part of one. */
export function evaluationAfter({ look, clip, dials }: Scene, after = 0): Evaluation {
  const { time, frame, content, bedrock } = clip;
  return evaluationAt(look, dials, {
    ...time,
    frame: frame + after,
    content,
    aspect: bedrock.width / bedrock.height,
  });
}
