/** What JSON columns of decisions and cuts hold, and how they are read. */
import {
  type ClipDecisions,
  type CutDocument,
  decided,
  decisionsOf,
  type LookDocument,
  type PictureDecisions,
  pictureOf,
  type ShownDecisions,
  shownOf,
  upToDate,
} from '../../core';
import type { Rate } from '../../core/time';

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

/** A clip of a cut, as it was at one moment. */
export interface SnapshotClip {
  readonly name: string;
  readonly hash: string;
  readonly subject: ItemSubject;
  /** Its look with its trims, and what that is called. */
  readonly look: LookDocument | null;
  readonly lookName: string | null;
}
/** A cut with everything that it names, as it was at one moment. */
export interface CutSnapshot {
  readonly document: CutDocument;
  /** Rate of the project. */
  readonly rate: Rate;
  /** By their ids; a clip that has gone is missing. */
  readonly clips: Readonly<Record<string, SnapshotClip>>;
  /** Looks of transitions and of the whole, by what the document names them. */
  readonly looks: Readonly<Record<string, LookDocument>>;
  /** Content hashes of sounds by their ids. */
  readonly sounds: Readonly<Record<string, string>>;
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

/** A snapshot as stored, its looks and decisions brought up to date. */
export const cutSnapshot = (saved: CutSnapshot): CutSnapshot => ({
  ...saved,
  clips: Object.fromEntries(
    Object.entries(saved.clips).map(([id, c]) => [
      id,
      { ...c, subject: itemSubject(c.subject), look: c.look && upToDate(c.look) },
    ]),
  ),
  looks: Object.fromEntries(Object.entries(saved.looks).map(([id, l]) => [id, upToDate(l)])),
});
