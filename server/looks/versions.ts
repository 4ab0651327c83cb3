/** Looks on the Shelf, their versions, and the clips that follow them. */
import { and, asc, desc, eq, inArray, isNull, ne, sql, type SQL } from 'drizzle-orm';
import type { LookDocument } from '../../core';
import { db, tables } from '../database';
import { notify } from '../events';

const { clips, looks, lookVersions } = tables;

/** A version that was saved. */
export interface SavedVersion {
  readonly lookId: string;
  readonly versionId: string;
  readonly number: number;
}

/** Creates a look with its first version. */
export async function makeLook(document: LookDocument): Promise<SavedVersion> {
  const made = await db().transaction(async (tx) => {
    const [look] = await tx
      .insert(looks)
      .values({ name: document.name })
      .returning({ id: looks.id });
    const [version] = await tx
      .insert(lookVersions)
      .values({ lookId: look!.id, number: 1, document })
      .returning({ id: lookVersions.id });
    return { lookId: look!.id, versionId: version!.id, number: 1 };
  });
  await lookChanged();
  return made;
}
/** Looks belong to no project: every open page hears of them. */
const lookChanged = (): Promise<unknown> => notify({ project: null, what: 'looks' });

/** Removes a look with all of its versions; false if there is none. */
export async function removeLook(id: string): Promise<boolean> {
  const gone = await db().delete(looks).where(eq(looks.id, id)).returning({ id: looks.id });
  if (gone.length > 0) await lookChanged();
  return gone.length > 0;
}

/** The look was saved by someone else; holds the number of the newest version. */
export class Outdated extends Error {
  constructor(readonly newest: number) {
    super(`someone saved version ${newest} meanwhile`);
  }
}

/** More clips follow the look than the person saving was shown; holds their names. */
export class MoreFollow extends Error {
  constructor(readonly clips: readonly string[]) {
    super(`${clips.join(', ')} follow${clips.length === 1 ? 's' : ''} the look too by now`);
  }
}

/** Clips that move to the saved version, and clips that stay at theirs from now on. */
export interface Following {
  readonly follow: readonly string[];
  readonly stay: readonly string[];
}

/**
 * Saves the next version if `basedOn` is still the newest. Versions never change. Clips that follow
 * the look move to it, but only those that were shown: throws `MoreFollow` if there are others,
 * `Outdated` if someone else has saved.
 */
export async function saveVersion(
  lookId: string,
  document: LookDocument,
  basedOn: number,
  { follow, stay }: Following,
): Promise<SavedVersion> {
  const { saved, touched } = await db().transaction(async (tx) => {
    const [look] = await tx.select().from(looks).where(eq(looks.id, lookId)).for('update');
    if (!look) throw new Outdated(0);
    const [{ newest, last } = { newest: 0, last: 0 }] = await tx
      .select({
        newest: sql<number>`coalesce(max(${lookVersions.number}) filter (where ${lookVersions.removed} is null), 0)`,
        last: sql<number>`coalesce(max(${lookVersions.number}), 0)`,
      })
      .from(lookVersions)
      .where(eq(lookVersions.lookId, lookId));
    if (newest !== basedOn) throw new Outdated(newest);
    // A removed version keeps its number.
    const number = last + 1;
    await tx.update(looks).set({ name: document.name }).where(eq(looks.id, lookId));
    const [version] = await tx
      .insert(lookVersions)
      .values({ lookId, number, document })
      .returning({ id: lookVersions.id });
    const followers = await tx.select().from(clips).where(followed(lookId)).for('update');
    const unseen = followers.filter((c) => !follow.includes(c.id) && !stay.includes(c.id));
    if (unseen.length > 0) throw new MoreFollow(unseen.map((c) => c.name));
    const [going, staying] = [
      followers.filter((c) => follow.includes(c.id)),
      followers.filter((c) => !follow.includes(c.id)),
    ];
    if (going.length > 0)
      await tx
        .update(clips)
        .set({ lookVersionId: version!.id })
        .where(inArray(clips.id, idsOf(going)));
    if (staying.length > 0)
      await tx
        .update(clips)
        .set({ decided: sql`${clips.decided} || '{"follows":false}'` })
        .where(inArray(clips.id, idsOf(staying)));
    return {
      saved: { lookId, versionId: version!.id, number },
      touched: new Set(followers.map((c) => c.projectId)),
    };
  });
  for (const project of touched) await notify({ project, what: 'clips' });
  await lookChanged();
  return saved;
}
const idsOf = (rows: readonly { readonly id: string }[]): string[] => rows.map((r) => r.id);

/** Condition for clips that wear a look and follow it, in any project. */
export const followed = (lookId: string): SQL =>
  and(
    sql`${clips.decided} @> '{"follows":true}'`,
    inArray(
      clips.lookVersionId,
      db()
        .select({ id: lookVersions.id })
        .from(lookVersions)
        .where(eq(lookVersions.lookId, lookId)),
    ),
  )!;

/** Looks by name with their versions, newest first; removed versions are separate. */
export async function lookList(limit: number, offset: number) {
  const rows = await db().query.looks.findMany({
    orderBy: [asc(looks.name), asc(looks.created)],
    limit,
    offset,
    with: {
      versions: {
        columns: { id: true, number: true, created: true, removed: true },
        orderBy: [desc(lookVersions.number)],
      },
    },
  });
  return rows.map(({ versions, ...look }) => ({
    ...look,
    versions: versions.flatMap(({ removed, ...v }) => (removed ? [] : [v])),
    removed: versions.flatMap(({ removed, ...v }) => (removed ? [v] : [])),
  }));
}

/** Why a version cannot be removed. */
export class InUse extends Error {}

/**
 * Removes or restores a version; false if there is none. Throws `InUse` if a clip wears it, or if
 * it is its look's only one.
 */
export async function removeVersion(id: string, removed: boolean): Promise<boolean> {
  return db().transaction(async (tx) => {
    const version = await tx.query.lookVersions.findFirst({ where: eq(lookVersions.id, id) });
    if (!version) return false;
    await tx.select().from(looks).where(eq(looks.id, version.lookId)).for('update');
    if (removed) {
      const inUse = await tx
        .select({ name: clips.name })
        .from(clips)
        .where(eq(clips.lookVersionId, id))
        .limit(4);
      if (inUse.length > 0)
        throw new InUse(
          `It is on ${inUse.map((c) => c.name).join(', ')}: put another version on there first.`,
        );
      const left = await tx.$count(
        lookVersions,
        and(
          eq(lookVersions.lookId, version.lookId),
          isNull(lookVersions.removed),
          ne(lookVersions.id, id),
        ),
      );
      if (left === 0)
        throw new InUse('It is the look’s only version: remove the look itself on the Shelf.');
    }
    await tx
      .update(lookVersions)
      .set({ removed: removed ? new Date() : null })
      .where(eq(lookVersions.id, id));
    return true;
  });
}
/** The version with this id. */
export const versionOf = (id: string) =>
  db().query.lookVersions.findFirst({ where: eq(lookVersions.id, id) });

/** Whether all of these versions exist. */
export const versionsExist = async (ids: readonly string[]): Promise<boolean> =>
  (await db().$count(lookVersions, inArray(lookVersions.id, [...ids]))) === new Set(ids).size;
