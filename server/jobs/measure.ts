/** Statistics of footage in an encoding: computed once, from the original, and kept. */
import { and, eq, or, type SQL } from 'drizzle-orm';
import type { ClipStatistics, EncodingId, Sampling } from '../../core';
import type { Engine } from '../../core/engine';
import { db, tables } from '../database';
import { tell } from '../events';
import { type Footage, readAs } from '../media/footage';
import { measure } from '../media/measure';
import type { Place } from '../media/probe';
import { storedPlace } from '../media/store';
import type { Threads } from '../render';
import { send } from './queue';

const { clips, clipStatistics, footage } = tables;

/** Footage, and how it is read. */
export interface Measured {
  readonly hash: string;
  readonly encoding: EncodingId;
  readonly sampling?: Sampling | null;
}
/** Names a way of reading samples; what the tags say is named by nothing. */
export const samplingKey = (s: Sampling | null | undefined): string =>
  s ? (['matrix', 'siting', 'fields'] as const).flatMap((k) => (s[k] ? [`${k}=${s[k]}`] : [])).join() : '';

const same = ({ hash, encoding, sampling }: Measured): SQL =>
  and(eq(clipStatistics.hash, hash), eq(clipStatistics.encoding, encoding), eq(clipStatistics.sampling, samplingKey(sampling)))!;

/** Has footage measured unless it was before. */
export async function queueMeasure(wanted: readonly Measured[]): Promise<void> {
  if (wanted.length === 0) return;
  const known = await db()
    .select({ hash: clipStatistics.hash, encoding: clipStatistics.encoding, sampling: clipStatistics.sampling })
    .from(clipStatistics)
    .where(or(...wanted.map(same)));
  for (const { hash, encoding, sampling } of wanted) {
    const key = samplingKey(sampling);
    if (known.some((k) => k.hash === hash && k.encoding === encoding && k.sampling === key)) continue;
    await send('measure', [{ hash, encoding, sampling: sampling ?? null }], { singletonKey: `${hash}:${encoding}:${key}` });
  }
}

/** The statistics of footage: known, or measured now (they are needed before the job has come to it). */
export async function statisticsFor(engine: Engine, place: Place, facts: Footage, read: Omit<Measured, 'hash'>): Promise<ClipStatistics> {
  const known = await db().query.clipStatistics.findFirst({ where: same({ ...read, hash: facts.hash }) });
  // What was measured before plates had points is measured once more.
  return known?.statistics.plate ? known.statistics : measure(engine, place, readAs(facts, read.sampling), read.encoding);
}

export async function runMeasure({ hash, encoding, sampling = null }: Measured, { engine }: Threads): Promise<void> {
  const source = await db().query.footage.findFirst({ where: eq(footage.hash, hash) });
  if (!source) return;
  const { facts } = source;
  const place = await storedPlace(source.file, facts);
  const statistics = await measure(engine, place, readAs(facts, sampling), encoding);
  await db()
    .insert(clipStatistics)
    .values({ hash, encoding, sampling: samplingKey(sampling), statistics })
    .onConflictDoNothing();
  const shown = await db()
    .selectDistinct({ project: clips.projectId })
    .from(clips)
    .where(and(eq(clips.hash, hash), eq(clips.encoding, encoding)));
  for (const { project } of shown) await tell({ project, what: 'clips' });
}
