/** What a kind of mover declares. Controls, validation, documentation and schema follow from it. */
import type { Parameter, Values, ValuesOf } from '../../parameters';
import type { ClipTime, FrameIndex } from '../clip-time';

/** The frame at which a mover is evaluated, with its instants. */
export interface MoverContext extends ClipTime {
  readonly frame: FrameIndex;
  /**
   * Seed of this mover in this look on this clip; if targets move independently, of the target too.
   */
  readonly seed: number;
  /** Frames of its instants by id, in order. */
  readonly events: Readonly<Record<string, readonly FrameIndex[]>>;
  /** For places: 0 across, 1 down. */
  readonly axis: 0 | 1;
  readonly isPlace: boolean;
  readonly part: string;
}

/** A kind of mover. */
export interface MoverKind<V = Values> {
  readonly id: string;
  readonly label: string;
  readonly help: string;
  readonly parameters: readonly Parameter[];
  /** Its instants by id: their labels, and whether there may be several. */
  readonly instants: readonly {
    readonly id: string;
    readonly label: string;
    readonly many?: boolean;
  }[];
  /** Whether its range is −1…1 instead of 0…1. */
  readonly signed: boolean;
  /** Its outputs, if there is more than one. */
  readonly parts?: readonly { readonly id: string; readonly label: string }[];
  /**
   * Parameters that are durations in `unit`; their sum is how long it lasts from each of its
   * instants.
   */
  readonly lasts?: readonly string[];
  /** Whether it stands still except for single random events. */
  readonly rare?: boolean;
  /** Its value; a function of frame and seed alone. */
  readonly at: (v: V, at: MoverContext) => number;
}

/** Declares a kind of mover; its value gets parameters by their types. */
export const moverKind = <const P extends readonly Parameter[]>(
  kind: MoverKind<ValuesOf<P>> & { readonly parameters: P },
): MoverKind => kind as unknown as MoverKind;
