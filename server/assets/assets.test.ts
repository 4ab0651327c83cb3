/** Assets of footage: queued once, stopped, begun again, and room made for others. */
import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { eq } from 'drizzle-orm';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { FRAME_ASSETS } from '../../core';
import { db, tables } from '../database';
import { itemSubject } from '../database/columns';
import { framesMade } from '../media/parts';
import { aProject, clipsIn, useDatabase } from '../testing/database';
import { assetStates, queueAsset, stopAsset } from './assets';
import { makeRoomForAssets } from './ceiling';
import { WHOLES } from './whole';

useDatabase();
const { clips, derivedAssets } = tables;
const NOT_THERE = '00000000-0000-4000-8000-000000000000';
const jobs = async (name: string): Promise<number> => {
  const { rows } = await db().execute<{ n: string }>(
    `select count(*) as n from pgboss.job where name = '${name}'`,
  );
  return Number(rows[0]!.n);
};
const rowOf = async (clip: string) =>
  (await db().select().from(clips).where(eq(clips.id, clip)))[0]!;
const assetOf = async (clip: string) => {
  const { hash } = await rowOf(clip);
  return (await db().select().from(derivedAssets).where(eq(derivedAssets.hash, hash)))[0];
};

describe('an asset', () => {
  it('is queued once for all clips of one footage', async () => {
    const project = await aProject(),
      [a] = await clipsIn(project, ['gulls']);
    const { id: _, ...same } = await rowOf(a!);
    const [again] = await db().insert(clips).values(same).returning({ id: clips.id });
    const before = await jobs('asset');
    expect(await queueAsset(a!, 'motion', 12)).toBe(true);
    expect(await queueAsset(again!.id, 'motion', 0)).toBe(true);
    expect((await jobs('asset')) - before).toBe(1);
    expect(await assetOf(a!)).toMatchObject({ kind: 'motion', state: 'waiting' });
    const states = await assetStates(eq(clips.projectId, project));
    expect(states.get(same.hash)).toMatchObject({ motion: { state: 'waiting', progress: 0 } });
  });

  it('that was stopped is queued again', async () => {
    const project = await aProject(),
      [a] = await clipsIn(project, ['gulls']);
    await queueAsset(a!, 'motion', 0);
    expect(await stopAsset(a!, 'motion')).toBe(true);
    expect((await assetOf(a!))!.state).toBe('cancelled');
    await queueAsset(a!, 'motion', 0);
    expect((await assetOf(a!))!.state).toBe('waiting');
  });

  it('of a clip that is not there is not made', async () => {
    expect(await queueAsset(NOT_THERE, 'motion', 0)).toBe(false);
    expect(await stopAsset(NOT_THERE, 'motion')).toBe(false);
    expect(await WHOLES.speeds(NOT_THERE)).toBeUndefined();
  });

  it('made by another method counts as none', async () => {
    const project = await aProject(),
      [a] = await clipsIn(project, ['gulls']);
    await queueAsset(a!, 'motion', 0);
    await db().update(derivedAssets).set({ method: 'motion-0' });
    expect((await assetStates(eq(clips.projectId, project))).size).toBe(0);
  });
});

describe('the ceiling of assets', () => {
  const data = mkdtempSync(join(tmpdir(), 'assets-'));
  afterEach(() => {
    vi.unstubAllEnvs();
    rmSync(data, { recursive: true, force: true });
  });

  /** Finished motion of three clips, used 1, 9 and 60 minutes ago; 100 bytes each. */
  async function threeMade(project: string): Promise<string[]> {
    vi.stubEnv('WABISABI_DATA', data);
    vi.stubEnv('WABISABI_MOST_ASSETS', '250');
    await db().delete(derivedAssets);
    const all = await clipsIn(project, ['gulls', 'kelp', 'ferry']);
    const hashes: string[] = [];
    for (const [i, clip] of all.entries()) {
      await queueAsset(clip, 'motion', 0);
      const { hash } = await rowOf(clip);
      hashes.push(hash);
      const folder = join(data, 'footage', hash, FRAME_ASSETS.motion.method);
      mkdirSync(folder, { recursive: true });
      writeFileSync(join(folder, '000003.gz'), '');
      const used = new Date(Date.now() - [1, 9, 60][i]! * 60_000);
      await db()
        .update(derivedAssets)
        .set({ state: 'done', bytes: 100, used })
        .where(eq(derivedAssets.hash, hash));
    }
    return hashes;
  }
  const left = async () =>
    (await db().select().from(derivedAssets).where(eq(derivedAssets.state, 'done')))
      .map((r) => `${r.kind} ${r.hash}`)
      .sort();
  const motionOf = (...hashes: (string | undefined)[]) => hashes.map((h) => `motion ${h}`).sort();

  it('takes those used least lately away first, but never the one just made', async () => {
    const hashes = await threeMade(await aProject());
    // The third is the oldest, but it was just made.
    await makeRoomForAssets({ hash: hashes[2]!, asset: 'motion' });
    expect(await left()).toEqual(motionOf(hashes[0], hashes[2]));
    const files = await Promise.all(hashes.map((h) => framesMade(h, 'motion')));
    expect(files.map((f) => f.size)).toEqual([1, 0, 1]);
  });

  it('leaves what a delivery under way may ask for, and goes on after it', async () => {
    const project = await aProject(),
      [recent, older, oldest] = await threeMade(project);
    const [made] = await db()
      .insert(tables.deliveries)
      .values({ projectId: project, format: 'mkv', width: 64, height: 36 })
      .returning();
    await db()
      .insert(tables.deliveryItems)
      .values({
        ...{ deliveryId: made!.id, clipName: 'ferry', hash: oldest!, frames: 80 },
        subject: itemSubject({ encoding: 'srgb' }),
      });
    await makeRoomForAssets({ hash: recent!, asset: 'motion' });
    expect(await left()).toEqual(motionOf(recent, oldest));
    expect(await framesMade(older!, 'motion')).toHaveProperty('size', 0);
  });

  it('leaves tracks, however long ago they were used', async () => {
    const [recent, older, oldest] = await threeMade(await aProject());
    const track = { hash: oldest!, kind: 'track' as const, method: 'points', of: 'a mark' };
    await db()
      .insert(derivedAssets)
      .values({ ...track, state: 'done', bytes: 1, used: new Date(0) });
    await makeRoomForAssets({ hash: recent!, asset: 'motion' });
    expect(await left()).toEqual([...motionOf(recent, older), `track ${oldest}`].sort());
  });
});
