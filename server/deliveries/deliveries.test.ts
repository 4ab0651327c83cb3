/** Deliveries: everything kept as it was when asked for, in chunks, stopped and retried. */
import { asc, eq } from 'drizzle-orm';
import { describe, expect, it } from 'vitest';
import { editClips } from '../clips/clips';
import { db, tables } from '../database';
import { keptDecisions } from '../database/columns';
import { cancelItem, deliver, retryItem, type Wanted } from './deliveries';
import { begun } from './item-state';
import { makeLook } from '../looks/versions';
import { aLook, aProject, clipsIn, useDatabase } from '../testing/database';

useDatabase();
const { chunks, deliveryItems } = tables;
const NOT_THERE = '00000000-0000-4000-8000-000000000000';
const asked = (clips: readonly string[], more: Partial<Wanted> = {}): Wanted => ({
  clips,
  format: 'mkv',
  width: 1920,
  height: 1080,
  coverage: false,
  effort: 'usual',
  ...more,
});
const itemsOf = (delivery: string) =>
  db()
    .select()
    .from(deliveryItems)
    .where(eq(deliveryItems.deliveryId, delivery))
    .orderBy(asc(deliveryItems.clipName));
const chunksOf = (item: string, attempt: number) =>
  db()
    .select()
    .from(chunks)
    .where(eq(chunks.itemId, item))
    .orderBy(asc(chunks.first))
    .then((all) => all.filter((c) => c.attempt === attempt));
const queued = async (): Promise<number> => {
  const { rows } = await db().execute<{ n: string }>(
    `select count(*) as n from pgboss.job where name = 'chunk'`,
  );
  return Number(rows[0]!.n);
};

describe('a delivery', () => {
  it('of any length is cut and queued: sixteen thousand chunks in one go', async () => {
    const project = await aProject(),
      [a] = await clipsIn(project, ['long']);
    await db().execute(
      `update footage set facts = jsonb_set(facts, '{frames}', '400000')
       where hash in (select hash from clips where id = '${a!}')`,
    );
    const before = await queued();
    const id = await deliver(project, asked([a!]));
    const [item] = await itemsOf(id!);
    const made = await chunksOf(item!.id, 1);
    expect(made.length).toBeGreaterThan(16_000);
    expect(made.reduce((n, c) => n + c.count, 0)).toBe(400_000);
    expect((await queued()) - before).toBe(made.length);
  });

  it('is refused in words where its file cannot hold a clip, and nothing is stored', async () => {
    const project = await aProject(),
      [a] = await clipsIn(project, ['bright']);
    await db()
      .update(tables.clips)
      .set({ decided: keptDecisions({ encoding: 'pq' }) })
      .where(eq(tables.clips.id, a!));
    const before = await db().$count(deliveryItems);
    await expect(deliver(project, asked([a!], { format: 'webm', coverage: true }))).rejects.toThrow(
      /bright: webm has no ten bits with coverage.*choose mkv or png/,
    );
    await expect(deliver(project, asked([a!], { format: 'mp4', coverage: true }))).rejects.toThrow(
      /mp4 cannot carry coverage/,
    );
    expect(await db().$count(deliveryItems)).toBe(before);
  });

  it('keeps everything as it was when it was asked for', async () => {
    const project = await aProject(),
      [a] = await clipsIn(project, ['gulls']);
    const { versionId } = await makeLook(aLook('Plain'));
    const to = { version: versionId, note: 'x' };
    await editClips(project, [{ clip: a!, was: { version: null, note: '' }, to }]);
    const id = await deliver(project, asked([a!]));
    await editClips(project, [{ clip: a!, was: { name: 'gulls' }, to: { name: 'birds' } }]);
    const [item] = await itemsOf(id!);
    expect(item).toMatchObject({
      clipName: 'gulls',
      lookName: 'Plain v1',
      frames: 80,
      state: 'waiting',
      attempt: 1,
    });
  });

  it('is cut into chunks that cover every frame once, each a job', async () => {
    const project = await aProject(),
      [a] = await clipsIn(project, ['gulls']);
    const before = await queued();
    const [item] = await itemsOf((await deliver(project, asked([a!])))!);
    const all = await chunksOf(item!.id, 1);
    expect(all.length).toBeGreaterThan(1);
    let next = 0;
    for (const { first, count } of all) {
      expect(first).toBe(next);
      next += count;
    }
    expect(next).toBe(80);
    expect((await queued()) - before).toBe(all.length);
  });

  it('is of a stretch alone where the clip is one', async () => {
    const project = await aProject(),
      [a] = await clipsIn(project, ['gulls']);
    await editClips(project, [
      { clip: a!, was: { inOut: null }, to: { inOut: { in: 9, out: 20 } } },
    ]);
    const [item] = await itemsOf((await deliver(project, asked([a!])))!);
    expect(item).toMatchObject({ frames: 12, subject: { inOut: { in: 9, out: 20 } } });
  });

  it('is refused whole where one of the clips is not of the project, and leaves nothing', async () => {
    const [mine, other] = [await aProject(), await aProject()];
    const [[a], [b]] = [await clipsIn(mine, ['gulls']), await clipsIn(other, ['kelp'])];
    const before = await queued();
    expect(await deliver(mine, asked([a!, b!]))).toBeUndefined();
    expect(await queued()).toBe(before);
  });
});

describe('a file of a delivery', () => {
  const made = async () => {
    const project = await aProject(),
      [a] = await clipsIn(project, ['gulls']);
    return (await itemsOf((await deliver(project, asked([a!])))!))[0]!;
  };
  const again = async (id: string) =>
    (await db().select().from(deliveryItems).where(eq(deliveryItems.id, id)))[0]!;

  it('is cancelled while it waits, and stays so', async () => {
    const item = await made();
    expect(await cancelItem(item.id)).toBe(true);
    expect(await again(item.id)).toMatchObject({ state: 'cancelled', ended: expect.any(Date) });
    expect(await cancelItem(NOT_THERE)).toBe(false);
  });

  it('that was cancelled is not begun by a worker that had read it before', async () => {
    const item = await made();
    expect(await begun(item.id, 1)).toBe(true);
    expect(await again(item.id)).toMatchObject({ state: 'running', started: expect.any(Date) });
    await cancelItem(item.id);
    expect(await begun(item.id, 1)).toBe(false);
    expect((await again(item.id)).state).toBe('cancelled');
    // Nor may a worker of the earlier attempt change it.
    await retryItem(item.id);
    expect(await begun(item.id, 1)).toBe(false);
    expect(await begun(item.id, 2)).toBe(true);
  });

  it('that is done is not cancelled', async () => {
    const item = await made();
    await db().update(deliveryItems).set({ state: 'done' }).where(eq(deliveryItems.id, item.id));
    await cancelItem(item.id);
    expect((await again(item.id)).state).toBe('done');
  });

  it('is tried again as another attempt with chunks of its own, not while one is under way', async () => {
    const item = await made();
    expect(await retryItem(item.id)).toBe(false);
    await cancelItem(item.id);
    expect(await retryItem(item.id)).toBe(true);
    expect(await again(item.id)).toMatchObject({ state: 'waiting', attempt: 2, ended: null });
    expect(await chunksOf(item.id, 2)).toHaveLength((await chunksOf(item.id, 1)).length);
    expect(await retryItem(NOT_THERE)).toBeUndefined();
  });
});
