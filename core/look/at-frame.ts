/** What resolving a look asks at a frame. */
import type { Parameter, ParameterValue } from '../parameters';
import type { FrameIndex } from '../time';
import type { DialValues, InstantUse, SpanUse } from './document';

export interface Evaluation {
  readonly dials: DialValues;
  /** A value as movers leave it, by its path. */
  readonly moved: (path: string, p: Parameter, v: ParameterValue) => ParameterValue;
  /** How far something with this span acts; 1 without one. */
  readonly level: (span: SpanUse | undefined) => number;
  /** The frame of an instant that lies in the whole clip; the clip's first without one. */
  readonly frameOf: (at: InstantUse | undefined) => FrameIndex;
}

/** A look that stands still: nothing moves, every span is whole. */
export const still = (dials: DialValues = {}): Evaluation => ({
  dials,
  moved: (_, __, v) => v,
  level: () => 1,
  frameOf: () => 0,
});
