/** State changes of a delivery's file: only the current attempt may make them. */
import { eq } from 'drizzle-orm';
import { beforeEach, describe, expect, it } from 'vitest';
import { db, tables } from '../database';
import { DISK_FULL } from '../jobs/queue';
import { aProject, clipsIn, useDatabase } from '../testing/database';
import { cancelItem, deliver, retryItem } from './deliveries';
import { type Item, loadItem } from './frames';
import { begun, endItem, failItem, giveUp, waitForRoom } from './item-state';

useDatabase();
const { deliveryItems } = tables;
let item: Item;
beforeEach(async () => {
  const project = await aProject();
  const asked = {
    format: 'mkv',
    width: 960,
    height: 540,
    coverage: false,
    effort: 'usual',
  } as const;
  const id = await deliver(project, { clips: await clipsIn(project, ['gulls']), ...asked });
  const [row] = await db().select().from(deliveryItems).where(eq(deliveryItems.deliveryId, id!));
  item = (await loadItem(row!.id))!;
});
const now = async () =>
  (await db().select().from(deliveryItems).where(eq(deliveryItems.id, item.id)))[0]!;

describe('an attempt', () => {
  it('begins once, and keeps the time it began', async () => {
    expect(await begun(item.id, 1)).toBe(true);
    const { started } = await now();
    expect(await begun(item.id, 1)).toBe(true);
    expect((await now()).started).toEqual(started);
  });

  it('that ends says what it made, and that nothing is wrong any more', async () => {
    await waitForRoom(item, 'join', { itemId: item.id, attempt: 1 });
    expect((await now()).error).toBe(DISK_FULL);
    await endItem(item, 1, { file: 'deliveries/x.mkv', bytes: 12 });
    expect(await now()).toMatchObject({
      ...{ state: 'done', file: 'deliveries/x.mkv', bytes: 12, error: null },
      ended: expect.any(Date),
    });
  });

  it('that failed says why; the queue gives up in the same words', async () => {
    await giveUp(item.id, 1, 'the original has gone');
    expect(await now()).toMatchObject({ state: 'failed', error: 'the original has gone' });
  });

  it('that was cancelled stays so, whatever a worker says of it', async () => {
    await cancelItem(item.id);
    await failItem(item, 1, 'too late');
    await endItem(item, 1, {});
    await waitForRoom(item, 'chunk', { chunkId: item.id, attempt: 1 });
    expect(await now()).toMatchObject({ state: 'cancelled', error: null });
  });

  it('of before says nothing of the one after it', async () => {
    await cancelItem(item.id);
    await retryItem(item.id);
    await failItem(item, 1, 'of before');
    await endItem(item, 1, { bytes: 1 });
    expect(await now()).toMatchObject({ state: 'waiting', attempt: 2, error: null, bytes: null });
    await endItem(item, 2, { bytes: 2 });
    expect(await now()).toMatchObject({ state: 'done', bytes: 2 });
  });
});
