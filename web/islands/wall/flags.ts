/** Flags of a clip, and which of them are accepted or intended. */
import { type Flag, FLAG_WORDS } from '../../../core';
import type { ClipView } from '../../data/views';

/** A flag that has grown by more than 5 % since it was accepted counts as new. */
const GROWN = 1.05;
/** Whether a flag is accepted. */
export const isAccepted = (c: ClipView, f: Flag): boolean => {
  const accepted = c.accepted[f.kind];
  return accepted !== undefined && f.worst <= accepted.worst * GROWN;
};
/** Whether the clip's look raises it on purpose. */
export const isMeant = (c: ClipView, f: Flag): boolean => c.look?.means.includes(f.kind) ?? false;
/** Flags that are neither accepted nor intended. */
export const openFlags = (c: ClipView): readonly Flag[] =>
  c.inspection?.flags.filter((f) => !isAccepted(c, f) && !isMeant(c, f)) ?? [];
/** Kinds of open flags as text; null if there are none. */
export const flaggedWords = (c: ClipView): string | null =>
  [...new Set(openFlags(c).map((f) => FLAG_WORDS[f.kind]))].join(', ') || null;

/** A clip's accepted flags with a kind added (at its worst) or removed. */
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
