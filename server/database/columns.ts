/** What JSON columns of decisions hold, and how they are read. */
import {
  type ClipDecisions,
  decided,
  decisionsOf,
  type PictureDecisions,
  pictureOf,
  type ShownDecisions,
  shownOf,
} from '../../core';

/** The decisions about a clip that its row keeps as JSON; name and look have columns. */
export type KeptDecisions = Omit<ClipDecisions, 'name' | 'version'>;
/** Settings of other footage of a project, as they were at one moment. */
export interface PinFootage extends PictureDecisions {
  readonly hash: string;
}
/** Everything that an item's pictures depend on beside its look, as it was at one moment. */
export interface ItemSubject extends ShownDecisions {
  /** Frames of the footage at which another shot begins. */
  readonly cuts: readonly number[];
  /** Settings of the footage of its pins, by the pin's key. */
  readonly beside: Readonly<Record<string, PinFootage>>;
  /** Names of the tracks of the traces that its pins take, by the traces' ids. */
  readonly tracks: Readonly<Record<string, string>>;
}

/** Decisions as stored, with those that did not exist then. */
export function keptDecisions(saved: Partial<ClipDecisions> = {}): KeptDecisions {
  const { name: _, version: __, ...kept } = decided(saved);
  return kept;
}
/** An item's subject as stored, with decisions that did not exist then. */
export const itemSubject = ({
  cuts = [],
  beside = {},
  tracks = {},
  ...saved
}: Partial<ItemSubject> & Pick<ItemSubject, 'encoding'>): ItemSubject => ({
  ...shownOf(decided(saved)),
  cuts,
  tracks,
  beside: Object.fromEntries(
    Object.entries(beside).map(([key, of]) => [
      key,
      { hash: of.hash, ...pictureOf(decided(decisionsOf(of))) },
    ]),
  ),
});
