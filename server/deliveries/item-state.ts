/** State changes of an attempt at an item: begun, waiting for disk space, failed, done. */
import { and, eq, inArray, sql } from 'drizzle-orm';
import type { PgUpdateSetSource } from 'drizzle-orm/pg-core';
import type { KeptLoudness } from '../../core';
import { db, tables } from '../database';
import { notify } from '../events';
import { DISK_FULL, type Jobs, ROOM_AGAIN, send } from '../jobs/queue';
import { type Item, loadItem } from './frames';

const { deliveryItems } = tables;

/** Changes the row of an attempt that is still wanted; false if it is not. */
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

/** Marks an attempt as running; false if it was cancelled since its chunk was read. */
export const begun = (itemId: string, attempt: number): Promise<boolean> =>
  change(itemId, attempt, {
    state: 'running',
    started: sql`coalesce(${deliveryItems.started}, now())`,
  });

/** Marks an attempt as failed. */
export async function failItem(item: Item, attempt: number, message: string): Promise<void> {
  await change(item.id, attempt, { state: 'failed', error: message, ended: new Date() });
  await changed(item);
}

/** Marks an attempt as done. */
export async function endItem(
  item: Item,
  attempt: number,
  made: {
    readonly file?: string;
    readonly bytes?: number;
    readonly loudness?: KeptLoudness | null;
  },
): Promise<void> {
  await change(item.id, attempt, { state: 'done', ...made, error: null, ended: new Date() });
  await changed(item);
}

/**
 * Reports that the disk is full and queues the job again for later; it continues once there is
 * space.
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

/** Marks an item as failed after the queue has given up its job. */
export async function giveUp(itemId: string, attempt: number, message: string): Promise<void> {
  const item = await loadItem(itemId);
  if (item) await failItem(item, attempt, message);
}
