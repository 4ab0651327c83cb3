/** Assets of footage: queued once, stopped, begun again, and room made for others. */
import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { eq } from 'drizzle-orm';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { FRAME_ASSETS } from '../../core';
import { db, tables } from '../database';
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

  it('takes those used least lately away first, but never the one just made', async () => {
    vi.stubEnv('WABISABI_DATA', data);
    vi.stubEnv('WABISABI_MOST_ASSETS', '250');
    const project = await aProject(),
      all = await clipsIn(project, ['gulls', 'kelp', 'ferry']);
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
    // The third is the oldest, but it was just made.
    await makeRoomForAssets({ hash: hashes[2]!, asset: 'motion' });
    const left = await db().select().from(derivedAssets).where(eq(derivedAssets.state, 'done'));
    expect(left.map((r) => r.hash).sort()).toEqual([hashes[0], hashes[2]].sort());
    const files = await Promise.all(hashes.map((h) => framesMade(h, 'motion')));
    expect(files.map((f) => f.size)).toEqual([1, 0, 1]);
  });
});
