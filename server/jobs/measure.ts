/** Statistics of footage in an encoding: computed once, from the original, and kept. */
import { and, eq, or } from 'drizzle-orm';
import type { ClipStatistics, EncodingId } from '../../core';
import type { Engine } from '../../core/engine';
import { db, tables } from '../database';
import { tell } from '../events';
import type { Footage } from '../media/footage';
import { measure } from '../media/measure';
import type { Place } from '../media/probe';
import { storedPlace } from '../media/store';
import type { Threads } from '../render';
import { send } from './queue';

const { clips, clipStatistics, footage } = tables;

export interface Measured {
  readonly hash: string;
  readonly encoding: EncodingId;
}

/** Has footage measured unless it was before. */
export async function queueMeasure(wanted: readonly Measured[]): Promise<void> {
  if (wanted.length === 0) return;
  const known = await db()
    .select({ hash: clipStatistics.hash, encoding: clipStatistics.encoding })
    .from(clipStatistics)
    .where(or(...wanted.map((w) => and(eq(clipStatistics.hash, w.hash), eq(clipStatistics.encoding, w.encoding)))));
  for (const w of wanted)
    if (!known.some((k) => k.hash === w.hash && k.encoding === w.encoding)) await send('measure', [w], { singletonKey: `${w.hash}:${w.encoding}` });
}

/** The statistics of footage: known, or measured now (they are needed before the job has come to it). */
export async function statisticsFor(engine: Engine, place: Place, facts: Footage, encoding: EncodingId): Promise<ClipStatistics> {
  const known = await db().query.clipStatistics.findFirst({
    where: and(eq(clipStatistics.hash, facts.hash), eq(clipStatistics.encoding, encoding)),
  });
  // What was measured before plates had points is measured once more.
  return known?.statistics.plate ? known.statistics : measure(engine, place, facts, encoding);
}

export async function runMeasure({ hash, encoding }: Measured, { engine }: Threads): Promise<void> {
  const source = await db().query.footage.findFirst({ where: eq(footage.hash, hash) });
  if (!source) return;
  const { facts } = source;
  const place = await storedPlace(source.file, facts);
  const statistics = await measure(engine, place, facts, encoding);
  await db().insert(clipStatistics).values({ hash, encoding, statistics }).onConflictDoNothing();
  const shown = await db()
    .selectDistinct({ project: clips.projectId })
    .from(clips)
    .where(and(eq(clips.hash, hash), eq(clips.encoding, encoding)));
  for (const { project } of shown) await tell({ project, what: 'clips' });
}
