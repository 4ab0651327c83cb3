/**
 * Follows the traces of footage that wait for it. A job that was killed begins with those that are
 * not done; a track is stored as a whole.
 */
import { and, eq, inArray } from 'drizzle-orm';
import { POINTS_METHOD, type Sizes, sizesOf, trackFollowed } from '../../core/trace';
import { notifyAll, UNDER_WAY } from '../assets/assets';
import { db, tables } from '../database';
import { openOriginal, originalOf } from '../footage/original';
import type { Jobs } from '../jobs/queue';
import { FootageReader } from '../media/footage-reader';
import { storeTrack } from '../media/tracks';

const { derivedAssets } = tables;
/** Interval between progress reports, ms. */
const TOLD_EVERY = 1000;
/** Frames of which the sizes are kept: ways backwards read them once more. */
const KEPT = 64;

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
  const clip = { content: hash, frames: facts.frames, rate: facts.rate };
  const reader = new FootageReader(null, place, facts, clip, {});
  const kept = new Map<number, Sizes>();
  const sizes = async (frame: number): Promise<Sizes> => {
    const known = kept.get(frame);
    if (known) return known;
    const raw = (await reader.at(frame)).get(frame)!.own;
    const made = sizesOf(raw);
    kept.set(frame, made);
    for (const oldest of kept.keys()) if (kept.size > KEPT) kept.delete(oldest);
    return made;
  };
  try {
    for (;;) {
      const [row] = await db().select().from(derivedAssets).where(waiting(hash)).limit(1);
      if (!row?.given) return;
      const own = and(waiting(hash), eq(derivedAssets.of, row.of));
      const note = async (set: Partial<typeof derivedAssets.$inferInsert>): Promise<boolean> =>
        (await db().update(derivedAssets).set(set).where(own).returning()).length > 0;
      await note({ state: 'running' });
      let told = 0;
      const { marks, cuts } = row.given;
      const track = await trackFollowed(marks, facts.frames, cuts, sizes, async (done, of) => {
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
    await reader.close();
  }
}

/** Stores why tracks could not be made. */
export async function failTracks({ hash }: Jobs['track'], error: string): Promise<void> {
  await db().update(derivedAssets).set({ state: 'failed', error }).where(waiting(hash));
  await notifyAll(hash);
}
