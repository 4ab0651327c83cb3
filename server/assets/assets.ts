/** Starts and stops the making of assets. Parts that are made stay and are not made again. */
import { and, eq, inArray, type SQL } from 'drizzle-orm';
import { FRAME_ASSETS, type FrameAssetId } from '../../core';
import { db, tables } from '../database';
import { notify } from '../events';
import { send } from '../jobs/queue';

const { clips, derivedAssets } = tables;

/** States in which an asset is waited for. */
export const UNDER_WAY = ['waiting', 'running'] as const satisfies readonly string[];

/** Condition for the row of an asset of footage. */
export const assetRow = (hash: string, asset: FrameAssetId): SQL =>
  and(
    eq(derivedAssets.hash, hash),
    eq(derivedAssets.kind, asset),
    eq(derivedAssets.method, FRAME_ASSETS[asset].method),
  )!;

/** Notifies every project that shows the footage. */
export async function notifyAll(hash: string): Promise<void> {
  const shown = await db()
    .selectDistinct({ project: clips.projectId })
    .from(clips)
    .where(eq(clips.hash, hash));
  for (const { project } of shown) await notify({ project, what: 'clips' });
}
const hashOf = async (clipId: string): Promise<string | undefined> =>
  (await db().query.clips.findFirst({ where: eq(clips.id, clipId), columns: { hash: true } }))
    ?.hash;

/**
 * Queues the making of an asset of a clip's footage, starting at a frame, unless it is done or
 * under way; false if there is no such clip.
 */
export async function queueAsset(
  clipId: string,
  asset: FrameAssetId,
  from: number,
): Promise<boolean> {
  const hash = await hashOf(clipId);
  if (hash === undefined) return false;
  await db().transaction(async (tx) => {
    const known = await tx.query.derivedAssets.findFirst({ where: assetRow(hash, asset) });
    if (known && [...UNDER_WAY, 'done'].includes(known.state)) return;
    const fresh = { state: 'waiting' as const, error: null, used: new Date() };
    await tx
      .insert(derivedAssets)
      .values({ hash, kind: asset, method: FRAME_ASSETS[asset].method, ...fresh })
      .onConflictDoUpdate({
        target: [derivedAssets.hash, derivedAssets.kind, derivedAssets.method, derivedAssets.of],
        set: fresh,
      });
    await send('asset', [{ hash, asset, from }], {}, tx);
  });
  await notifyAll(hash);
  return true;
}

/** Stops making an asset of a clip's footage; false if there is no such clip. */
export async function stopAsset(clipId: string, asset: FrameAssetId): Promise<boolean> {
  const hash = await hashOf(clipId);
  if (hash === undefined) return false;
  await db()
    .update(derivedAssets)
    .set({ state: 'cancelled' })
    .where(and(assetRow(hash, asset), inArray(derivedAssets.state, UNDER_WAY)));
  await notifyAll(hash);
  return true;
}

/** State of the assets of footage, by kind. */
export type AssetStates = Partial<
  Record<FrameAssetId, Pick<typeof derivedAssets.$inferSelect, 'state' | 'progress' | 'error'>>
>;
/** The states of the assets of all footage that some clips show, by its hash. */
export async function assetStates(which: SQL | undefined): Promise<Map<string, AssetStates>> {
  const rows = await db()
    .selectDistinct({
      hash: derivedAssets.hash,
      kind: derivedAssets.kind,
      method: derivedAssets.method,
      state: derivedAssets.state,
      progress: derivedAssets.progress,
      error: derivedAssets.error,
    })
    .from(derivedAssets)
    .innerJoin(clips, eq(clips.hash, derivedAssets.hash))
    .where(which);
  const found = new Map<string, AssetStates>();
  for (const { hash, kind, method, ...state } of rows)
    if (kind !== 'track' && FRAME_ASSETS[kind]?.method === method)
      found.set(hash, { ...found.get(hash), [kind]: state });
  return found;
}
