/** Requests inspections of clips that changed since their last one, and stops running ones. */
import { createHash } from 'node:crypto';
import type { Retime } from '../../core/time';
import { and, asc, eq, inArray } from 'drizzle-orm';
import { INSPECTION_METHOD } from '../../core';
import type {
  Balance,
  ClipPins,
  CutDecisions,
  EncodingId,
  Fit,
  InOut,
  Reframe,
  Sampling,
} from '../../core';
import type { TrimsByLook } from '../database/columns';
import { db, tables } from '../database';
import { notify } from '../events';
import { send } from '../jobs/queue';

const { clips, inspections } = tables;

/** Settings of other clips of the project that pins name. */
export type Reads = readonly Pick<
  typeof clips.$inferSelect,
  'projectId' | 'hash' | 'encoding' | 'sampling' | 'fit' | 'reframe' | 'balance' | 'role' | 'plate'
>[];

/** Everything about a clip that its flags depend on. */
interface Subject {
  readonly projectId: string;
  readonly hash: string;
  readonly encoding: EncodingId;
  readonly sampling: Sampling | null;
  readonly fit: Fit;
  readonly reframe: Reframe | null;
  readonly inOut: InOut | null;
  readonly cutsSaid: CutDecisions;
  readonly retime: Retime | null;
  readonly balance: Balance | null;
  readonly trims: TrimsByLook;
  readonly pins: ClipPins;
  readonly project: { readonly width: number; readonly height: number };
  readonly version: { readonly id: string; readonly lookId: string } | null;
}
/** Settings of the footage that clips' pins name; empty for clips without such pins. */
export async function pinFootageReads(
  subjects: readonly { readonly projectId: string; readonly pins: ClipPins }[],
): Promise<Reads> {
  const hashes = subjects.flatMap((s) => pinnedHashes(s.pins));
  if (hashes.length === 0) return [];
  return db().query.clips.findMany({
    where: and(
      inArray(clips.projectId, [...new Set(subjects.map((s) => s.projectId))]),
      inArray(clips.hash, [...new Set(hashes)]),
    ),
    columns: {
      projectId: true,
      hash: true,
      encoding: true,
      sampling: true,
      fit: true,
      reframe: true,
      balance: true,
      role: true,
      plate: true,
    },
    orderBy: [asc(clips.hash), asc(clips.place)],
  });
}
const pinnedHashes = (pins: ClipPins): string[] =>
  Object.values(pins).flatMap((all) => all.flatMap((p) => ('hash' in p ? [p.hash] : [])));

/** Hash of everything the flags depend on. */
export function inspectedAs(
  {
    projectId,
    hash,
    encoding,
    sampling,
    fit,
    reframe,
    inOut,
    cutsSaid,
    retime,
    balance,
    trims,
    pins,
    project,
    version,
  }: Subject,
  reads: Reads,
): string {
  const own = version && (trims[version.lookId] ?? null);
  const beside = reads.filter(
    (r) => r.projectId === projectId && pinnedHashes(pins).includes(r.hash),
  );
  const facts = [
    INSPECTION_METHOD,
    hash,
    encoding,
    sampling,
    fit,
    reframe,
    balance,
    version?.id ?? null,
    own,
    pins,
    project.width,
    project.height,
    beside,
    ...(retime ? [retime] : []),
    ...(inOut ? [inOut] : []),
    ...(Object.keys(cutsSaid).length > 0 ? [cutsSaid] : []),
  ];
  return createHash('sha256').update(JSON.stringify(facts)).digest('hex');
}

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
    with: { project: true, version: { columns: { id: true, lookId: true } }, inspection: true },
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
