/** Requests deliveries, cancels them and tries them again. */
import { rm } from 'node:fs/promises';
import { touchProject } from '../projects/projects';
import { join } from 'node:path';
import { and, asc, eq, inArray, sql } from 'drizzle-orm';
import { lengthOf, underLook, withTrims, cutsDecided } from '../../core';
import { db, tables } from '../database';
import { notify } from '../events';
import { startItem } from './cutting';
import { pinFootageOf } from '../clips/pin-footage';
import type { Effort, FormatId } from '../render/write';
import { inData } from '../config/settings';

const { clips, deliveries, deliveryItems } = tables;

/** What to deliver. */
export interface Wanted {
  readonly clips: readonly string[];
  readonly format: FormatId;
  readonly width: number;
  readonly height: number;
  readonly coverage: boolean;
  readonly effort: Effort;
}

/**
 * Stores a delivery with the current state of its clips, and queues its chunks. Returns its id;
 * undefined if a clip is not in the project.
 */
export async function deliver(projectId: string, wanted: Wanted): Promise<string | undefined> {
  const rows = await db().query.clips.findMany({
    where: and(eq(clips.projectId, projectId), inArray(clips.id, [...wanted.clips])),
    orderBy: [asc(clips.place)],
    with: { footage: { columns: { index: false } }, version: { with: { look: true } } },
  });
  if (rows.length < new Set(wanted.clips).size) return undefined;
  const looks = rows.map(
    (c) => c.version && withTrims(c.version.document, c.trims[c.version.lookId]),
  );
  const beside = await Promise.all(rows.map((c, i) => pinFootageOf(projectId, looks[i], c.pins)));
  const id = await db().transaction(async (tx) => {
    const [made] = await tx
      .insert(deliveries)
      .values({
        projectId,
        format: wanted.format,
        width: wanted.width,
        height: wanted.height,
        coverage: wanted.coverage,
        effort: wanted.effort,
      })
      .returning({ id: deliveries.id });
    const values = rows.map((c, i) => ({
      deliveryId: made!.id,
      clipName: c.name,
      hash: c.hash,
      encoding: c.encoding,
      sampling: c.sampling,
      fit: c.fit,
      reframe: c.reframe,
      inOut: c.inOut,
      cuts: cutsDecided(c.footage.cuts, c.cutsSaid),
      retime: c.retime,
      balance: c.balance,
      pins: c.pins,
      beside: beside[i]!,
      frames: lengthOf(
        underLook({ ...c.footage.facts, inOut: c.inOut, retime: c.retime, pins: c.pins }, looks[i]),
      ),
      ...(c.version && {
        look: looks[i]!,
        lookName: `${c.version.look.name} v${c.version.number}`,
      }),
    }));
    for (const item of await tx.insert(deliveryItems).values(values).returning())
      await startItem(tx, item, wanted);
    await touchProject(projectId, tx);
    return made!.id;
  });
  await notify({ project: projectId, what: 'deliveries' });
  return id;
}

async function changed(itemId: string): Promise<void> {
  const item = await db().query.deliveryItems.findFirst({
    where: eq(deliveryItems.id, itemId),
    with: { delivery: true },
  });
  if (item) await notify({ project: item.delivery.projectId, what: 'deliveries' });
}

/** Cancels an item; false if there is none. */
export async function cancelItem(id: string): Promise<boolean> {
  if (!(await itemExists(id))) return false;
  await db()
    .update(deliveryItems)
    .set({ state: 'cancelled', ended: new Date() })
    .where(and(eq(deliveryItems.id, id), inArray(deliveryItems.state, ['waiting', 'running'])));
  await rm(inData(join('work', id)), { recursive: true, force: true });
  await changed(id);
  return true;
}
const itemExists = async (id: string): Promise<boolean> =>
  (await db().$count(deliveryItems, eq(deliveryItems.id, id))) > 0;

/** Starts a new attempt; false while one is running, undefined if there is no such item. */
export async function retryItem(id: string): Promise<boolean | undefined> {
  // Each attempt has a folder of its own.
  const begun = await db().transaction(async (tx) => {
    const [item] = await tx
      .update(deliveryItems)
      .set({
        state: 'waiting',
        error: null,
        started: null,
        ended: null,
        attempt: sql`${deliveryItems.attempt} + 1`,
      })
      .where(
        and(
          eq(deliveryItems.id, id),
          inArray(deliveryItems.state, ['failed', 'cancelled', 'done']),
        ),
      )
      .returning();
    if (!item) return false;
    const [delivery] = await tx.select().from(deliveries).where(eq(deliveries.id, item.deliveryId));
    await startItem(tx, item, delivery!);
    return true;
  });
  if (!begun) return (await itemExists(id)) ? false : undefined;
  await changed(id);
  return true;
}
