/** The looks that clips wear. */
import { useQueries } from '@tanstack/react-query';
import type { ClipEdit } from '../../../server/clips/clips';
import type { ClipView, LookView, VersionView } from '../../data/views';
import { editOf } from '../../data/clip-edits';
import { versionQuery } from '../../data/queries';

/** The versions that clips wear, and the newest version of each of their looks. */
export function useVersions(clips: readonly ClipView[], looks: readonly LookView[]) {
  const applied = [...new Set(clips.flatMap((c) => (c.look ? [c.look.versionId] : [])))];
  const ids = new Set(clips.map((c) => c.look?.lookId));
  const newest = looks
    .filter((l) => ids.has(l.id))
    .flatMap((l) => (l.versions[0] ? [l.versions[0].id] : []));
  return useQueries({
    queries: [...new Set([...applied, ...newest])].map((id) => versionQuery(id)),
    combine: (all) =>
      new Map(all.flatMap((v) => (v.data ? [[v.data.id, v.data] as [string, VersionView]] : []))),
  });
}

/** Id of the look that most clips wear. */
export function mostApplied(clips: readonly ClipView[]): string | undefined {
  const counts = new Map<string, number>();
  for (const c of clips)
    if (c.look) counts.set(c.look.lookId, (counts.get(c.look.lookId) ?? 0) + 1);
  return [...counts].sort((a, b) => b[1] - a[1])[0]?.[0];
}

/**
 * A change of chosen clips' looks: a version, followed or not; or whether they follow their current
 * look.
 */
export type LookChange =
  | { readonly kind: 'look'; readonly version: string | null; readonly follows: boolean }
  | { readonly kind: 'follow' | 'stay' };

/** The edits for that. Following or staying has no effect on clips without a look. */
export function lookEdits(
  clips: readonly ClipView[],
  to: LookChange,
  looks: readonly LookView[],
): ClipEdit[] {
  if (to.kind === 'look')
    return clips.map((c) => editOf(c, { version: to.version, follows: to.follows }));
  const newest = (c: ClipView) =>
    looks.find((l) => l.id === c.look!.lookId)?.versions[0]?.id ?? c.look!.versionId;
  return clips
    .filter((c) => c.look)
    .map((c) =>
      editOf(c, to.kind === 'stay' ? { follows: false } : { version: newest(c), follows: true }),
    );
}
