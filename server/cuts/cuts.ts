/** Cuts: one a project, changed by revisions, with versions kept by name. */
import { and, desc, eq, max, sql } from 'drizzle-orm';
import { type CutDocument, emptyCut } from '../../core';
import { db, tables } from '../database';
import { notify } from '../events';
import { touchProject } from '../projects/projects';

const { cuts, cutVersions } = tables;

/** A cut, and how often it was changed. */
export interface CutState {
  readonly document: CutDocument;
  /** 0 before the first change. */
  readonly revision: number;
}
/** The cut of a project; an empty one before the first change. */
export async function cutOf(projectId: string): Promise<CutState> {
  const row = await db().query.cuts.findFirst({ where: eq(cuts.projectId, projectId) });
  return row ?? { document: emptyCut(), revision: 0 };
}

/**
 * Saves a cut in place of the revision that it was made from; the new revision. Undefined if
 * somebody else has changed it meanwhile; nothing is saved then.
 */
export async function saveCut(
  projectId: string,
  document: CutDocument,
  from: number,
): Promise<number | undefined> {
  const [row] =
    from === 0
      ? await db()
          .insert(cuts)
          .values({ projectId, document })
          .onConflictDoNothing()
          .returning({ revision: cuts.revision })
      : await db()
          .update(cuts)
          .set({ document, revision: sql`${cuts.revision} + 1` })
          .where(and(eq(cuts.projectId, projectId), eq(cuts.revision, from)))
          .returning({ revision: cuts.revision });
  if (!row) return undefined;
  await touchProject(projectId);
  await notify({ project: projectId, what: 'cut' });
  return row.revision;
}

/** A version of a cut. */
export interface CutVersion {
  readonly number: number;
  readonly name: string;
  readonly created: Date;
}
/** The versions of a project's cut, the newest first. */
export const versionsOf = (projectId: string): Promise<CutVersion[]> =>
  db()
    .select({
      number: cutVersions.number,
      name: cutVersions.name,
      created: cutVersions.created,
    })
    .from(cutVersions)
    .where(eq(cutVersions.projectId, projectId))
    .orderBy(desc(cutVersions.number));
/** Keeps a document as the next version; its number. */
export const keepVersion = (
  projectId: string,
  name: string,
  document: CutDocument,
): Promise<number> =>
  db().transaction(async (tx) => {
    // Numbers are given one after another.
    await tx.execute(sql`select pg_advisory_xact_lock(hashtext(${`cut ${projectId}`}))`);
    const [last] = await tx
      .select({ number: max(cutVersions.number) })
      .from(cutVersions)
      .where(eq(cutVersions.projectId, projectId));
    const number = (last?.number ?? 0) + 1;
    await tx.insert(cutVersions).values({ projectId, number, name, document });
    return number;
  });
/** The document of a version; undefined if there is none. */
export async function versionOf(
  projectId: string,
  number: number,
): Promise<CutDocument | undefined> {
  const row = await db().query.cutVersions.findFirst({
    where: and(eq(cutVersions.projectId, projectId), eq(cutVersions.number, number)),
  });
  return row?.document;
}
