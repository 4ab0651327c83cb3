/**
 * Jobs that make assets of footage part by part. A job that was killed goes on after the last part
 * that is stored.
 */
import { and, inArray } from 'drizzle-orm';
import { db, tables } from '../database';
import { originalOf } from '../footage/original';
import type { Jobs } from '../jobs/queue';
import { framesMade, bytesTaken, storedParts } from '../media/parts';
import { storedPlace } from '../media/store';
import { assetRow, notifyAll, UNDER_WAY } from './assets';
import { makeRoomForAssets } from './ceiling';
import { MAKERS } from './makers';

const { derivedAssets } = tables;
/** Interval between progress reports, ms. */
const TOLD_EVERY = 2500;

/** Reports progress; false if it is no longer wanted. */
async function note(
  { hash, asset }: Jobs['asset'],
  set: Partial<typeof derivedAssets.$inferInsert>,
): Promise<boolean> {
  const rows = await db()
    .update(derivedAssets)
    .set(set)
    .where(and(assetRow(hash, asset), inArray(derivedAssets.state, UNDER_WAY)))
    .returning({ hash: derivedAssets.hash });
  return rows.length > 0;
}

/** Makes the missing parts of an asset. */
export async function runAsset(job: Jobs['asset']): Promise<void> {
  const { hash, asset, from } = job;
  const source = await originalOf(hash);
  if (!source || !(await note(job, { state: 'running' }))) return;
  const { facts } = source;
  let told = 0;
  const done = await MAKERS[asset]({
    facts,
    place: await storedPlace(source.file, facts),
    store: storedParts(hash, asset),
    from,
    made: await framesMade(hash, asset),
    async report(made, of) {
      if (performance.now() - told < TOLD_EVERY) return true;
      told = performance.now();
      if (!(await note(job, { progress: made / of }))) return false;
      await notifyAll(hash);
      return true;
    },
  });
  if (!done) return;
  await note(job, { state: 'done', progress: 1, bytes: await bytesTaken(hash, asset) });
  await notifyAll(hash);
  await makeRoomForAssets({ hash, asset });
}

/** Stores why an asset could not be made. */
export async function failAsset(job: Jobs['asset'], error: string): Promise<void> {
  if (await note(job, { state: 'failed', error })) await notifyAll(job.hash);
}
