/** Creates imports, names uploaded files, and hands imports to a worker. */
import { copyFile, mkdir, readdir, rm, stat } from 'node:fs/promises';
import { basename, join } from 'node:path';
import { and, eq, lt, sql } from 'drizzle-orm';
import { type KeptGaps, USUAL_SEQUENCE } from '../../core';
import { folder, inData } from '../config/settings';
import { db, tables } from '../database';
import { notify } from '../events';
import { send } from '../jobs/queue';
import { readAs } from '../media/footage';
import type { Again } from '../media/again';
import { touchProject } from '../projects/projects';

const { clips, imports } = tables;

/** State text of an import during the upload. */
export const UPLOADING = 'uploading';

const ending = (name: string): string => /\.[a-z0-9]{1,8}$/i.exec(name)?.[0].toLowerCase() ?? '';
/** Name of an uploaded file on disk, independent of its own name. */
export const uploadName = (name: string, index: number): string =>
  `${String(index).padStart(6, '0')}${ending(name)}`;

/**
 * Creates an import of files named `files`. They must be in `incoming/<id>` before it is queued.
 */
export async function openImport(
  projectId: string,
  name: string,
  files: string[],
  role: 'clip' | 'plate' = 'clip',
): Promise<string> {
  await sweepLeft();
  const [made] = await db()
    .insert(imports)
    .values({ projectId, name, files, role, doing: UPLOADING })
    .returning({ id: imports.id });
  folder('incoming', made!.id);
  await touchProject(projectId);
  return made!.id;
}
/** Age from which an upload that was never finished is given up. */
const LEFT_AFTER = sql`interval '1 day'`;
/** Removes what uploads left that broke off, with their page or their machine. */
async function sweepLeft(): Promise<void> {
  const left = await db()
    .delete(imports)
    .where(
      and(
        eq(imports.state, 'waiting'),
        eq(imports.doing, UPLOADING),
        lt(imports.created, sql`now() - ${LEFT_AFTER}`),
      ),
    )
    .returning({ id: imports.id });
  for (const { id } of left)
    await rm(inData(join('incoming', id)), { recursive: true, force: true });
}
const withFootage = (clipId: string) =>
  db().query.clips.findFirst({
    where: eq(clips.id, clipId),
    with: { footage: { columns: { index: false } } },
  });
type ClipWithFootage = NonNullable<Awaited<ReturnType<typeof withFootage>>>;

/** Has a clip's footage made into other footage, as a new clip. */
async function importAgain(clip: ClipWithFootage, suffix: string, again: Again): Promise<string> {
  const [made] = await db()
    .insert(imports)
    .values({
      projectId: clip.projectId,
      name: `${clip.name} ${suffix}`,
      files: [],
      role: clip.decided.role,
      again,
      doing: UPLOADING,
    })
    .returning({ id: imports.id });
  folder('incoming', made!.id);
  await queueImport(made!.id);
  return made!.id;
}
/** Makes a clip's footage progressive as a new clip; undefined if there is no such clip. */
export async function importProgressive(clipId: string, each: 1 | 2): Promise<string | undefined> {
  const clip = await withFootage(clipId);
  if (!clip) return undefined;
  const { fields = 'none' } = readAs(clip.footage.facts, clip.decided.sampling).format;
  const first = fields === 'none' ? 'top' : fields;
  return importAgain(clip, 'progressive', { made: 'progressive', hash: clip.hash, first, each });
}
/**
 * Brings a sequence in once more, with another choice for its missing pictures, as a new clip;
 * undefined if there is no such clip, null if it lacks no picture.
 */
export async function importGaps(
  clipId: string,
  gaps: KeptGaps,
): Promise<string | null | undefined> {
  const clip = await withFootage(clipId);
  if (!clip) return undefined;
  const { sequence = USUAL_SEQUENCE, gaps: lacking = 0 } = clip.footage.facts;
  if (lacking === 0) return null;
  const suffix = gaps === 'black' ? 'with black' : 'held';
  return importAgain(clip, suffix, { ...sequence, made: 'sequence', hash: clip.hash, gaps });
}

/** Hands an upload to a worker; false if it has started already, undefined if there is none. */
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
  await notify({ project: row.projectId, what: 'imports' });
  return true;
}

/** Imports a local file or folder by copying it. */
export async function importPath(
  projectId: string,
  path: string,
  role: 'clip' | 'plate' = 'clip',
): Promise<string> {
  const isFolder = (await stat(path)).isDirectory();
  const files = isFolder ? await readdir(path) : [basename(path)];
  const id = await openImport(projectId, basename(path), files, role);
  await mkdir(inData(join('incoming', id)), { recursive: true });
  for (const [i, f] of files.entries())
    await copyFile(isFolder ? join(path, f) : path, inData(join('incoming', id, uploadName(f, i))));
  await queueImport(id);
  return id;
}
