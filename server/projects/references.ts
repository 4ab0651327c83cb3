/** Kept references: pictures in the data folder, and what they showed in the database. */
import { createHash } from 'node:crypto';
import { readFile, writeFile } from 'node:fs/promises';
import { basename, join } from 'node:path';
import { desc, eq } from 'drizzle-orm';
import { type ClipStatistics, type LookDocument, sampleOf, statisticsOf } from '../../core';
import { Engine } from '../../core/engine';
import { db, tables } from '../database';
import { notify } from '../events';
import { frameOf } from '../media/decode';
import { placeOf } from '../media/place';
import { probe } from '../media/probe';
import { folder, inData } from '../config/settings';

const { keptReferences, lookVersions } = tables;

/** A reference to keep. */
export interface NewReference {
  readonly projectId: string;
  readonly name: string;
  readonly clipId: string;
  readonly clipName: string;
  readonly frame: number;
  readonly versionId: string | null;
  readonly document: LookDocument;
}

/** Keeps a reference; returns its id. */
export async function keepReference(kept: NewReference, picture: Buffer): Promise<string> {
  const file = join('references', `${createHash('sha256').update(picture).digest('hex')}.png`);
  await writeFile(join(folder('references'), basename(file)), picture);
  const [made] = await db()
    .insert(keptReferences)
    .values({ ...kept, picture: file })
    .returning({ id: keptReferences.id });
  await notify({ project: kept.projectId, what: 'references' });
  return made!.id;
}

/** The newest 200 references of a project, each with the version it was made from. */
export const referencesOf = (projectId: string) =>
  db()
    .select({
      reference: keptReferences,
      number: lookVersions.number,
      saved: lookVersions.document,
    })
    .from(keptReferences)
    .leftJoin(lookVersions, eq(keptReferences.versionId, lookVersions.id))
    .where(eq(keptReferences.projectId, projectId))
    .orderBy(desc(keptReferences.created))
    .limit(200);

/** A reference's PNG; undefined if there is none. */
export async function pictureOf(id: string): Promise<Buffer | undefined> {
  const row = await db().query.keptReferences.findFirst({
    where: eq(keptReferences.id, id),
    columns: { picture: true },
  });
  return row && readFile(inData(row.picture)).catch(() => undefined);
}

/**
 * Statistics of a reference's picture, measured once; undefined if there is none. Pages show
 * BT.709.
 */
export async function statisticsOfReference(id: string): Promise<ClipStatistics | undefined> {
  const row = await db().query.keptReferences.findFirst({
    where: eq(keptReferences.id, id),
    columns: { picture: true, statistics: true },
  });
  if (!row || row.statistics) return row?.statistics ?? undefined;
  const file = inData(row.picture);
  const place = await placeOf(file);
  const facts = await probe(file, { place });
  const engine = new Engine({ limit: 2 ** 28, helpers: 0 });
  try {
    const raw = await frameOf(place, facts, 0);
    const statistics = statisticsOf([
      sampleOf(engine, raw, undefined, {
        encoding: 'bt709',
        pixelAspect: facts.pixelAspect,
        rate: facts.rate,
      }),
    ]);
    await db().update(keptReferences).set({ statistics }).where(eq(keptReferences.id, id));
    return statistics;
  } finally {
    engine.close();
  }
}

/**
 * Removes a reference; false if there was none. The picture stays, because another reference may
 * use it.
 */
export async function dropReference(id: string): Promise<boolean> {
  const [row] = await db()
    .delete(keptReferences)
    .where(eq(keptReferences.id, id))
    .returning({ project: keptReferences.projectId });
  if (row) await notify({ project: row.project, what: 'references' });
  return row !== undefined;
}
