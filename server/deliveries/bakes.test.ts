/** Baking frames on workers: behind more urgent work, replaced, stopped. */
import { asc, eq } from 'drizzle-orm';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { db, tables } from '../database';
import { aLook, aProject, clipsIn, useDatabase } from '../testing/database';
import { bakeFrames, bakingOf, stopBaking, type WantedFrames } from './bakes';
import { chunkLength } from './cutting';

useDatabase();
const { chunks, deliveries, deliveryItems } = tables;
const NOT_THERE = '00000000-0000-4000-8000-000000000000';
const wanted = (more: Partial<WantedFrames> = {}): WantedFrames => ({
  look: aLook(),
  first: 10,
  last: 39,
  width: 960,
  height: 540,
  keeps: 'page',
  ...more,
});
const aClip = async (): Promise<string> => (await clipsIn(await aProject(), ['gulls']))[0]!;

describe('frames to be baked', () => {
  it('are those asked for, each in one chunk, behind everything that people wait for', async () => {
    const clip = await aClip();
    const id = (await bakeFrames(clip, wanted())) as string;
    const [item] = await db().select().from(deliveryItems).where(eq(deliveryItems.deliveryId, id));
    expect(item).toMatchObject({ first: 10, frames: 30, state: 'waiting' });
    const all = await db()
      .select()
      .from(chunks)
      .where(eq(chunks.itemId, item!.id))
      .orderBy(asc(chunks.first));
    expect(all.flatMap((c) => Array.from({ length: c.count }, (_, i) => c.first + i))).toEqual(
      Array.from({ length: 30 }, (_, i) => 10 + i),
    );
    const { rows } = await db().execute<{ priority: number }>(
      `select distinct priority from pgboss.job where name = 'chunk' and data->>'chunkId' = '${all[0]!.id}'`,
    );
    expect(rows.map((r) => Number(r.priority))).toEqual([-1]);
    expect(await bakingOf(clip)).toMatchObject({
      ...{ state: 'waiting', first: 10, frames: 30, made: 0 },
      ...{ width: 960, height: 540, keeps: 'page' },
    });
  });

  it('take the place of those that were wanted before', async () => {
    const clip = await aClip();
    const first = (await bakeFrames(clip, wanted())) as string;
    await bakeFrames(clip, wanted({ first: 0, last: 4, keeps: 'gbrp16le' }));
    expect(await db().$count(deliveries, eq(deliveries.id, first))).toBe(0);
    expect(await bakingOf(clip)).toMatchObject({ first: 0, frames: 5, keeps: 'gbrp16le' });
  });

  it('are none where the clip has no such frames, or there is no such clip', async () => {
    const clip = await aClip();
    expect(await bakeFrames(clip, wanted({ last: 80 }))).toBe(false);
    expect(await bakeFrames(clip, wanted({ first: 40, last: 39 }))).toBe(false);
    expect(await bakeFrames(NOT_THERE, wanted())).toBeUndefined();
    expect(await bakingOf(clip)).toBeNull();
  });

  it('are counted as they come, a chunk that is done in full', async () => {
    const clip = await aClip();
    const id = (await bakeFrames(clip, wanted())) as string;
    const [item] = await db().select().from(deliveryItems).where(eq(deliveryItems.deliveryId, id));
    const [a, b] = await db().select().from(chunks).where(eq(chunks.itemId, item!.id));
    await db().update(chunks).set({ done: true, rendered: 1 }).where(eq(chunks.id, a!.id));
    await db().update(chunks).set({ rendered: 2 }).where(eq(chunks.id, b!.id));
    expect((await bakingOf(clip))!.made).toBe(a!.count + 2);
  });

  it('are stopped, and what is done stays done', async () => {
    const clip = await aClip();
    await bakeFrames(clip, wanted());
    expect(await stopBaking(clip)).toBe(true);
    expect((await bakingOf(clip))!.state).toBe('cancelled');
    await db().update(deliveryItems).set({ state: 'done' }).where(eq(deliveryItems.clipId, clip));
    await stopBaking(clip);
    expect((await bakingOf(clip))!.state).toBe('done');
    expect(await stopBaking(NOT_THERE)).toBe(false);
  });
});

describe('a chunk', () => {
  it.each([
    [1920, 1080, 0, 12],
    [960, 540, 0, 24],
    [3840, 2160, 0, 4],
    [1920, 1080, 8, 32],
    [64, 64, 0, 24],
  ])('of %d×%d under a look that looks %d frames back has %d', (w, h, back, frames) => {
    expect(chunkLength(w, h, back)).toBe(frames);
  });

  it('is never so short that what it looks back at is most of its work', () => {
    const side = fc.integer({ min: 16, max: 8192 });
    fc.assert(
      fc.property(side, side, fc.integer({ min: 0, max: 240 }), (w, h, back) => {
        const length = chunkLength(w, h, back);
        expect(length).toBeGreaterThanOrEqual(Math.max(4, 4 * back));
        expect(Number.isInteger(length)).toBe(true);
      }),
    );
  });
});
