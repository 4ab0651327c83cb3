/**
 * Starts and stops the measurement of footage's motion. Measured pairs stay and are not measured
 * again.
 */
import { and, eq, inArray, type SQL } from 'drizzle-orm';
import { emptyLook, type LookDocument, type Speeds, cutsDecided } from '../../core';
import { MOTION_METHOD } from '../../core/trace';
import { db, tables } from '../database';
import { notify } from '../events';
import { send } from '../jobs/queue';
import { FootageReader } from '../media/footage-reader';
import { storedPairs } from '../media/motion';
import { openOriginal } from './original';

const { clips, derivedAssets } = tables;

/** Condition for the row of footage's motion. */
export const motionAsset = (hash: string): SQL =>
  and(
    eq(derivedAssets.hash, hash),
    eq(derivedAssets.kind, 'motion'),
    eq(derivedAssets.method, MOTION_METHOD),
  )!;

/** Notifies every project that shows the footage. */
export async function notifyAll(hash: string): Promise<void> {
  const shown = await db()
    .selectDistinct({ project: clips.projectId })
    .from(clips)
    .where(eq(clips.hash, hash));
  for (const { project } of shown) await notify({ project, what: 'clips' });
}

/**
 * Queues the measurement of footage's motion, starting at a frame, unless it is done or running;
 * false if there is no such clip.
 */
export async function queueMotion(clipId: string, from: number): Promise<boolean> {
  const clip = await db().query.clips.findFirst({
    where: eq(clips.id, clipId),
    columns: { hash: true },
  });
  if (!clip) return false;
  const { hash } = clip;
  await db().transaction(async (tx) => {
    const known = await tx.query.derivedAssets.findFirst({ where: motionAsset(hash) });
    if (known && ['waiting', 'running', 'done'].includes(known.state)) return;
    const fresh = { state: 'waiting' as const, error: null };
    await tx
      .insert(derivedAssets)
      .values({ hash, kind: 'motion', method: MOTION_METHOD, ...fresh })
      .onConflictDoUpdate({
        target: [derivedAssets.hash, derivedAssets.kind, derivedAssets.method],
        set: fresh,
      });
    await send('motion', [{ hash, from }], {}, tx);
  });
  await notifyAll(hash);
  return true;
}

/** Stops measuring a clip's footage; false if there is no such clip. */
export async function stopMotion(clipId: string): Promise<boolean> {
  const clip = await db().query.clips.findFirst({
    where: eq(clips.id, clipId),
    columns: { hash: true },
  });
  if (!clip) return false;
  await db()
    .update(derivedAssets)
    .set({ state: 'cancelled' })
    .where(and(motionAsset(clip.hash), inArray(derivedAssets.state, ['waiting', 'running'])));
  await notifyAll(clip.hash);
  return true;
}

/**
 * Speeds of the motion in a clip's footage (`speedOf`), of all of it or of what a pin's matte
 * covers; undefined if there is no such clip.
 */
export async function clipSpeeds(clipId: string, within?: string): Promise<Speeds | undefined> {
  const clip = await db().query.clips.findFirst({
    where: eq(clips.id, clipId),
    with: { footage: { columns: { index: false } } },
  });
  if (!clip) return undefined;
  const pin = within === undefined ? undefined : clip.decided.pins[within]?.[0];
  const matte = pin && 'hash' in pin ? await openOriginal(pin.hash) : undefined;
  const look: LookDocument = {
    ...emptyLook('speeds'),
    ...(matte && { pins: [{ key: within!, label: within!, kind: 'matte', many: false }] }),
  };
  const others = matte && {
    [within!]: {
      place: matte.place,
      facts: matte.facts,
      clip: PLAIN,
    },
  };
  const { facts, place } = await openOriginal(clip.hash);
  const read = {
    content: clip.hash,
    frames: facts.frames,
    cuts: cutsDecided(clip.footage.cuts, clip.decided.cutsSaid),
    rate: facts.rate,
    pins: clip.decided.pins,
  };
  const reader = new FootageReader(
    look,
    place,
    facts,
    read,
    others ?? {},
    {},
    storedPairs(clip.hash),
  );
  try {
    return await reader.speeds();
  } finally {
    await reader.close();
  }
}
/** Only a matte's samples are read, not its position. */
const PLAIN = { encoding: 'srgb', fit: 'fill', balance: null } as const;
