/**
 * What a kind of matte declares: its parameters, and what it covers. From it come controls,
 * handles, validation and documentation.
 */
import type { Percentiles } from '../clip';
import type { ImageNode } from '../graph';
import type { Parameter, Point, Values } from '../parameters';
import type { FrameContext } from '../steps';

/** What a matte may look at. All are of the working size. */
export interface MatteContext extends FrameContext {
  /** The clip, what lies below the layer, and the layer's own picture so far. */
  readonly clip: ImageNode;
  readonly below: ImageNode;
  readonly layer: ImageNode;
  /** The picture of the layer, or the footage of the pin, that `from` names, where there is one. */
  readonly named?: ImageNode | undefined;
  /** Luma of the whole clip in the working encoding, by shares. */
  readonly tones?: Percentiles | undefined;
}

export interface MatteKind {
  readonly id: string;
  readonly label: string;
  readonly help: string;
  readonly parameters: readonly Parameter[];
  /** Whether it needs another layer's key, or a matte pin's. */
  readonly names?: 'layer' | 'pin';
  /** One plane of coverage, 0…1. */
  readonly cover: (v: Values, at: MatteContext) => ImageNode;
  /**
   * Places on its edge, in shares of the frame, by which its movement is measured; of what is
   * drawn.
   */
  readonly outline?: (v: Values, at: Pick<MatteContext, 'width' | 'height'>) => readonly Point[];
  /**
   * Where its middle lies, in shares of the frame, where that is known from its parameters alone.
   */
  readonly centre?: (v: Values) => Point;
  /** The layer's picture without what the key's colour has left on it. */
  readonly clean?: (picture: ImageNode, v: Values) => ImageNode;
}

/** How a matte joins those before it. */
export const COMBINATIONS = ['or', 'and', 'minus'] as const;
export type Combination = (typeof COMBINATIONS)[number];

/** What a key looks at. */
export const KEYED = { clip: 'the clip', below: 'what is below', layer: 'this layer' } as const;
export const keyed = (v: Values, at: MatteContext): ImageNode =>
  v['of'] === 'below' ? at.below : v['of'] === 'layer' ? at.layer : at.clip;
