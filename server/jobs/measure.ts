/** Statistics of footage in an encoding: computed once, from the original, and kept. */
import { and, eq, or } from 'drizzle-orm';
import { type EncodingId, type RawFrame, type Sample, sampledFrames, sampleOf, statisticsOf } from '../../core';
import { db, tables } from '../database';
import { tell } from '../events';
import { frames } from '../media/decode';
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

export async function runMeasure({ hash, encoding }: Measured, { engine }: Threads): Promise<void> {
  const source = await db().query.footage.findFirst({ where: eq(footage.hash, hash) });
  if (!source) return;
  const { facts } = source;
  const place = await storedPlace(source.file, facts);
  const samples: Sample[] = [];
  for (const frame of sampledFrames(facts.frames)) {
    const both: RawFrame[] = [];
    for await (const raw of frames(place, facts, frame, Math.min(facts.frames - 1, frame + 1))) both.push(raw);
    samples.push(sampleOf(engine, both[0]!, both[1], encoding, facts.pixelAspect));
  }
  await db()
    .insert(clipStatistics)
    .values({ hash, encoding, statistics: statisticsOf(samples) })
    .onConflictDoNothing();
  const shown = await db()
    .selectDistinct({ project: clips.projectId })
    .from(clips)
    .where(and(eq(clips.hash, hash), eq(clips.encoding, encoding)));
  for (const { project } of shown) await tell({ project, what: 'clips' });
}
