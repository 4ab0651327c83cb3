/**
 * Assets take room up to a ceiling; those used least lately go first, and are made again when asked
 * for.
 */
import { and, asc, eq, inArray, ne, not, sql } from 'drizzle-orm';
import type { FrameAssetId } from '../../core';
import { mostAssets } from '../config/settings';
import { db, tables } from '../database';
import { bytesTaken, removeParts } from '../media/parts';
import { assetRow, notifyAll, UNDER_WAY } from './assets';

const { deliveryItems, derivedAssets } = tables;
/** A use is noted at most this often, ms. */
const NOTED_EVERY = 60_000;
const noted = new Map<string, number>();

/** Notes that an asset is used. */
export async function noteUse(hash: string, asset: FrameAssetId): Promise<void> {
  const key = `${asset} ${hash}`,
    now = Date.now();
  if (now - (noted.get(key) ?? 0) < NOTED_EVERY) return;
  noted.set(key, now);
  await db()
    .update(derivedAssets)
    .set({ used: new Date(now) })
    .where(assetRow(hash, asset));
}

/** Tracks are small and stay. */
const isMadeAgain = ne(derivedAssets.kind, 'track');

/** Assets that were made before their bytes were noted. */
async function measureOlder(): Promise<void> {
  const unknown = and(isMadeAgain, eq(derivedAssets.state, 'done'), eq(derivedAssets.bytes, 0));
  for (const { hash, kind } of await db().select().from(derivedAssets).where(unknown)) {
    if (kind === 'track') continue;
    await db()
      .update(derivedAssets)
      .set({ bytes: Math.max(1, await bytesTaken(hash, kind)) })
      .where(assetRow(hash, kind));
  }
}

/**
 * Footage of deliveries under way, also of cuts: a frame must find what the frames before it found.
 */
const beingDelivered = () => sql`(
  select ${deliveryItems.hash} from ${deliveryItems}
  where ${inArray(deliveryItems.state, UNDER_WAY)} and ${deliveryItems.hash} is not null
  union all
  select clip.value ->> 'hash'
  from ${deliveryItems}, jsonb_each(${deliveryItems.cut} -> 'clips') as clip
  where ${inArray(deliveryItems.state, UNDER_WAY)}
)`;

/** Removes finished assets until the ceiling is met, but not the one just made. */
export async function makeRoomForAssets(fresh: {
  readonly hash: string;
  readonly asset: FrameAssetId;
}): Promise<void> {
  await measureOlder();
  const [{ total } = { total: 0 }] = await db()
    .select({ total: sql<number>`coalesce(sum(${derivedAssets.bytes}), 0)`.mapWith(Number) })
    .from(derivedAssets);
  let over = total - mostAssets();
  if (over <= 0) return;
  const oldest = await db()
    .select()
    .from(derivedAssets)
    .where(
      and(
        isMadeAgain,
        eq(derivedAssets.state, 'done'),
        not(assetRow(fresh.hash, fresh.asset)),
        sql`${derivedAssets.hash} not in ${beingDelivered()}`,
      ),
    )
    .orderBy(asc(derivedAssets.used));
  for (const { hash, kind, bytes } of oldest) {
    if (over <= 0) return;
    if (kind === 'track') continue;
    // Its row first: a page that asks meanwhile has it made again.
    await db().delete(derivedAssets).where(assetRow(hash, kind));
    await removeParts(hash, kind);
    await notifyAll(hash);
    over -= bytes;
  }
}
