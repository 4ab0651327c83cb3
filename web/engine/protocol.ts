/** What the page and the engine worker say to each other. */
import type { EncodingId, Figures, FrameFormat, Fit, LookDocument, Region, Scopes } from '../../core';

export interface EngineClip {
  readonly id: string;
  readonly hash: string;
  readonly format: FrameFormat;
  readonly encoding: EncodingId;
  readonly fit: Fit;
  readonly pixelAspect: number;
  readonly frames: number;
  readonly slots: readonly number[] | null;
  readonly proxies: Readonly<Record<'540' | '270', readonly [number, number]>>;
}

/** One picture that is wanted. `layer`: up to and including that layer, small. */
export interface View {
  readonly id: string;
  readonly clip: string;
  readonly frame: number;
  readonly width: number;
  readonly height: number;
  readonly look: LookDocument | null;
  readonly layer?: string;
  /** `exact`: the original's own frame, decoded by the server; otherwise a proxy of so many lines. */
  readonly from: 'exact' | 540 | 270;
}

/** A set of views that replaces the one before; views are computed in order, what is not done of an older set is dropped. */
export interface Request {
  readonly kind: 'request';
  readonly serial: number;
  readonly views: readonly View[];
  /** Scopes of the hero, before or after the look, of all of it or of a region (shares of its width and height). */
  readonly scopes?: ScopesWanted | undefined;
}
export interface ScopesWanted {
  readonly of: 'before' | 'after';
  readonly region: Region | null;
}
/** The hero's values at a place (shares of its width and height), over a square of `size` pixels. */
export interface Probe {
  readonly kind: 'probe';
  readonly x: number;
  readonly y: number;
  readonly size: number;
}
export interface Setup {
  readonly kind: 'setup';
  readonly clips: readonly EngineClip[];
  readonly out: EncodingId;
  readonly generation: SharedArrayBuffer | null;
  readonly memory: number;
}
/** A canvas has come that shows a view which was computed before: its picture is wanted once more. */
export interface Again {
  readonly kind: 'again';
  readonly view: string;
}
export type ToEngine = Setup | Request | Again | Probe;

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
  readonly threads: number;
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
export type FromEngine = Pixels | Trouble | Ready | Done | ScopesMade | Probed;
