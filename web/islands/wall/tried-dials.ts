/**
 * Dials tried on the Wall: for a look and all clips that follow it, or as trims of chosen clips.
 */
import { type DialValues, type LookDocument, withTrims } from '../../../core';
import type { ClipView, VersionView } from '../../data/views';
import { withLookTrims } from '../bench/useTrims';
import { editOf } from '../../data/clip-edits';

/** Tried dials. */
export interface TriedDials {
  readonly lookId: string;
  /** Whether they belong to the look's newest version or are trims of the chosen clips. */
  readonly whose: 'look' | 'clips';
  readonly values: DialValues;
}

/** A look with some of its dials changed. */
export const withDials = (look: LookDocument, values: DialValues): LookDocument =>
  withTrims(look, values);

/** Whether a clip shows what is tried: it follows the look, or is a chosen clip that wears it. */
export const isTried = (
  c: ClipView,
  trying: TriedDials | null,
  chosen: ReadonlySet<string>,
): boolean =>
  trying !== null &&
  c.look?.lookId === trying.lookId &&
  (trying.whose === 'look' ? c.follows : chosen.has(c.id));

/** Looks with trims and tried dials; equal inputs give the same object. */
export class TriedLooks {
  private readonly merged = new WeakMap<DialValues, WeakMap<DialValues, DialValues>>();

  /**
   * The look as a clip wears it. `version`: its own; `newest`: the look's newest; `aimed`: proposed
   * trims.
   */
  look(
    c: ClipView,
    version: VersionView,
    newest: VersionView | undefined,
    trying: TriedDials | null,
    chosen: ReadonlySet<string>,
    aimed: ReadonlyMap<string, DialValues>,
  ): LookDocument {
    const proposed = aimed.get(c.id);
    if (proposed) return withTrims(version.document, proposed);
    const own = c.trims[version.lookId];
    if (!isTried(c, trying, chosen)) return withTrims(version.document, own);
    if (trying!.whose === 'look')
      return withTrims(withDials((newest ?? version).document, trying!.values), own);
    return withTrims(version.document, own ? this.merge(own, trying!.values) : trying!.values);
  }
  private merge(own: DialValues, more: DialValues): DialValues {
    const byMore = this.merged.get(own) ?? this.merged.set(own, new WeakMap()).get(own)!;
    const known = byMore.get(more) ?? { ...own, ...more };
    byMore.set(more, known);
    return known;
  }
}

/** Edits that add values to the trims of those clips that wear the look. */
export const trimEdits = (clips: readonly ClipView[], lookId: string, values: DialValues) =>
  clips
    .filter((c) => c.look?.lookId === lookId)
    .map((c) =>
      editOf(c, { trims: withLookTrims(c.trims, lookId, { ...c.trims[lookId], ...values }) }),
    );

/** Edits that replace or remove a look's trims on clips. */
export const replacedTrims = (clips: readonly ClipView[], lookId: string, values: DialValues) =>
  clips
    .filter((c) => c.look?.lookId === lookId)
    .map((c) => editOf(c, { trims: withLookTrims(c.trims, lookId, values) }));
