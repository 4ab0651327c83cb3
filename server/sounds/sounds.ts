/** Sounds of projects: files with sound alone, brought in beside the footage. */
import { randomUUID } from 'node:crypto';
import { rename, rm } from 'node:fs/promises';
import { extname, join } from 'node:path';
import { and, asc, eq, isNull, sql } from 'drizzle-orm';
import type { BeatsSaid, SoundFacts } from '../../core';
import { folder, inData } from '../config/settings';
import { db, tables } from '../database';
import { notify } from '../events';
import { hashOf } from '../media/place';
import { readSoundFile } from '../media/sound-file';
import { storeSound } from '../media/store';
import { touchProject } from '../projects/projects';

const { soundFiles, sounds } = tables;

/** A sound as pages see it. */
export interface SoundState extends SoundFacts {
  readonly id: string;
  readonly hash: string;
  readonly name: string;
  readonly bytes: number;
  /** What is said of its beats. */
  readonly said: BeatsSaid;
}
/** A file made from a sound file, by its name. */
export const inSound = (hash: string, file: string): string => inData(join('sounds', hash, file));

/** The sounds of a project, as they were brought in. */
export async function soundsOf(projectId: string): Promise<SoundState[]> {
  const rows = await db().query.sounds.findMany({
    where: and(eq(sounds.projectId, projectId), isNull(sounds.removed)),
    orderBy: [asc(sounds.created)],
    with: { of: true },
  });
  return rows.map(({ id, hash, name, beats: said, of }) => ({
    ...of.facts,
    ...{ id, hash, name, said, bytes: of.bytes },
  }));
}

/** How a sound is brought in: its project, what it is called, and what is told of the work. */
export interface Bringing {
  readonly project: string;
  readonly name: string;
  readonly report: (share: number) => void;
  readonly signal: AbortSignal;
}
/**
 * Brings a sound file in. `there`: the name under which the project has it already. Throws
 * `NotFootage`.
 */
export async function takeSound(
  path: string,
  { project, name, report, signal }: Bringing,
): Promise<{ readonly there: string | undefined }> {
  const hash = await hashOf(path);
  const known = await db().query.soundFiles.findFirst({ where: eq(soundFiles.hash, hash) });
  if (!known) {
    const made = folder('sounds', `.making-${randomUUID()}`);
    try {
      const facts = await readSoundFile(path, name, made, report, signal);
      await rm(inSound(hash, ''), { recursive: true, force: true });
      await rename(made, inSound(hash, ''));
      const { file, bytes } = await storeSound(path, inSound(hash, `original${extname(path)}`));
      await db().insert(soundFiles).values({ hash, bytes, file, facts }).onConflictDoNothing();
    } finally {
      await rm(made, { recursive: true, force: true });
    }
  }
  return db().transaction(async (tx) => {
    // Serialises imports of the same file.
    await tx.execute(sql`select pg_advisory_xact_lock(hashtext(${project + hash}))`);
    const own = and(eq(sounds.projectId, project), eq(sounds.hash, hash), isNull(sounds.removed));
    const there = await tx.query.sounds.findFirst({ where: own });
    if (!there)
      await tx
        .insert(sounds)
        .values({ projectId: project, hash, name: name.replace(/\.[^.]+$/, '') });
    return { there: there?.name };
  });
}

/** Changes of a sound. */
export interface SoundEdit {
  readonly name?: string | undefined;
  readonly removed?: boolean | undefined;
  readonly beats?: BeatsSaid | undefined;
}
/** Changes a sound, takes it away or puts it back; false if there is none. */
export async function changeSound(
  id: string,
  { name, removed, beats }: SoundEdit,
): Promise<boolean> {
  const [row] = await db()
    .update(sounds)
    .set({
      ...(name !== undefined && { name }),
      ...(beats && { beats }),
      ...(removed !== undefined && { removed: removed ? new Date() : null }),
    })
    .where(eq(sounds.id, id))
    .returning({ projectId: sounds.projectId });
  if (!row) return false;
  await touchProject(row.projectId);
  await notify({ project: row.projectId, what: 'clips' });
  return true;
}
