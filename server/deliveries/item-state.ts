/** What becomes of an attempt at an item: begun, waiting for room, failed, done. */
import { and, eq, inArray, sql } from 'drizzle-orm';
import type { PgUpdateSetSource } from 'drizzle-orm/pg-core';
import { db, tables } from '../database';
import { notify } from '../events';
import { DISK_FULL, type Jobs, ROOM_AGAIN, send } from '../jobs/queue';
import { type Item, loadItem } from './frames';

const { deliveryItems } = tables;

/** Changes an attempt's row while it is still wanted; false where it is not. */
async function change(
  itemId: string,
  attempt: number,
  to: PgUpdateSetSource<typeof deliveryItems>,
): Promise<boolean> {
  const rows = await db()
    .update(deliveryItems)
    .set(to)
    .where(
      and(
        eq(deliveryItems.id, itemId),
        eq(deliveryItems.attempt, attempt),
        inArray(deliveryItems.state, ['waiting', 'running']),
      ),
    )
    .returning({ id: deliveryItems.id });
  return rows.length > 0;
}
const changed = (item: Item): Promise<unknown> =>
  notify({ project: item.delivery.projectId, what: 'deliveries' });

/**
 * Notes that an attempt at an item is under way; false where it was cancelled since its chunk was
 * read.
 */
export const begun = (itemId: string, attempt: number): Promise<boolean> =>
  change(itemId, attempt, {
    state: 'running',
    started: sql`coalesce(${deliveryItems.started}, now())`,
  });

export async function failItem(item: Item, attempt: number, message: string): Promise<void> {
  await change(item.id, attempt, { state: 'failed', error: message, ended: new Date() });
  await changed(item);
}

export async function endItem(
  item: Item,
  attempt: number,
  made: { readonly file?: string; readonly bytes?: number },
): Promise<void> {
  await change(item.id, attempt, { state: 'done', ...made, error: null, ended: new Date() });
  await changed(item);
}

/**
 * Says that the disk is full, and does the job again a little later: it goes on by itself once
 * there is room.
 */
export async function waitForRoom<N extends 'chunk' | 'join'>(
  item: Item,
  name: N,
  job: Jobs[N],
): Promise<void> {
  await change(item.id, item.attempt, { error: DISK_FULL });
  await send(name, [job], { startAfter: ROOM_AGAIN });
  await changed(item);
}

/** A job that was given up for good, as the queue says. */
export async function giveUp(itemId: string, attempt: number, message: string): Promise<void> {
  const item = await loadItem(itemId);
  if (item) await failItem(item, attempt, message);
}
