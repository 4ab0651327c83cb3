/** Measures the motion of footage, pair by pair; a job that was killed goes on after the last pair that is there. */
import { and, eq, inArray } from 'drizzle-orm';
import { motionOfFrames, packPair, type Tracked, trackedFrame } from '../../core/trace';
import { db, tables } from '../database';
import { frames } from '../media/decode';
import { framesKnown, storedPairs } from '../media/motion';
import { storedPlace } from '../media/store';
import { motionAsset, tellOf } from '../motions';
import type { Jobs } from './queue';

const { derivedAssets, footage } = tables;
/** Progress is told so often (ms). */
const TOLD_EVERY = 700;

/** Notes how far it is; false when nobody wants it any more. */
async function note(hash: string, set: Partial<typeof derivedAssets.$inferInsert>): Promise<boolean> {
  const rows = await db()
    .update(derivedAssets)
    .set(set)
    .where(and(motionAsset(hash), inArray(derivedAssets.state, ['waiting', 'running'])))
    .returning({ hash: derivedAssets.hash });
  return rows.length > 0;
}

export async function runMotion({ hash }: Jobs['motion']): Promise<void> {
  const source = await db().query.footage.findFirst({ where: eq(footage.hash, hash) });
  if (!source || !(await note(hash, { state: 'running' }))) return;
  const { facts } = source,
    last = facts.frames - 1;
  const known = await framesKnown(hash),
    store = storedPairs(hash);
  let first = 0;
  while (first < last && known.has(first)) first++;
  let before: Tracked | undefined,
    frame = first,
    told = 0;
  if (first < last)
    for await (const raw of frames(await storedPlace(source.file, facts), facts, first, last)) {
      const wanted = !known.has(frame - 1) || !known.has(frame);
      const now = wanted ? trackedFrame(raw) : undefined;
      if (before && now && !known.has(frame - 1)) await store.write(frame - 1, packPair(motionOfFrames(before, now)));
      before = now;
      frame++;
      if (performance.now() - told < TOLD_EVERY) continue;
      told = performance.now();
      if (!(await note(hash, { progress: (frame - 1) / last }))) return;
      await tellOf(hash);
    }
  await note(hash, { state: 'done', progress: 1 });
  await tellOf(hash);
}

/** Says why motion could not be measured. */
export async function failMotion({ hash }: Jobs['motion'], error: string): Promise<void> {
  if (await note(hash, { state: 'failed', error })) await tellOf(hash);
}
