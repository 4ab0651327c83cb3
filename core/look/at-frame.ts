/** What is known of a frame when a look is resolved at it. */
import type { Parameter, ParameterValue } from '../parameters';
import type { PlaceInFrame } from '../places';
import type { FrameIndex } from '../time';
import type { DialValues, Fading, InstantUse, PinSetting, SpanUse } from './document';

/** A look's state at a frame: dials, moved values, spans and instants. */
export interface Evaluation {
  readonly dials: DialValues;
  /** Whether no mover acts: values without spans are the same at every frame. */
  readonly isStill: boolean;
  /** The value at a path after all movers. */
  readonly moved: (path: string, p: Parameter, v: ParameterValue) => ParameterValue;
  /** How far something with this span acts, 0…1; 1 without a span. */
  readonly level: (span: SpanUse | undefined) => number;
  /**
   * The place of a followed pin in the look frame, by its number among several: at this
   * frame, or at an instant of the clip.
   */
  readonly placeOf?:
    ((pin: string, nth: number, once?: PinSetting['once']) => PlaceInFrame | undefined) | undefined;
  /** How far a place that fades while it is lost is there, 0…1. */
  readonly presenceOf?: ((of: Fading) => number) | undefined;
  /** The frame of an instant in the whole clip; the clip's first frame without an instant. */
  readonly frameOf: (at: InstantUse | undefined) => FrameIndex;
}

/** The evaluation of a look without time: nothing moves, every span is fully on. */
export const still = (dials: DialValues = {}): Evaluation => ({
  dials,
  isStill: true,
  moved: (_, __, v) => v,
  level: () => 1,
  frameOf: () => 0,
});
