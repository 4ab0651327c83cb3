/**
 * Projects, their clips, and the looks on the Shelf: what the endpoints and the demo's loader do
 * with the database.
 */
import { copyFile, mkdir, readdir, stat } from 'node:fs/promises';
import { basename, join } from 'node:path';
import { and, asc, count, desc, eq, inArray, isNull, ne, sql, type SQL } from 'drizzle-orm';
import type { LookDocument } from '../core';
import { db, tables } from './database';
import { tell } from './events';
import { send } from './jobs/queue';
import { readAs } from './media/footage';
import { folder, inData } from './settings';

const { projects, clips, imports, looks, lookVersions } = tables;

export async function makeProject(
  name: string,
  width: number,
  height: number,
  rate: readonly [number, number],
): Promise<string> {
  const [made] = await db()
    .insert(projects)
    .values({ name, width, height, rateNum: rate[0], rateDen: rate[1] })
    .returning({ id: projects.id });
  return made!.id;
}

/** Says that something in a project was changed just now. */
export const touchProject = (id: string, on: Pick<ReturnType<typeof db>, 'update'> = db()) =>
  on.update(projects).set({ touched: new Date() }).where(eq(projects.id, id));

/** All projects, those last touched first, and how many clips each has. */
export const projectList = () =>
  db()
    .select({
      id: projects.id,
      name: projects.name,
      width: projects.width,
      height: projects.height,
      rateNum: projects.rateNum,
      rateDen: projects.rateDen,
      touched: projects.touched,
      removed: projects.removed,
      clips: count(clips.id),
    })
    .from(projects)
    .leftJoin(clips, and(eq(clips.projectId, projects.id), eq(clips.role, 'clip')))
    .groupBy(projects.id)
    .orderBy(desc(projects.touched))
    .limit(200);

/** Renames a project, removes it or puts it back; false where there is none. */
export async function changeProject(
  id: string,
  { name, removed }: { readonly name?: string | undefined; readonly removed?: boolean | undefined },
): Promise<boolean> {
  const changed = await db()
    .update(projects)
    .set({
      ...(name !== undefined && { name }),
      ...(removed !== undefined && { removed: removed ? new Date() : null }),
      touched: new Date(),
    })
    .where(eq(projects.id, id))
    .returning({ id: projects.id });
  return changed.length > 0;
}

/**
 * A project again, with its clips and all that is decided about them; undefined where there is
 * none.
 */
export async function copyProject(id: string): Promise<string | undefined> {
  return db().transaction(async (tx) => {
    const project = await tx.query.projects.findFirst({ where: eq(projects.id, id) });
    if (!project) return undefined;
    const { name, width, height, rateNum, rateDen } = project;
    const [made] = await tx
      .insert(projects)
      .values({ name: `${name.slice(0, 75)} copy`, width, height, rateNum, rateDen })
      .returning({ id: projects.id });
    const own = await tx.select().from(clips).where(eq(clips.projectId, id));
    if (own.length > 0)
      await tx
        .insert(clips)
        .values(own.map(({ id: _, created: __, ...c }) => ({ ...c, projectId: made!.id })));
    return made!.id;
  });
}

/** What an import is doing while its files come. */
export const UPLOADING = 'uploading';

const ending = (name: string): string => /\.[a-z0-9]{1,8}$/i.exec(name)?.[0].toLowerCase() ?? '';
/** What an uploaded file is called on the disk: its own name may be anything. */
export const uploadName = (name: string, index: number): string =>
  `${String(index).padStart(6, '0')}${ending(name)}`;

/** Records an upload of files named `files` (already in `incoming/<id>` when it is queued). */
export async function openImport(
  projectId: string,
  name: string,
  files: string[],
): Promise<string> {
  const [made] = await db()
    .insert(imports)
    .values({ projectId, name, files, doing: UPLOADING })
    .returning({ id: imports.id });
  folder('incoming', made!.id);
  await touchProject(projectId);
  return made!.id;
}
/**
 * Has a clip's footage made progressive, as a clip beside it; undefined where there is no such
 * clip.
 */
export async function importProgressive(clipId: string, each: 1 | 2): Promise<string | undefined> {
  const clip = await db().query.clips.findFirst({
    where: eq(clips.id, clipId),
    with: { footage: true },
  });
  if (!clip) return undefined;
  const { fields = 'none' } = readAs(clip.footage.facts, clip.sampling).format;
  const [made] = await db()
    .insert(imports)
    .values({
      projectId: clip.projectId,
      name: `${clip.name} progressive`,
      files: [],
      progressive: { hash: clip.hash, first: fields === 'none' ? 'top' : fields, each },
      doing: UPLOADING,
    })
    .returning({ id: imports.id });
  folder('incoming', made!.id);
  await queueImport(made!.id);
  return made!.id;
}

/** Hands an upload to a worker; false where it has begun already, undefined where there is none. */
export async function queueImport(id: string): Promise<boolean | undefined> {
  const row = await db().transaction(async (tx) => {
    const [begun] = await tx
      .update(imports)
      .set({ doing: 'waiting for a worker' })
      .where(and(eq(imports.id, id), eq(imports.state, 'waiting'), eq(imports.doing, UPLOADING)))
      .returning();
    if (begun) await send('import', [{ importId: id }], {}, tx);
    return begun;
  });
  if (!row) return (await db().$count(imports, eq(imports.id, id))) > 0 ? false : undefined;
  await tell({ project: row.projectId, what: 'imports' });
  return true;
}

/** Brings a file or folder on this machine in, by a copy. */
export async function importPath(projectId: string, path: string): Promise<string> {
  const isFolder = (await stat(path)).isDirectory();
  const files = isFolder ? await readdir(path) : [basename(path)];
  const id = await openImport(projectId, basename(path), files);
  await mkdir(inData(join('incoming', id)), { recursive: true });
  for (const [i, f] of files.entries())
    await copyFile(isFolder ? join(path, f) : path, inData(join('incoming', id, uploadName(f, i))));
  await queueImport(id);
  return id;
}

export interface SavedVersion {
  readonly lookId: string;
  readonly versionId: string;
  readonly number: number;
}

export async function makeLook(document: LookDocument): Promise<SavedVersion> {
  return db().transaction(async (tx) => {
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
}

/** The look was saved by someone else since: its newest version's number. */
export class Outdated extends Error {
  constructor(readonly newest: number) {
    super(`someone saved version ${newest} meanwhile`);
  }
}

/** Clips follow the look that were not shown to whoever saved: their names. */
export class MoreFollow extends Error {
  constructor(readonly clips: readonly string[]) {
    super(`${clips.join(', ')} follow${clips.length === 1 ? 's' : ''} the look too by now`);
  }
}

/**
 * Which of the clips that follow a look go on to the version that is saved, and which stay where
 * they are from now on.
 */
export interface Following {
  readonly follow: readonly string[];
  readonly stay: readonly string[];
}

/**
 * Saves the next version, if `basedOn` is still the newest; versions never change. Clips that
 * follow the look go on to it, and only those that were seen: throws `MoreFollow` if there are
 * others by now, `Outdated` if someone saved meanwhile.
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
        .set({ follows: false })
        .where(inArray(clips.id, idsOf(staying)));
    return {
      saved: { lookId, versionId: version!.id, number },
      touched: new Set(followers.map((c) => c.projectId)),
    };
  });
  for (const project of touched) await tell({ project, what: 'clips' });
  return saved;
}
const idsOf = (rows: readonly { readonly id: string }[]): string[] => rows.map((r) => r.id);

/** Clips that wear a look and follow it, in whatever project. */
export const followed = (lookId: string): SQL =>
  and(
    eq(clips.follows, true),
    inArray(
      clips.lookVersionId,
      db()
        .select({ id: lookVersions.id })
        .from(lookVersions)
        .where(eq(lookVersions.lookId, lookId)),
    ),
  )!;

/** Looks by name, their versions newest first; what was removed of them apart. */
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
 * Takes a version out of sight, or puts it back; false where there is none. One that a clip wears
 * stays, and so does a look's only one: throws `InUse`.
 */
export async function removeVersion(id: string, removed: boolean): Promise<boolean> {
  return db().transaction(async (tx) => {
    const version = await tx.query.lookVersions.findFirst({ where: eq(lookVersions.id, id) });
    if (!version) return false;
    await tx.select().from(looks).where(eq(looks.id, version.lookId)).for('update');
    if (removed) {
      const worn = await tx
        .select({ name: clips.name })
        .from(clips)
        .where(eq(clips.lookVersionId, id))
        .limit(4);
      if (worn.length > 0)
        throw new InUse(
          `It is on ${worn.map((c) => c.name).join(', ')}: put another version on there first.`,
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
export const versionOf = (id: string) =>
  db().query.lookVersions.findFirst({ where: eq(lookVersions.id, id) });

export const versionsExist = async (ids: readonly string[]): Promise<boolean> =>
  (await db().$count(lookVersions, inArray(lookVersions.id, [...ids]))) === new Set(ids).size;
