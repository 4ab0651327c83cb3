/**
 * What a kind of mover declares: from it come its controls, validation, documentation and schema.
 */
import type { Parameter, Values } from '../../parameters';
import type { ClipTime, FrameIndex } from '../clip-time';

/** The frame a mover is asked at, and what it counts from. */
export interface MoverContext extends ClipTime {
  readonly frame: FrameIndex;
  /**
   * Of this mover in this look on this clip; and, where each thing moved moves by itself, of that
   * thing.
   */
  readonly seed: number;
  /** The frames of its instants by their id, in order of time. */
  readonly events: Readonly<Record<string, readonly FrameIndex[]>>;
  /** 0 across, 1 down, where a place is moved. */
  readonly axis: 0 | 1;
  readonly isPlace: boolean;
  readonly part: string;
}

export interface MoverKind {
  readonly id: string;
  readonly label: string;
  readonly help: string;
  readonly parameters: readonly Parameter[];
  /** The instants it counts from, by id: what they are called, and whether there may be several. */
  readonly instants: readonly {
    readonly id: string;
    readonly label: string;
    readonly many?: boolean;
  }[];
  /** Whether it goes to both sides (−1…1) or from nothing to all (0…1). */
  readonly signed: boolean;
  /** What of it can move something, where that is more than one thing. */
  readonly parts?: readonly { readonly id: string; readonly label: string }[];
  /**
   * The parameters that are lengths of time, counted in `unit`: together how long it lasts from
   * each of its instants on.
   */
  readonly lasts?: readonly string[];
  /** Whether it stands still but for single events by chance. */
  readonly rare?: boolean;
  /** A function of frame and seed alone. */
  readonly at: (v: Values, at: MoverContext) => number;
}
