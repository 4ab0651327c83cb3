/** Requests inspections of clips that changed since their last one, and stops running ones. */
import { and, asc, eq, inArray } from 'drizzle-orm';
import {
  cutsDecided,
  INSPECTION_METHOD,
  pictureOf,
  pinned,
  type PinnedFootage,
  type ClipPins,
  subjectKey,
  tracesNamed,
} from '../../core';
import type { KeptDecisions } from '../database/columns';
import { tracksMade } from '../traces/traces';
import { db, tables } from '../database';
import { notify } from '../events';
import { send } from '../jobs/queue';

const { clips, inspections } = tables;

/** Settings of other clips of projects that pins name. */
export interface Reads {
  readonly footage: readonly (PinnedFootage & { readonly projectId: string })[];
  /** Names of tracks by the ids of their traces. */
  readonly tracks: Readonly<Record<string, string>>;
}

/** What names a clip's subject. */
interface Inspected {
  readonly projectId: string;
  readonly hash: string;
  readonly decided: KeptDecisions;
  readonly footage: { readonly cuts: readonly number[] | null };
  readonly project: { readonly width: number; readonly height: number };
  readonly version: { readonly id: string; readonly lookId: string } | null;
}
/** What clips' pins name: settings of footage, and tracks of traces. */
export async function pinFootageReads(
  subjects: readonly Pick<Inspected, 'projectId' | 'decided'>[],
): Promise<Reads> {
  const all = subjects.map((s) => s.decided.pins);
  const tracks = await tracksMade(all.flatMap((p) => tracesNamed(p, Object.keys(p))));
  const hashes = all.flatMap(pinnedHashes);
  if (hashes.length === 0) return { footage: [], tracks };
  const rows = await db().query.clips.findMany({
    where: and(
      inArray(clips.projectId, [...new Set(subjects.map((s) => s.projectId))]),
      inArray(clips.hash, [...new Set(hashes)]),
    ),
    columns: { projectId: true, hash: true, decided: true },
    orderBy: [asc(clips.hash), asc(clips.place)],
  });
  return {
    footage: rows.map(({ projectId, hash, decided }) => ({
      projectId,
      hash,
      ...pictureOf(decided),
    })),
    tracks,
  };
}
const pinnedHashes = (pins: ClipPins): string[] =>
  Object.values(pins).flatMap((all) => all.flatMap((p) => ('hash' in p ? [p.hash] : [])));

/** Key of everything the flags depend on. */
export const inspectedAs = (
  { projectId, hash, decided, footage, project, version }: Inspected,
  reads: Reads,
): string =>
  subjectKey({
    hash,
    decisions: decided,
    cuts: cutsDecided(footage.cuts, decided.cutsSaid),
    look: version && [version.id, decided.trims[version.lookId] ?? null],
    footage: (named) =>
      pinned(
        named,
        reads.footage.filter((r) => r.projectId === projectId),
      ),
    tracks: (trace) => reads.tracks[trace],
    method: [INSPECTION_METHOD, project.width, project.height],
  });

/**
 * Queues inspections of clips that changed since their last one or never had one; with `again`,
 * also of those that were stopped or failed.
 */
export async function queueInspections(
  projectId: string,
  clipIds: readonly string[],
  again: boolean,
): Promise<number> {
  const rows = await db().query.clips.findMany({
    where: and(eq(clips.projectId, projectId), inArray(clips.id, [...clipIds])),
    with: {
      project: true,
      footage: { columns: { cuts: true } },
      version: { columns: { id: true, lookId: true } },
      inspection: true,
    },
  });
  const reads = await pinFootageReads(rows);
  const wanted = rows
    .map((c) => ({ clipId: c.id, of: inspectedAs(c, reads), known: c.inspection }))
    .filter(
      ({ of, known }) =>
        !known ||
        known.of !== of ||
        (again && (known.state === 'cancelled' || known.state === 'failed')),
    );
  for (const { clipId, of } of wanted) {
    const fresh = { of, state: 'waiting' as const, progress: 0, error: null };
    await db().transaction(async (tx) => {
      await tx
        .insert(inspections)
        .values({ clipId, ...fresh })
        .onConflictDoUpdate({ target: inspections.clipId, set: fresh });
      await send('inspect', [{ clipId, of }], {}, tx);
    });
  }
  if (wanted.length > 0) await notify({ project: projectId, what: 'clips' });
  return wanted.length;
}

/** Stops waiting and running inspections; earlier flags stay. */
export async function stopInspections(projectId: string): Promise<void> {
  const own = db().select({ id: clips.id }).from(clips).where(eq(clips.projectId, projectId));
  await db()
    .update(inspections)
    .set({ state: 'cancelled' })
    .where(
      and(inArray(inspections.clipId, own), inArray(inspections.state, ['waiting', 'running'])),
    );
  await notify({ project: projectId, what: 'clips' });
}
