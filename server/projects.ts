/** Projects, their clips, and the looks on the Shelf: what the endpoints and the demo's loader do with the database. */
import { copyFile, mkdir, readdir, stat } from 'node:fs/promises';
import { basename, join } from 'node:path';
import { isDeepStrictEqual } from 'node:util';
import { and, asc, desc, eq, inArray, max } from 'drizzle-orm';
import type { Balance, LookDocument } from '../core';
import { db, tables } from './database';
import { tell } from './events';
import { send } from './jobs/queue';
import { folder, inData } from './settings';

const { projects, clips, imports, looks, lookVersions } = tables;

export async function makeProject(name: string, width: number, height: number, rate: readonly [number, number]): Promise<string> {
  const [made] = await db().insert(projects).values({ name, width, height, rateNum: rate[0], rateDen: rate[1] }).returning({ id: projects.id });
  return made!.id;
}

/** Records an upload of files named `files` (already in `incoming/<id>` when it is queued). */
export async function openImport(projectId: string, name: string, files: string[]): Promise<string> {
  const [made] = await db().insert(imports).values({ projectId, name, files, doing: 'uploading' }).returning({ id: imports.id });
  folder('incoming', made!.id);
  return made!.id;
}
export async function queueImport(id: string): Promise<void> {
  const [row] = await db().update(imports).set({ doing: 'waiting for a worker' }).where(eq(imports.id, id)).returning();
  await send('import', [{ importId: id }]);
  if (row) await tell({ project: row.projectId, what: 'imports' });
}

/** Brings a file or folder on this machine in, by a copy. */
export async function importPath(projectId: string, path: string): Promise<string> {
  const isFolder = (await stat(path)).isDirectory();
  const files = isFolder ? await readdir(path) : [basename(path)];
  const id = await openImport(projectId, basename(path), files);
  await mkdir(inData(join('incoming', id)), { recursive: true });
  for (const f of files) await copyFile(isFolder ? join(path, f) : path, inData(join('incoming', id, f)));
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
    const [look] = await tx.insert(looks).values({ name: document.name }).returning({ id: looks.id });
    const [version] = await tx.insert(lookVersions).values({ lookId: look!.id, number: 1, document }).returning({ id: lookVersions.id });
    return { lookId: look!.id, versionId: version!.id, number: 1 };
  });
}

/** The look was saved by someone else since: its newest version's number. */
export class Outdated extends Error {
  constructor(readonly newest: number) {
    super(`someone saved version ${newest} meanwhile`);
  }
}

/** Saves the next version, if `basedOn` is still the newest; versions never change. */
export async function saveVersion(lookId: string, document: LookDocument, basedOn: number): Promise<SavedVersion> {
  return db().transaction(async (tx) => {
    const [look] = await tx.select().from(looks).where(eq(looks.id, lookId)).for('update');
    if (!look) throw new Outdated(0);
    const [{ newest } = { newest: 0 }] = await tx
      .select({ newest: max(lookVersions.number) })
      .from(lookVersions)
      .where(eq(lookVersions.lookId, lookId));
    if ((newest ?? 0) !== basedOn) throw new Outdated(newest ?? 0);
    await tx.update(looks).set({ name: document.name }).where(eq(looks.id, lookId));
    const [version] = await tx
      .insert(lookVersions)
      .values({ lookId, number: basedOn + 1, document })
      .returning({ id: lookVersions.id });
    return { lookId, versionId: version!.id, number: basedOn + 1 };
  });
}

/** Puts a look's version (or none) on clips of a project. */
export async function assign(projectId: string, clipIds: readonly string[], lookVersionId: string | null): Promise<number> {
  const changed = await db()
    .update(clips)
    .set({ lookVersionId })
    .where(and(eq(clips.projectId, projectId), inArray(clips.id, [...clipIds])))
    .returning({ id: clips.id });
  await tell({ project: projectId, what: 'clips' });
  return changed.length;
}

/** A clip's balance is another than the one that was to be replaced. */
export class Rebalanced extends Error {}

export interface BalanceChange {
  readonly clip: string;
  readonly balance: Balance | null;
  readonly was: Balance | null;
}
/** Sets clips' balances, all or (if someone changed one meanwhile) none. */
export async function balanceClips(projectId: string, changes: readonly BalanceChange[]): Promise<number> {
  const plain = (b: Balance | null): unknown => b && { slope: b.slope, offset: b.offset, power: b.power, saturation: b.saturation };
  await db().transaction(async (tx) => {
    const rows = await tx
      .select({ id: clips.id, name: clips.name, balance: clips.balance })
      .from(clips)
      .where(
        and(
          eq(clips.projectId, projectId),
          inArray(
            clips.id,
            changes.map((c) => c.clip),
          ),
        ),
      )
      .for('update');
    for (const { clip, balance, was } of changes) {
      const row = rows.find((r) => r.id === clip);
      if (!row) throw new Rebalanced('a clip has gone');
      if (!isDeepStrictEqual(plain(row.balance), plain(was))) throw new Rebalanced(`${row.name} was balanced anew`);
      await tx
        .update(clips)
        .set({ balance: plain(balance) as Balance | null })
        .where(eq(clips.id, clip));
    }
  });
  await tell({ project: projectId, what: 'clips' });
  return changes.length;
}

export const lookList = (limit: number, offset: number) =>
  db().query.looks.findMany({
    orderBy: [asc(looks.name), asc(looks.created)],
    limit,
    offset,
    with: { versions: { columns: { id: true, number: true, created: true }, orderBy: [desc(lookVersions.number)] } },
  });
export const versionOf = (id: string) => db().query.lookVersions.findFirst({ where: eq(lookVersions.id, id) });
