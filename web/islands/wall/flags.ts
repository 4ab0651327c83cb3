/** What is flagged in a clip, and what of it is meant to be so. */
import { type Flag, FLAG_WORDS } from '../../../core';
import type { ClipView } from '../../data/views';

/** A flag that grew by more than a twentieth since it was accepted is a new one. */
const GROWN = 1.05;
export const isAccepted = (c: ClipView, f: Flag): boolean => {
  const accepted = c.accepted[f.kind];
  return accepted !== undefined && f.worst <= accepted.worst * GROWN;
};
/** What the look it wears raises on purpose. */
export const isMeant = (c: ClipView, f: Flag): boolean => c.look?.means.includes(f.kind) ?? false;
export const openFlags = (c: ClipView): readonly Flag[] =>
  c.inspection?.flags.filter((f) => !isAccepted(c, f) && !isMeant(c, f)) ?? [];
/** The kinds that are flagged and not accepted, in words; none is null. */
export const flaggedWords = (c: ClipView): string | null =>
  [...new Set(openFlags(c).map((f) => FLAG_WORDS[f.kind]))].join(', ') || null;

/** A clip's flags with a kind accepted (at its worst), or taken back. */
export function accepting(
  c: ClipView,
  kind: Flag['kind'],
  reason: string | null,
): ClipView['accepted'] {
  const others = Object.entries(c.accepted).filter(([k]) => k !== kind);
  const worst = Math.max(
    0,
    ...(c.inspection?.flags ?? []).filter((f) => f.kind === kind).map((f) => f.worst),
  );
  return Object.fromEntries(reason === null ? others : [...others, [kind, { reason, worst }]]);
}
