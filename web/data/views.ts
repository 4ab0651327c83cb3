/** What the endpoints answer with: the page's side of these types. */
import type {
  Balance,
  ClipPins,
  ClipStatistics,
  EncodingId,
  Fit,
  Flag,
  FrameFormat,
  LookDocument,
  PlatePoints,
  Reframe,
  Sampling,
  CutDecisions,
  InOut,
} from '../../core';
import type { Rate, Retime } from '../../core/time';
import type { AcceptedFlags, TrimsByLook } from '../../server/database/columns';
import type { FormatId } from '../../server/render/write';

export type WorkState = 'waiting' | 'running' | 'done' | 'failed' | 'cancelled';
export interface InspectionView {
  readonly state: WorkState;
  readonly progress: number;
  /** Of the clip as it is now; otherwise something has changed since. */
  readonly current: boolean;
  readonly flags: readonly Flag[];
  readonly error: string | null;
}
export interface ClipView {
  readonly id: string;
  readonly name: string;
  readonly hash: string;
  readonly kind: 'video' | 'still' | 'sequence';
  /** How its samples are read. */
  readonly format: FrameFormat;
  /**
   * What of that was corrected by hand, and what the file's tags say (or was guessed from them).
   */
  readonly sampling: Sampling | null;
  readonly tagged: FrameFormat;
  readonly proxyMatrix: 'own' | null;
  readonly pixelAspect: number;
  readonly rate: Rate;
  /** Of its footage; `lengthOf` tells how many it shows. */
  readonly frames: number;
  readonly slots: readonly number[] | null;
  readonly codec: string;
  readonly sound: boolean;
  readonly encoding: EncodingId;
  readonly guess: EncodingId;
  /** Nothing in the file says how its colours are coded. */
  readonly untagged: boolean;
  readonly fit: Fit;
  /** What of it lies in the middle of the frame, and how large. */
  readonly reframe: Reframe | null;
  /** What of the footage it is; none: all of it. */
  readonly inOut: InOut | null;
  /**
   * Frames of its footage with which another shot begins: as they were found, but for what was
   * said.
   */
  readonly cuts: readonly number[];
  readonly cutsFound: readonly number[];
  readonly cutsSaid: CutDecisions;
  /** Its speed along its own time. */
  readonly retime: Retime | null;
  /**
   * What the look it wears makes of its time then: put in by the page, for what is shown under a
   * look (`underLook`).
   */
  readonly lookRetime?: Retime | null | undefined;
  readonly status: 'open' | 'in work' | 'agreed';
  readonly note: string;
  readonly scene: string;
  readonly role: 'clip' | 'plate';
  readonly follows: boolean;
  readonly trims: TrimsByLook;
  readonly pins: ClipPins;
  readonly balance: Balance | null;
  /** Black and white of a plate that were set by hand. */
  readonly plate: PlatePoints | null;
  readonly accepted: AcceptedFlags;
  readonly inspection: InspectionView | null;
  /** None until the footage was measured in this encoding. */
  readonly statistics: ClipStatistics | null;
  /** How far its motion is measured; none until it was asked for. */
  readonly motion: {
    readonly state: WorkState;
    readonly progress: number;
    readonly error: string | null;
  } | null;
  /** What is doubtful about the file, in words. */
  readonly warnings: readonly string[];
  readonly bytes: number;
  readonly look: {
    readonly lookId: string;
    readonly versionId: string;
    readonly name: string;
    readonly number: number;
    /** Flags that it raises on purpose. */
    readonly means: readonly string[];
  } | null;
  readonly proxies: Readonly<Record<'540' | '270', readonly [number, number]>>;
  readonly strip: number;
}
export interface ImportView {
  readonly id: string;
  readonly name: string;
  readonly state: WorkState;
  readonly progress: number;
  readonly doing: string;
  readonly error: string | null;
  readonly clipId: string | null;
}
export interface ProjectView {
  readonly id: string;
  readonly name: string;
  readonly width: number;
  readonly height: number;
  readonly rate: Rate;
  readonly clips: readonly ClipView[];
  /** Footage that looks use as material. */
  readonly plates: readonly ClipView[];
  readonly imports: readonly ImportView[];
}
export interface ReferenceView {
  readonly id: string;
  readonly name: string;
  /** The clip, unless it has gone. */
  readonly clipId: string | null;
  readonly clipName: string;
  readonly frame: number;
  /**
   * What it was made from: the look's name, the version's number, and whether there were unsaved
   * edits.
   */
  readonly made: string;
  readonly document: LookDocument;
}
/** A kept part of a look. */
export interface PieceView {
  readonly id: string;
  readonly name: string;
  readonly document: LookDocument;
}
/** A project among all. */
export interface ProjectRow extends Pick<ProjectView, 'id' | 'name' | 'width' | 'height'> {
  readonly rateNum: number;
  readonly rateDen: number;
  /** When anything in it was last changed; and since when it is removed. */
  readonly touched: string;
  readonly removed: string | null;
  readonly clips: number;
}
export interface LookView {
  readonly id: string;
  readonly name: string;
  /** Newest first. */
  readonly versions: readonly {
    readonly id: string;
    readonly number: number;
    readonly created: string;
  }[];
  /** Those out of sight, which can be put back. */
  readonly removed: readonly {
    readonly id: string;
    readonly number: number;
    readonly created: string;
  }[];
}
/** A clip that will go on to the next version of a look, and the project it is in. */
export interface FollowerView {
  readonly clip: ClipView;
  readonly project: Pick<ProjectView, 'id' | 'name' | 'width' | 'height'>;
}
export interface VersionView {
  readonly id: string;
  readonly lookId: string;
  readonly number: number;
  readonly document: LookDocument;
}
export interface ItemView {
  readonly id: string;
  /** The footage it is made from. */
  readonly hash: string;
  readonly clipName: string;
  readonly lookName: string | null;
  readonly state: WorkState;
  readonly frames: number;
  readonly rendered: number;
  /**
   * Whether the clip runs at a speed of its own; and whether it is delivered without the sound its
   * footage has for that.
   */
  readonly retimed: boolean;
  /** Of its footage: the first frame, and how many a second. */
  readonly first: number;
  readonly rate: Rate;
  readonly silenced: boolean;
  readonly error: string | null;
  readonly bytes: number | null;
  readonly joining: boolean;
  /** When a worker began with it. */
  readonly started: string | null;
}
export interface DeliveryView {
  readonly id: string;
  readonly format: FormatId;
  readonly width: number;
  readonly height: number;
  readonly coverage: boolean;
  readonly created: string;
  readonly items: readonly ItemView[];
}
export interface KilnView {
  readonly deliveries: readonly DeliveryView[];
  readonly workers: number;
}

/** What workers bake of a clip, or baked last. */
export interface BakingView {
  readonly run: {
    readonly state: 'waiting' | 'running' | 'done' | 'failed' | 'cancelled';
    readonly first: number;
    readonly frames: number;
    /** How many of them are baked. */
    readonly made: number;
    readonly error: string | null;
    readonly width: number;
    readonly height: number;
    /** A page's own bytes, or a delivery's samples. */
    readonly keeps: string;
  } | null;
  /** All that workers baked. */
  readonly total: { readonly bytes: number; readonly files: number };
}
