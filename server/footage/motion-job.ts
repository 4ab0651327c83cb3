/**
 * Measures the motion of footage pair by pair. A job that was killed continues after the last
 * stored pair.
 */
import { and, inArray } from 'drizzle-orm';
import { motionOfFrames, packPair, type Tracked, trackedFrame } from '../../core/trace';
import { db, tables } from '../database';
import { frames } from '../media/decode';
import { framesKnown, storedPairs } from '../media/motion';
import { storedPlace } from '../media/store';
import { motionAsset, notifyAll } from './motion';
import type { Jobs } from '../jobs/queue';
import { originalOf } from './original';

const { derivedAssets } = tables;
/** Interval between progress reports, ms. */
const TOLD_EVERY = 2500;

/** Reports progress; false if it is no longer wanted. */
async function note(
  hash: string,
  set: Partial<typeof derivedAssets.$inferInsert>,
): Promise<boolean> {
  const rows = await db()
    .update(derivedAssets)
    .set(set)
    .where(and(motionAsset(hash), inArray(derivedAssets.state, ['waiting', 'running'])))
    .returning({ hash: derivedAssets.hash });
  return rows.length > 0;
}

/** Measures all pairs of a clip, starting at the frame that somebody looks at. */
export async function runMotion({ hash, from }: Jobs['motion']): Promise<void> {
  const source = await originalOf(hash);
  if (!source || !(await note(hash, { state: 'running' }))) return;
  const { facts } = source,
    last = facts.frames - 1;
  const known = new Set(await framesKnown(hash)),
    store = storedPairs(hash),
    place = await storedPlace(source.file, facts);
  let told = 0;
  /** Measures pairs from `first` up to `end`; false if they are no longer wanted. */
  const stretch = async (first: number, end: number): Promise<boolean> => {
    let frame = first;
    while (frame <= end && known.has(frame)) frame++;
    if (frame > end) return true;
    let before: Tracked | undefined;
    for await (const raw of frames(place, facts, frame, end + 1)) {
      const wanted = !known.has(frame - 1) || !known.has(frame);
      const now = wanted ? trackedFrame(raw) : undefined;
      if (before && now && !known.has(frame - 1)) {
        await store.write(frame - 1, packPair(motionOfFrames(before, now)));
        known.add(frame - 1);
      }
      before = now;
      frame++;
      if (performance.now() - told < TOLD_EVERY) continue;
      told = performance.now();
      if (!(await note(hash, { progress: known.size / last }))) return false;
      await notifyAll(hash);
    }
    return true;
  };
  const begin = Math.max(0, Math.min(last - 1, from));
  if (last > 0 && !((await stretch(begin, last - 1)) && (await stretch(0, begin - 1)))) return;
  await note(hash, { state: 'done', progress: 1 });
  await notifyAll(hash);
}

/** Stores why motion could not be measured. */
export async function failMotion({ hash }: Jobs['motion'], error: string): Promise<void> {
  if (await note(hash, { state: 'failed', error })) await notifyAll(hash);
}
