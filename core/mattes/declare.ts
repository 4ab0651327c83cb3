/**
 * What a kind of matte declares: its parameters and what it covers. Controls, handles, validation
 * and documentation follow from it.
 */
import type { Percentiles } from '../clip';
import type { ImageNode } from '../graph';
import type { Parameter, Point, Values, ValuesOf } from '../parameters';
import type { FrameContext } from '../steps';

/** What a matte can read. All pictures have the working size. */
export interface MatteContext extends FrameContext {
  /** The clip, the picture below the layer, and the layer's own picture so far. */
  readonly clip: ImageNode;
  readonly below: ImageNode;
  readonly layer: ImageNode;
  /** The picture of the layer, or the footage of the pin, that `from` names. */
  readonly named?: ImageNode | undefined;
  /** Percentiles of the whole clip's luma in the working encoding. */
  readonly tones?: Percentiles | undefined;
}

/** A kind of matte. */
export interface MatteKind<V = Values> {
  readonly id: string;
  readonly label: string;
  readonly help: string;
  readonly parameters: readonly Parameter[];
  /** Whether it needs another layer's key, or a matte pin's. */
  readonly names?: 'layer' | 'pin';
  /** The matte: one plane of coverage, 0…1. */
  readonly cover: (v: V, at: MatteContext) => ImageNode;
  /**
   * Points on its edge in shares of the frame, by which its movement is measured; for drawn mattes.
   */
  readonly outline?: (v: V, at: Pick<MatteContext, 'width' | 'height'>) => readonly Point[];
  /** Its centre in shares of the frame, if its parameters tell it. */
  readonly centre?: (v: V) => Point;
  /** The layer's picture with the spill of the keyed colour removed. */
  readonly clean?: (picture: ImageNode, v: V) => ImageNode;
}

/** Declares a kind of matte; its functions get values by the types of its parameters. */
export const matteKind = <const P extends readonly Parameter[]>(
  kind: MatteKind<ValuesOf<P>> & { readonly parameters: P },
): MatteKind => kind as unknown as MatteKind;

/** How a matte is combined with those before it. */
export const COMBINATIONS = ['or', 'and', 'minus'] as const;
/** One of `COMBINATIONS`. */
export type Combination = (typeof COMBINATIONS)[number];

/** What a key can look at. */
export const KEYED = { clip: 'the clip', below: 'what is below', layer: 'this layer' } as const;
/** The picture that a key looks at. */
export const keyed = (v: Values, at: MatteContext): ImageNode =>
  v['of'] === 'below' ? at.below : v['of'] === 'layer' ? at.layer : at.clip;
