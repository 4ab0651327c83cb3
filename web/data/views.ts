/** Types of the endpoints' answers. */
import type {
  BeatsSaid,
  ClipDecisions,
  ClipStatistics,
  CutDocument,
  EncodingId,
  Flag,
  FormatId,
  FrameAssetId,
  FrameFormat,
  KeptLoudness,
  LookDocument,
  Mark,
  PlaceKindId,
  SequenceChoice,
  SoundFacts,
} from '../../core';
import type { Rate, Retime } from '../../core/time';

/** States of a job. */
export type WorkState = 'waiting' | 'running' | 'done' | 'failed' | 'cancelled';
/** An inspection of a clip. */
export interface InspectionView {
  readonly state: WorkState;
  readonly progress: number;
  /** Whether it is of the clip in its current state. */
  readonly current: boolean;
  readonly flags: readonly Flag[];
  readonly error: string | null;
}
/** A trace of a clip's footage: marks that people gave, and the state of the track made from them. */
export interface TraceView {
  readonly id: string;
  readonly name: string;
  /** What is marked. */
  readonly kind: PlaceKindId;
  /** Whether what lies under the marks is followed. */
  readonly follow: boolean;
  /** Frames either way over which it is smoothed; 0 for none. */
  readonly smooth: number;
  readonly marks: readonly Mark[];
  /** Name of the track: it changes with the marks. */
  readonly of: string;
  readonly state: WorkState;
  /** 0…1. */
  readonly progress: number;
  readonly error: string | null;
}
/** A clip, with what is decided about it. */
export interface ClipView extends Omit<ClipDecisions, 'version'> {
  readonly id: string;
  readonly hash: string;
  readonly kind: 'video' | 'still' | 'sequence';
  /** Pixel format, with corrections. */
  readonly format: FrameFormat;
  /** The format by the file's tags (or guessed). */
  readonly tagged: FrameFormat;
  readonly proxyMatrix: 'own' | null;
  readonly pixelAspect: number;
  readonly rate: Rate;
  /** Frames of its footage; `lengthOf` gives those of the clip. */
  readonly frames: number;
  readonly slots: readonly number[] | null;
  readonly codec: string;
  /** Tracks of sound. */
  readonly tracks: number;
  readonly guess: EncodingId;
  /** The file has no colour tags. */
  readonly untagged: boolean;
  /** Cuts in its footage: detected ones with people's decisions applied, and those detected. */
  readonly cuts: readonly number[];
  readonly cutsFound: readonly number[];
  /** Retime by the look; set by the page for what is shown under a look (`underLook`). */
  readonly lookRetime?: Retime | null | undefined;
  readonly inspection: InspectionView | null;
  /** Null until the footage is measured in this encoding. */
  readonly statistics: ClipStatistics | null;
  /** Progress of what is computed from its footage, by kind, where it was asked for. */
  readonly assets: {
    readonly [K in FrameAssetId]?: {
      readonly state: WorkState;
      readonly progress: number;
      readonly error: string | null;
    };
  };
  /** What is traced in its footage. */
  readonly traces: readonly TraceView[];
  /** Doubts about the file, as text. */
  readonly warnings: readonly string[];
  /** Frames at its end that cannot be read. */
  readonly missing: number;
  /** What stands where a sequence’s pictures are missing; null where none is. */
  readonly gaps: SequenceChoice['gaps'] | null;
  readonly bytes: number;
  readonly look: {
    readonly lookId: string;
    readonly versionId: string;
    readonly name: string;
    readonly number: number;
    /** Flags that the look raises on purpose. */
    readonly means: readonly string[];
    /** Whether it plays clips at other moments than they were shot. */
    readonly retimes: boolean;
  } | null;
  readonly proxies: Readonly<Record<'540' | '270', readonly [number, number]>>;
  readonly strip: number;
}
/** An import. */
export interface ImportView {
  readonly id: string;
  readonly name: string;
  readonly state: WorkState;
  readonly progress: number;
  readonly doing: string;
  readonly error: string | null;
  readonly clipId: string | null;
}
/** A project. */
export interface ProjectView {
  readonly id: string;
  readonly name: string;
  readonly width: number;
  readonly height: number;
  readonly rate: Rate;
  readonly clips: readonly ClipView[];
  /** Footage that looks use as material. */
  readonly plates: readonly ClipView[];
  /** Files with sound alone. */
  readonly sounds: readonly SoundView[];
  readonly imports: readonly ImportView[];
}
/** A sound of a project. */
export interface SoundView extends SoundFacts {
  readonly id: string;
  readonly hash: string;
  readonly name: string;
  readonly bytes: number;
  /** What is said of its beats. */
  readonly said: BeatsSaid;
}
/** A kept reference. */
export interface ReferenceView {
  readonly id: string;
  readonly name: string;
  /** Id of the clip; null if it was removed. */
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
/** A kept piece of a look. */
export interface PieceView {
  readonly id: string;
  readonly name: string;
  readonly document: LookDocument;
}
/** A project in the list. */
export interface ProjectRow extends Pick<ProjectView, 'id' | 'name' | 'width' | 'height'> {
  readonly rateNum: number;
  readonly rateDen: number;
  /** Time of the last change, and of removal. */
  readonly touched: string;
  readonly removed: string | null;
  readonly clips: number;
}
/** A look on the Shelf. */
export interface LookView {
  readonly id: string;
  readonly name: string;
  /** Newest first. */
  readonly versions: readonly {
    readonly id: string;
    readonly number: number;
    readonly created: string;
  }[];
  /** Removed versions, which can be restored. */
  readonly removed: readonly {
    readonly id: string;
    readonly number: number;
    readonly created: string;
  }[];
}
/** A clip that will move to the next version of a look, with its project. */
export interface FollowerView {
  readonly clip: ClipView;
  readonly project: Pick<ProjectView, 'id' | 'name' | 'width' | 'height'>;
}
/** A version of a look. */
export interface VersionView {
  readonly id: string;
  readonly lookId: string;
  readonly number: number;
  readonly document: LookDocument;
}
/** An item of a delivery. */
export interface ItemView {
  readonly id: string;
  /** Hash of its footage; null for a whole cut. */
  readonly hash: string | null;
  readonly clipName: string;
  readonly lookName: string | null;
  readonly state: WorkState;
  readonly frames: number;
  readonly rendered: number;
  /** Whether the clip is retimed. */
  readonly retimed: boolean;
  /** First frame in the footage, and the rate. */
  readonly first: number;
  readonly rate: Rate;
  /** What is left out of its sound, with the reason. */
  readonly leftOut: string | null;
  readonly error: string | null;
  readonly bytes: number | null;
  /** How loud the file's sound is; null without sound. */
  readonly loudness: KeptLoudness | null;
  readonly joining: boolean;
  /** Time when a worker started it. */
  readonly started: string | null;
}
/** A delivery. */
export interface DeliveryView {
  readonly id: string;
  readonly format: FormatId;
  readonly width: number;
  readonly height: number;
  readonly coverage: boolean;
  readonly created: string;
  readonly items: readonly ItemView[];
}
/** The deliveries of a project, and the number of live workers. */
export interface KilnView {
  readonly deliveries: readonly DeliveryView[];
  readonly workers: number;
}

/** The cut of a project. */
export interface CutView {
  readonly document: CutDocument;
  readonly revision: number;
  /** The newest first. */
  readonly versions: readonly {
    readonly number: number;
    readonly name: string;
    readonly created: string;
  }[];
}

/** The current or latest baking of a clip or the cut by workers. */
export interface BakingView {
  readonly run: {
    readonly state: 'waiting' | 'running' | 'done' | 'failed' | 'cancelled';
    readonly first: number;
    readonly frames: number;
    /** Number of baked frames. */
    readonly made: number;
    readonly error: string | null;
    readonly width: number;
    readonly height: number;
    /** A page's bytes, or a delivery's samples. */
    readonly keeps: string;
  } | null;
  /** Size of everything that workers baked. */
  readonly total: { readonly bytes: number; readonly files: number };
}
