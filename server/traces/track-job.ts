/**
 * Follows the traces of footage that wait for it. A job that was killed begins with those that are
 * not done; a track is stored as a whole.
 */
import { and, eq, inArray } from 'drizzle-orm';
import { POINTS_METHOD, trackFollowed } from '../../core/trace';
import { notifyAll, UNDER_WAY } from '../assets/assets';
import { db, tables } from '../database';
import { openOriginal, originalOf } from '../footage/original';
import type { Jobs } from '../jobs/queue';
import { sizesIn, storeTrack } from '../media/tracks';

const { derivedAssets } = tables;
/** Interval between progress reports, ms. */
const TOLD_EVERY = 1000;

const waiting = (hash: string) =>
  and(
    eq(derivedAssets.hash, hash),
    eq(derivedAssets.kind, 'track'),
    eq(derivedAssets.method, POINTS_METHOD),
    inArray(derivedAssets.state, UNDER_WAY),
  );

/** Makes the tracks of footage that are waited for. */
export async function runTracks({ hash }: Jobs['track']): Promise<void> {
  if (!(await originalOf(hash))) return;
  const { facts, place } = await openOriginal(hash);
  const sizes = sizesIn(place, facts);
  try {
    for (;;) {
      const [row] = await db().select().from(derivedAssets).where(waiting(hash)).limit(1);
      if (!row?.given) return;
      const own = and(waiting(hash), eq(derivedAssets.of, row.of));
      const note = async (set: Partial<typeof derivedAssets.$inferInsert>): Promise<boolean> =>
        (await db().update(derivedAssets).set(set).where(own).returning()).length > 0;
      await note({ state: 'running' });
      let told = 0;
      const track = await trackFollowed(row.given, facts.frames, sizes.at, async (done, of) => {
        if (performance.now() - told < TOLD_EVERY) return true;
        told = performance.now();
        if (!(await note({ progress: done / of }))) return false;
        await notifyAll(hash);
        return true;
      });
      if (track) {
        await storeTrack(hash, row.of, track);
        await note({ state: 'done', progress: 1 });
        await notifyAll(hash);
      }
    }
  } finally {
    await sizes.close();
  }
}

/** Stores why tracks could not be made. */
export async function failTracks({ hash }: Jobs['track'], error: string): Promise<void> {
  await db().update(derivedAssets).set({ state: 'failed', error }).where(waiting(hash));
  await notifyAll(hash);
}
