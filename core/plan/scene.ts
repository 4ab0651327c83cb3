/** What a look is planned on: a frame of a clip, and the results of planning. */
import type { FrameAssetId, PlacedParts } from '../assets';
import type { InTarget, PlatePoints, PlacesInFrame, WholeClip } from '../clip';
import { type ImageNode, seedOf } from '../graph';
import type { EncodingId } from '../image';
import {
  type DialValues,
  type Evaluation,
  evaluationAt,
  type FollowedPins,
  type FollowedPlaces,
  type LookDocument,
} from '../look';
import type { FrameContext } from '../steps';
import {
  chanceFrame,
  chanceFrames,
  type ClipTime,
  type FrameIndex,
  seedNames,
  startOf,
} from '../time';

/** A frame of a clip as a look sees it. */
export interface ClipFrame {
  /** The clip in the look frame at the working size, in linear light. */
  readonly bedrock: ImageNode;
  /** Content hash of the clip, for seeds; never a database id. */
  readonly content: string;
  /** Index, counted from the clip's first frame. */
  readonly frame: FrameIndex;
  /** Length, rate and cues of the clip. */
  readonly time: ClipTime;
  /** Encoding of the clip. Default: sRGB. */
  readonly encoding?: EncodingId;
  /** The places of the clip's pins in the look frame, if it has set any. */
  readonly places?: PlacesInFrame;
  /** Pins that traces move, with their places a number of frames (also fractions) later. */
  readonly followed?: Followed | undefined;
  /**
   * The whole clip: percentiles of luma for keys that count in them, and its mean colour for
   * colours that contrast with it.
   */
  readonly whole?: WholeClip | undefined;
  /**
   * Footage of the clip's pins at this moment, as bedrocks. Where one is not set, the clip itself
   * stands in.
   */
  readonly footage?: Readonly<Record<string, ImageNode>>;
  /** Black and white points of footage that is used as a plate. */
  readonly plates?: Readonly<Record<string, PlatePoints>>;
  /** Position of the look's frame in the requested one. Default: they are the same. */
  readonly framed?: InTarget | undefined;
  /** The clip at another frame, as `requirements` asked for it; undefined outside the clip. */
  readonly at?: (frame: FrameIndex) => ClipFrame | undefined;
  /** The clip as shot, without its balance, or its bare code values, shown as they are. */
  readonly before?: (how: 'shot' | 'recorded') => ImageNode;
  /** Parts of assets at this frame, as `needs` asked for them; undefined if not made yet. */
  readonly part?: <K extends FrameAssetId>(asset: K) => PlacedParts[K] | undefined;
}

/** Pins that traces move. */
export interface Followed extends FollowedPins {
  readonly after: (frames: number) => FollowedPlaces;
}

/** Pictures of the requested frame. */
export interface Plan {
  readonly result: ImageNode;
  /** The bedrock. */
  readonly bedrock: ImageNode;
  /** The result up to and including each layer, by the layer's key. */
  readonly strata: ReadonlyMap<string, ImageNode>;
  /** Coverage of each layer's and step's mattes, by the layer's key or `layer/step`; one plane. */
  readonly mattes: ReadonlyMap<string, ImageNode>;
}

/** A look at a frame of a clip, with the dials' values. */
export interface Scene {
  readonly look: LookDocument;
  readonly clip: ClipFrame;
  readonly dials: DialValues;
}

/** The evaluation of the look a number of frames (also fractions) after the scene's. */
export function evaluationAfter({ look, clip, dials }: Scene, after = 0): Evaluation {
  const { time, frame, content, bedrock } = clip;
  return evaluationAt(look, dials, {
    ...time,
    frame: frame + after,
    content,
    aspect: bedrock.width / bedrock.height,
    // Between frames as far as was said, which a difference of frames would round.
    followed:
      clip.followed && ((at) => clip.followed!.after(at === frame + after ? after : at - frame)),
  });
}

/** Frames of the cues that a look asks for and the clip has set. */
const cuesOf = ({ look, clip }: Scene): readonly FrameIndex[] =>
  (look.pins ?? []).flatMap((p) => (p.kind === 'cue' ? (clip.time.cues[p.key] ?? []) : []));

/** What a step can look at besides its own input. */
type Around = Pick<
  FrameContext,
  'earlier' | 'motion' | 'instantBefore' | 'framesSince' | 'layerNamed'
>;

/** Where and when a step (or the mattes of `use`) of a layer is evaluated. */
export function contextOf(
  scene: Scene,
  layer: string,
  use: string,
  below: ImageNode,
  around: Around = {},
): FrameContext {
  const { clip, look } = scene;
  const { width, height } = clip.bedrock;
  const frame = chanceFrame(clip.frame, clip.time);
  return {
    frame,
    index: clip.frame,
    seconds: startOf(frame, clip.time.rate),
    rate: clip.time.rate,
    cuts: chanceFrames(clip.time.cuts ?? [], clip.time),
    cues: chanceFrames(cuesOf(scene), clip.time),
    encoding: clip.encoding ?? 'srgb',
    width,
    height,
    seed: seedOf(look.seed, layer, use, ...seedNames(clip.content, clip.time)),
    others: { below, clip: clip.bedrock },
    earlier: around.earlier,
    motion: around.motion,
    instantBefore: around.instantBefore,
    framesSince: around.framesSince,
    layerNamed: around.layerNamed,
  };
}
