/** What the columns of JSON hold that is the server's own: the rest are the core's documents. */
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

/** A clip's trims, by the look they belong to. */
export type TrimsByLook = Readonly<Record<string, DialValues>>;
/** Flags that were looked at and are meant, by kind: why, and how much of it there was then. */
export type AcceptedFlags = Readonly<
  Partial<Record<FlagKind, { readonly reason: string; readonly worst: number }>>
>;
/** How other footage of a project is read, as it was at one moment. */
export interface PinFootage {
  readonly hash: string;
  readonly encoding: EncodingId;
  readonly sampling?: Sampling | null;
  readonly fit: Fit;
  readonly reframe?: Reframe | null;
  readonly balance: Balance | null;
  readonly role?: 'clip' | 'plate';
  /** Of a plate: its black and white, where they were set by hand. */
  readonly plate?: PlatePoints | null;
}
