/** Types of JSON columns that belong to the server; the others are core's documents. */
import type {
  Balance,
  DialValues,
  EncodingId,
  Fit,
  FlagKind,
  PlatePoints,
  Reframe,
  Sampling,
} from '../../core';

/** A clip's trims, by the id of the look they belong to. */
export type TrimsByLook = Readonly<Record<string, DialValues>>;
/** Flags accepted by people, by kind, with the reason and the extent at that time. */
export type AcceptedFlags = Readonly<
  Partial<Record<FlagKind, { readonly reason: string; readonly worst: number }>>
>;
/** Settings of other footage of a project, as they were at one moment. */
export interface PinFootage {
  readonly hash: string;
  readonly encoding: EncodingId;
  readonly sampling?: Sampling | null;
  readonly fit: Fit;
  readonly reframe?: Reframe | null;
  readonly balance: Balance | null;
  readonly role?: 'clip' | 'plate';
  /** Black and white points of a plate, if set by hand. */
  readonly plate?: PlatePoints | null;
}
