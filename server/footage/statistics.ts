/** Statistics of footage in an encoding: computed once from the original, and stored. */
import { and, eq, isNotNull, sql, type SQL } from 'drizzle-orm';
import type { ClipStatistics, EncodingId, InOut, Sampling } from '../../core';
import type { Engine } from '../../core/engine';
import { db, tables } from '../database';
import { notify } from '../events';
import { type Footage, readAs } from '../media/footage';
import { cutsInFootage } from '../media/cuts';
import { measure } from '../media/measure';
import type { Place } from '../media/place';
import type { Threads } from '../render';
import { send } from '../jobs/queue';
import { openOriginal } from './original';

const { clips, clipStatistics, footage } = tables;

/** Footage with its settings. */
export interface Measured {
  readonly hash: string;
  readonly encoding: EncodingId;
  readonly sampling?: Sampling | null;
  /** In and out; null for all of it. */
  readonly inOut?: InOut | null;
}
/** Key of a stretch of footage; empty for all of it. */
export const stretchKey = (s: InOut | null | undefined): string => (s ? `${s.in}-${s.out}` : '');
/** Key of corrections of tags; empty for none. */
export const samplingKey = (s: Sampling | null | undefined): string =>
  s
    ? (['matrix', 'siting', 'fields'] as const)
        .flatMap((k) => (s[k] ? [`${k}=${s[k]}`] : []))
        .join()
    : '';

/** Rows of statistics of any of these, however many they are. */
const anyOf = (wanted: readonly Measured[]): SQL => {
  const column = (of: (m: Measured) => string) => sql`${sql.param(wanted.map(of))}::text[]`;
  return sql`(${clipStatistics.hash}, ${clipStatistics.encoding}, ${clipStatistics.sampling}, ${clipStatistics.stretch})
    in (select * from unnest(${column((m) => m.hash)}, ${column((m) => m.encoding)},
      ${column((m) => samplingKey(m.sampling))}, ${column((m) => stretchKey(m.inOut))}))`;
};
const keyOf = (hash: string, encoding: string, sampling: string, stretch: string): string =>
  `${hash}:${encoding}:${sampling}:${stretch}`;
const measuredKey = (m: Measured): string =>
  keyOf(m.hash, m.encoding, samplingKey(m.sampling), stretchKey(m.inOut));

/** Statistics of clips that have been measured, by their id. */
export async function statisticsOf(
  of: readonly (Measured & { readonly id: string })[],
): Promise<Map<string, ClipStatistics>> {
  if (of.length === 0) return new Map();
  const rows = await db().query.clipStatistics.findMany({ where: anyOf(of) });
  const found = new Map(
    rows.map((r) => [keyOf(r.hash, r.encoding, r.sampling, r.stretch), r.statistics]),
  );
  return new Map(
    of.flatMap((m) => {
      const statistics = found.get(measuredKey(m));
      return statistics ? [[m.id, statistics] as const] : [];
    }),
  );
}

/** Queues the measurement of footage and the detection of its cuts, unless done before. */
export async function queueMeasure(wanted: readonly Measured[]): Promise<void> {
  if (wanted.length === 0) return;
  const known = await db()
    .select({
      hash: clipStatistics.hash,
      encoding: clipStatistics.encoding,
      sampling: clipStatistics.sampling,
      stretch: clipStatistics.stretch,
    })
    .from(clipStatistics)
    .innerJoin(footage, and(eq(footage.hash, clipStatistics.hash), isNotNull(footage.cuts)))
    .where(anyOf(wanted));
  const done = new Set(known.map((k) => keyOf(k.hash, k.encoding, k.sampling, k.stretch)));
  for (const { hash, encoding, sampling, inOut } of wanted) {
    const key = measuredKey({ hash, encoding, sampling, inOut });
    if (done.has(key)) continue;
    const job = { hash, encoding, sampling: sampling ?? null, inOut: inOut ?? null };
    await send('measure', [job], { singletonKey: key });
  }
}

/** The statistics of footage: stored ones, or measured now if the job has not run yet. */
export async function statisticsFor(
  engine: Engine,
  place: Place,
  facts: Footage,
  read: Omit<Measured, 'hash'>,
): Promise<ClipStatistics> {
  const known = await db().query.clipStatistics.findFirst({
    where: anyOf([{ ...read, hash: facts.hash }]),
  });
  // Statistics without plate points are measured again.
  return known?.statistics.plate
    ? known.statistics
    : measure(engine, place, readAs(facts, read.sampling), read.encoding, read.inOut ?? undefined);
}

/** Runs a measurement job. */
export async function runMeasure(
  { hash, encoding, sampling = null, inOut = null }: Measured,
  { engine }: Threads,
): Promise<void> {
  const source = await db().query.footage.findFirst({
    where: eq(footage.hash, hash),
    columns: { cuts: true },
  });
  if (!source) return;
  const { facts, place } = await openOriginal(hash);
  // Footage that is older than the detection of cuts.
  if (!source.cuts)
    await db()
      .update(footage)
      .set({ cuts: await cutsInFootage(facts) })
      .where(eq(footage.hash, hash));
  const statistics = await measure(
    engine,
    place,
    readAs(facts, sampling),
    encoding,
    inOut ?? undefined,
  );
  await db()
    .insert(clipStatistics)
    .values({
      hash,
      encoding,
      sampling: samplingKey(sampling),
      stretch: stretchKey(inOut),
      statistics,
    })
    .onConflictDoNothing();
  const shown = await db()
    .selectDistinct({ project: clips.projectId })
    .from(clips)
    .where(and(eq(clips.hash, hash), sql`${clips.decided} ->> 'encoding' = ${encoding}`));
  for (const { project } of shown) await notify({ project, what: 'clips' });
}
