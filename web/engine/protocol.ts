/** Messages between the page and the engine worker. */
import type {
  EncodingId,
  Figures,
  FrameAssetId,
  GoalFigures,
  Idle,
  LookDocument,
  MatteView,
  Point,
  Region,
  Scopes,
  ShownDecisions,
  Traits,
  WholeClip,
  FieldView,
} from '../../core';
import type { Rate } from '../../core/time';
import type { ClipView } from '../data/views';

/** A clip as the engine needs it: what is decided about it, and the facts of its footage. */
export interface EngineClip
  extends
    ShownDecisions,
    Pick<
      ClipView,
      | 'id'
      | 'hash'
      | 'format'
      | 'proxyMatrix'
      | 'pixelAspect'
      | 'frames'
      | 'cuts'
      | 'rate'
      | 'slots'
      | 'proxies'
    > {
  /** Pins name footage among the clips of the same scope. */
  readonly scope: string;
  /** Statistics of the whole clip, once measured. */
  readonly whole: WholeClip | null;
  /** Names of the tracks that are made, by the ids of their traces. */
  readonly tracks: Readonly<Record<string, string>>;
  /** Share of each asset of its footage that is made, 0…1. */
  readonly made: Readonly<Record<FrameAssetId, number>>;
}

/** A cut as the engine needs it, with the looks of its clips. */
export interface EngineCut {
  /** Another cut has another name. */
  readonly id: string;
  /** The document as JSON: a text crosses faster than hundreds of objects. */
  readonly text: string;
  readonly rate: Rate;
  /** Looks with their trims by the ids of clips; null for none. Clips without an entry are missing. */
  readonly worn: Readonly<Record<string, LookDocument | null>>;
  /** Looks of transitions and of the whole, by what the document names them. */
  readonly looks: Readonly<Record<string, LookDocument>>;
}
/** Makes a cut known; the one before stays known for views that are under way. */
export interface KnowCut {
  readonly kind: 'cut';
  readonly cut: EngineCut;
}

/** A clip's frame under a look (or none), or a frame of a cut. */
export interface Shot {
  /** Empty for a cut. */
  readonly clip: string;
  /** Of the clip; of the project for a cut. */
  readonly frame: number;
  /** Name of a cut that was made known. */
  readonly cut?: string | undefined;
  readonly look: LookDocument | null;
  /** Without the clip's balance. */
  readonly asShot?: boolean;
  /** Shows the clip's motion from this frame instead of the result. */
  readonly field?: FieldView | undefined;
  /** `exact`: the original's frame, decoded by the server. Otherwise a proxy of that many lines. */
  readonly from: 'exact' | 540 | 270;
}
/** A requested picture. */
export interface View extends Shot {
  readonly id: string;
  readonly width: number;
  readonly height: number;
  /** The result up to and including this layer, small. */
  readonly layer?: string;
  /** With hatching where it is crushed, clipped or outside. */
  readonly marks?: boolean;
  /** Shows the mattes of a layer or step (`layer/step`) instead of the result. */
  readonly matte?: { readonly key: string; readonly how: MatteView } | undefined;
  /** Not visible yet: computed after everything that is. */
  readonly later?: boolean;
  /** Traits are requested with it. */
  readonly traits?: boolean;
  /** Shows the difference from this shot, multiplied by `gain`. */
  readonly against?: Shot & { readonly gain: number };
}

/**
 * A set of views that replaces the previous set. Views are computed in order; unfinished ones of an
 * older set are dropped.
 */
export interface Request {
  readonly kind: 'request';
  readonly serial: number;
  readonly views: readonly View[];
  /**
   * Scopes of the hero, before or after the look, of all of it or of a region (shares of width and
   * height).
   */
  readonly scopes?: ScopesWanted | undefined;
  /**
   * The hero is playing: its pictures are kept, and these frames are prepared after all views are
   * shown.
   */
  readonly ahead?: readonly number[] | undefined;
}
/** Requested scopes. */
export interface ScopesWanted {
  readonly of: 'before' | 'after';
  readonly region: Region | null;
}
/**
 * Asks for the hero's mean values over a region (shares of width and height; at least one pixel).
 */
export interface Probe {
  readonly kind: 'probe';
  readonly id: number;
  readonly region: Region;
  /** Measures the input or output of a layer instead of the result. */
  readonly at?: { readonly layer: string; readonly side: 'before' | 'after' } | undefined;
}
/**
 * Asks for the goal figures of a clip under several looks: means over some frames at a small size.
 */
export interface Survey {
  readonly kind: 'survey';
  readonly id: number;
  readonly clip: string;
  readonly frames: readonly number[];
  readonly looks: readonly LookDocument[];
  readonly width: number;
  readonly height: number;
}
/** The answer to a survey. */
export interface Surveyed {
  readonly kind: 'surveyed';
  readonly id: number;
  readonly figures: readonly GoalFigures[];
}
/**
 * Asks which layers (`key`) and steps (`layer/step`) have no effect at a shot; found at a small
 * size.
 */
export interface Ask {
  readonly kind: 'ask';
  readonly id: number;
  readonly shot: Shot;
  readonly width: number;
  readonly height: number;
}
/** The answer. */
export interface Answered {
  readonly kind: 'answered';
  readonly id: number;
  readonly idle: Readonly<Record<string, Idle>>;
}
/** Which back end computes. */
export type BackEndChoice = 'automatic' | 'simd' | 'glsl';
/** The first message. */
export interface Setup {
  readonly kind: 'setup';
  readonly clips: readonly EngineClip[];
  readonly out: EncodingId;
  readonly generation: SharedArrayBuffer | null;
  readonly memory: number;
  readonly backEnd: BackEndChoice;
}
/** A new canvas shows a view that was computed before: its picture is requested again. */
export interface Again {
  readonly kind: 'again';
  readonly view: string;
}
/** Asks for the hole of footage with coverage, in its first frame. */
export interface HoleAsk {
  readonly kind: 'hole';
  readonly id: number;
  readonly clip: string;
}
/** The answer. */
export interface HoleFound {
  readonly kind: 'hole';
  readonly id: number;
  /**
   * In shares of the footage's picture, clockwise from the upper left; null if nothing is enclosed.
   */
  readonly corners: Corners | null;
}
/** Four corners, clockwise from the upper left. */
export type Corners = readonly [Point, Point, Point, Point];
/**
 * Asks to compute frames of a view in this order and keep them as files; replaces an earlier one.
 */
export interface Bake {
  readonly kind: 'bake';
  readonly id: number;
  readonly view: View;
  readonly frames: readonly number[];
}
/** Stops baking. */
export interface StopBaking {
  readonly kind: 'stop-baking';
}
/** Removes all baked pictures. */
export interface ClearBaked {
  readonly kind: 'clear-baked';
}
/** Progress of baking. */
export interface BakingAt {
  readonly kind: 'baking';
  readonly id: number;
  readonly done: number;
  readonly of: number;
  /** Null while it runs. */
  readonly ended: 'done' | 'stopped' | null;
  /** Why it stopped by itself. */
  readonly trouble: string | null;
}
/** Samples that workers bake for the Kiln, with size in pixels and encoding. */
export interface ForKiln {
  readonly samples: readonly string[];
  readonly width: number;
  readonly height: number;
  readonly encoding: EncodingId;
}
/** Asks which frames of a view are available as finished pictures. */
export interface AtHand {
  readonly kind: 'at-hand';
  readonly id: number;
  readonly view: View;
  readonly frames: readonly number[];
  readonly kiln: ForKiln;
}
/** The answer. */
export interface AtHandFound {
  readonly kind: 'at-hand';
  readonly id: number;
  /** Per requested frame: baked, in memory, or neither. */
  readonly states: readonly ('baked' | 'kept' | null)[];
  /** Per requested frame, whether workers baked it for the Kiln. */
  readonly kiln: readonly boolean[];
  /** Size of everything that is baked. */
  readonly total: { readonly bytes: number; readonly files: number };
  readonly canBake: boolean;
}
/** Messages to the engine. */
export type ToEngine =
  | KnowCut
  | Bake
  | StopBaking
  | ClearBaked
  | AtHand
  | Setup
  | Request
  | Again
  | Probe
  | Survey
  | Ask
  | HoleAsk;

/** A picture of a view. */
export interface Pixels {
  readonly kind: 'pixels';
  readonly serial: number;
  readonly view: string;
  readonly clip: string;
  readonly frame: number;
  readonly width: number;
  readonly height: number;
  /** Transferred; a canvas takes it without copying. */
  readonly bitmap: ImageBitmap;
  readonly exact: boolean;
  /** A first answer at half the size; the full one follows. */
  readonly quick?: boolean;
  readonly backEnd: 'simd' | 'glsl';
  readonly traits?: Traits | undefined;
  readonly milliseconds: number;
  readonly computed: number;
  readonly found: number;
}
/** A view could not be computed. */
export interface Trouble {
  readonly kind: 'trouble';
  readonly serial: number;
  readonly view: string;
  readonly message: string;
}
/** The engine has started. */
export interface Ready {
  readonly kind: 'ready';
  readonly backEnd: 'simd' | 'glsl';
  readonly threads: number;
  /** Why it is not the chosen back end. */
  readonly why: string | null;
}
/** All views of a request are shown. */
export interface Done {
  readonly kind: 'done';
  readonly serial: number;
}
/** Scopes of the hero. */
export interface ScopesMade {
  readonly kind: 'scopes';
  readonly scopes: Scopes;
  /** Figures of the clip without the look. */
  readonly before: Figures;
  readonly after: Figures;
}
type Three = readonly [number, number, number];
/** Values of the hero at a region. */
export interface Probed {
  readonly kind: 'probed';
  readonly id: number;
  readonly light: Three;
  readonly encoded: Three;
  readonly codes: Three;
}
/** Messages from the engine. */
export type FromEngine =
  | BakingAt
  | AtHandFound
  | HoleFound
  | Answered
  | Surveyed
  | Pixels
  | Trouble
  | Ready
  | Done
  | ScopesMade
  | Probed;
