/** What a kind of asset declares: what is computed once from footage, and asked for by looks. */
import type { Fitting } from '../image';
import type { FrameIndex, RetimeMap } from '../time';

/** A size in pixels. */
export interface Extent {
  readonly width: number;
  readonly height: number;
}
/** How footage lies in the frame, and the working size. */
export interface Framed extends Omit<Fitting, 'aspect'> {
  /** Aspect ratio of the footage as displayed (width ÷ height). */
  readonly shape: number;
  readonly size: Extent;
}
/** The footage that an asset is of. */
export interface AssetFootage {
  readonly frames: number;
  /** Frames at which another shot begins. */
  readonly cuts?: readonly FrameIndex[] | undefined;
}
/** Words on pages about the state of an asset. */
export interface AssetWords {
  /** What it is of a clip. */
  readonly name: string;
  readonly underWay: string;
  readonly missing: string;
  /** The command that starts it. */
  readonly begin: string;
}

interface AnyAsset {
  readonly id: string;
  /** Method with its version: another method is another asset. */
  readonly method: string;
}
/** An asset in parts, one for a frame of the footage. */
export interface FrameAsset<Part, Placed> extends AnyAsset {
  readonly per: 'frame';
  readonly words: AssetWords;
  /** Whether a frame of the footage can have a part. */
  readonly exists: (frame: FrameIndex, footage: AssetFootage) => boolean;
  /** A part from its stored bytes (uncompressed). Throws if they are truncated. */
  readonly unpack: (bytes: Uint8Array) => Part;
  /** A part in the look's frame. `key` identifies the footage and its frame. */
  readonly placed: (part: Part, key: string, as: Framed) => Placed;
  /** Stands in while it is found out what is needed. */
  readonly standIn: (size: Extent) => Placed;
  /**
   * The part of a frame of a retimed clip, from those of its footage; undefined if there is none.
   */
  readonly retimed: (
    footage: (frame: FrameIndex) => Placed | undefined,
    map: RetimeMap,
    frame: FrameIndex,
  ) => Placed | undefined;
}
/** An asset that is one value for the whole footage, made from parts of another. */
export interface WholeAsset extends AnyAsset {
  readonly per: 'footage';
  readonly from: string;
}
