/** What the page and the engine worker say to each other. */
import type {
  Balance,
  ClipPins,
  EncodingId,
  Figures,
  FrameFormat,
  Fit,
  GoalFigures,
  Idle,
  LookDocument,
  MatteView,
  PlatePoints,
  Point,
  Reframe,
  Region,
  Scopes,
  Traits,
  WholeClip,
  FieldView,
  InOut,
} from '../../core';
import type { Retime } from '../../core/time';

export interface EngineClip {
  readonly id: string;
  readonly hash: string;
  readonly format: FrameFormat;
  readonly encoding: EncodingId;
  readonly proxyMatrix: 'own' | null;
  readonly fit: Fit;
  readonly reframe: Reframe | null;
  readonly balance: Balance | null;
  /** Its black and white, where it serves as a plate. */
  readonly plate: PlatePoints | null;
  readonly pins: ClipPins;
  readonly pixelAspect: number;
  /** Of the footage. */
  readonly frames: number;
  readonly inOut: InOut | null;
  /** Frames of the footage with which another shot begins. */
  readonly cuts: readonly number[];
  readonly retime: Retime | null;
  /** Frames a second. */
  readonly rate: readonly [number, number];
  /** What it is like as a whole, once that is measured. */
  readonly whole: WholeClip | null;
  readonly slots: readonly number[] | null;
  /** How much of its motion is measured, 0…1. */
  readonly motion: number;
  readonly proxies: Readonly<Record<'540' | '270', readonly [number, number]>>;
}

/** A clip's frame under a look (or none). */
export interface Shot {
  readonly clip: string;
  readonly frame: number;
  readonly look: LookDocument | null;
  /** Without the clip's balance. */
  readonly asShot?: boolean;
  /** Not the result but the clip's motion from this frame on, where it is measured. */
  readonly field?: FieldView | undefined;
  /**
   * `exact`: the original's own frame, decoded by the server; otherwise a proxy of so many lines.
   */
  readonly from: 'exact' | 540 | 270;
}
/** One picture that is wanted. */
export interface View extends Shot {
  readonly id: string;
  readonly width: number;
  readonly height: number;
  /** Up to and including that layer, small. */
  readonly layer?: string;
  /** Hatched where it is crushed, clipped or outside. */
  readonly marks?: boolean;
  /** Not the result but what a layer's or step's (`layer/step`) mattes cover. */
  readonly matte?: { readonly key: string; readonly how: MatteView } | undefined;
  /** Nobody sees it yet: after all that is seen. */
  readonly later?: boolean;
  /** Its traits are wanted with it. */
  readonly traits?: boolean;
  /** Not the shot itself but how far it differs from this one, so many times as large. */
  readonly against?: Shot & { readonly gain: number };
}

/**
 * A set of views that replaces the one before; views are computed in order, what is not done of an
 * older set is dropped.
 */
export interface Request {
  readonly kind: 'request';
  readonly serial: number;
  readonly views: readonly View[];
  /**
   * Scopes of the hero, before or after the look, of all of it or of a region (shares of its width
   * and height).
   */
  readonly scopes?: ScopesWanted | undefined;
  /**
   * The hero is played: its pictures are kept, and these frames of it are made ready once all views
   * are shown.
   */
  readonly ahead?: readonly number[] | undefined;
}
export interface ScopesWanted {
  readonly of: 'before' | 'after';
  readonly region: Region | null;
}
/**
 * The hero's mean values over a region (shares of its width and height; at least the pixel it lies
 * on).
 */
export interface Probe {
  readonly kind: 'probe';
  readonly region: Region;
  /** Not the result but what a layer is given, or what it leads to. */
  readonly at?: { readonly layer: string; readonly side: 'before' | 'after' } | undefined;
}
/** The goal figures of a clip under each of several looks: means over some of its frames, small. */
export interface Survey {
  readonly kind: 'survey';
  readonly id: number;
  readonly clip: string;
  readonly frames: readonly number[];
  readonly looks: readonly LookDocument[];
  readonly width: number;
  readonly height: number;
}
export interface Surveyed {
  readonly kind: 'surveyed';
  readonly id: number;
  readonly figures: readonly GoalFigures[];
}
/** What of a look does nothing at a shot, by layer (`key`) and step (`layer/step`); found small. */
export interface Ask {
  readonly kind: 'ask';
  readonly shot: Shot;
  readonly width: number;
  readonly height: number;
}
export interface Answered {
  readonly kind: 'answered';
  readonly idle: Readonly<Record<string, Idle>>;
}
export type BackEndChoice = 'automatic' | 'simd' | 'glsl';
export interface Setup {
  readonly kind: 'setup';
  readonly clips: readonly EngineClip[];
  readonly out: EncodingId;
  readonly generation: SharedArrayBuffer | null;
  readonly memory: number;
  readonly backEnd: BackEndChoice;
}
/**
 * A canvas has come that shows a view which was computed before: its picture is wanted once more.
 */
export interface Again {
  readonly kind: 'again';
  readonly view: string;
}
/** The hole of footage with coverage, in its first frame. */
export interface HoleAsk {
  readonly kind: 'hole';
  readonly id: number;
  readonly clip: string;
}
export interface HoleFound {
  readonly kind: 'hole';
  readonly id: number;
  /**
   * In shares of the footage's own picture, from the upper left clockwise; none where nothing is
   * enclosed.
   */
  readonly corners: Corners | null;
}
export type Corners = readonly [Point, Point, Point, Point];
/**
 * Computes frames of a view ahead and keeps them as files, in this order; a newer one takes the
 * place of the last.
 */
export interface Bake {
  readonly kind: 'bake';
  readonly id: number;
  readonly view: View;
  readonly frames: readonly number[];
}
export interface StopBaking {
  readonly kind: 'stop-baking';
}
/** Takes all baked pictures away. */
export interface ClearBaked {
  readonly kind: 'clear-baked';
}
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
/** What workers bake for the Kiln: a delivery's samples, at a size in pixels, in an encoding. */
export interface ForKiln {
  readonly samples: readonly string[];
  readonly width: number;
  readonly height: number;
  readonly encoding: EncodingId;
}
/** Which frames of a view are at hand as finished pictures. */
export interface AtHand {
  readonly kind: 'at-hand';
  readonly id: number;
  readonly view: View;
  readonly frames: readonly number[];
  readonly kiln: ForKiln;
}
export interface AtHandFound {
  readonly kind: 'at-hand';
  readonly id: number;
  /** Of each frame asked for: baked, in memory, or not. */
  readonly states: readonly ('baked' | 'kept' | null)[];
  /** Of each, whether workers baked it for the Kiln. */
  readonly kiln: readonly boolean[];
  /** What all that is baked takes. */
  readonly total: { readonly bytes: number; readonly files: number };
  readonly canBake: boolean;
}
export type ToEngine =
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

export interface Pixels {
  readonly kind: 'pixels';
  readonly serial: number;
  readonly view: string;
  readonly clip: string;
  readonly frame: number;
  readonly width: number;
  readonly height: number;
  /** Handed over: a canvas takes it without copying. */
  readonly bitmap: ImageBitmap;
  readonly exact: boolean;
  /** A first answer at half the size: the whole one follows. */
  readonly quick?: boolean;
  readonly backEnd: 'simd' | 'glsl';
  readonly traits?: Traits | undefined;
  readonly milliseconds: number;
  readonly computed: number;
  readonly found: number;
}
export interface Trouble {
  readonly kind: 'trouble';
  readonly serial: number;
  readonly view: string;
  readonly message: string;
}
export interface Ready {
  readonly kind: 'ready';
  readonly backEnd: 'simd' | 'glsl';
  readonly threads: number;
  /** Why it is not the one that was chosen. */
  readonly why: string | null;
}
export interface Done {
  readonly kind: 'done';
  readonly serial: number;
}
export interface ScopesMade {
  readonly kind: 'scopes';
  readonly scopes: Scopes;
  /** The figures of the clip without the look. */
  readonly before: Figures;
  readonly after: Figures;
}
type Three = readonly [number, number, number];
export interface Probed {
  readonly kind: 'probed';
  readonly light: Three;
  readonly encoded: Three;
  readonly codes: Three;
}
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
