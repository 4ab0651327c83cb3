/**
 * Asking for the motion of footage, and stopping what is under way. What was measured by then
 * stays, and is not measured again.
 */
import { and, eq, inArray, type SQL } from 'drizzle-orm';
import { emptyLook, type LookDocument, type Speeds, cutsDecided } from '../../core';
import { MOTION_METHOD } from '../../core/trace';
import { db, tables } from '../database';
import { notify } from '../events';
import { send } from '../jobs/queue';
import { FootageReader } from '../media/footage-reader';
import { storedPairs } from '../media/motion';
import { storedPlace } from '../media/store';

const { clips, derivedAssets, footage } = tables;

export const motionAsset = (hash: string): SQL =>
  and(
    eq(derivedAssets.hash, hash),
    eq(derivedAssets.kind, 'motion'),
    eq(derivedAssets.method, MOTION_METHOD),
  )!;

/** Tells every project that shows the footage. */
export async function notifyAll(hash: string): Promise<void> {
  const shown = await db()
    .selectDistinct({ project: clips.projectId })
    .from(clips)
    .where(eq(clips.hash, hash));
  for (const { project } of shown) await notify({ project, what: 'clips' });
}

/**
 * Has footage's motion measured, from a frame on first, unless it is known or under way; false
 * where there is no such clip.
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

/** Stops measuring a clip's footage; false where there is no such clip. */
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
 * How fast what moves in a clip's footage is (`speedOf`), all of it or what the matte of a pin
 * covers; undefined where there is no such clip.
 */
export async function clipSpeeds(clipId: string, within?: string): Promise<Speeds | undefined> {
  const clip = await db().query.clips.findFirst({
    where: eq(clips.id, clipId),
    with: { footage: true },
  });
  if (!clip) return undefined;
  const pin = within === undefined ? undefined : clip.pins[within]?.[0];
  const matte =
    pin && 'hash' in pin
      ? await db().query.footage.findFirst({ where: eq(footage.hash, pin.hash) })
      : undefined;
  const look: LookDocument = {
    ...emptyLook('speeds'),
    ...(matte && { pins: [{ key: within!, label: within!, kind: 'matte', many: false }] }),
  };
  const others = matte && {
    [within!]: {
      place: await storedPlace(matte.file, matte.facts),
      facts: matte.facts,
      clip: PLAIN,
    },
  };
  const { facts, file } = clip.footage;
  const read = {
    content: clip.hash,
    frames: facts.frames,
    cuts: cutsDecided(clip.footage.cuts, clip.cutsSaid),
    rate: facts.rate,
    pins: clip.pins,
  };
  const reader = new FootageReader(
    look,
    await storedPlace(file, facts),
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
/** Only a matte's samples are looked at, not how it lies. */
const PLAIN = { encoding: 'srgb', fit: 'fill', balance: null } as const;
