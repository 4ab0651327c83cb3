/** Cuts: revisions, versions, copies with their project, and a whole cut as one file. */
import { execFileSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { asc, eq } from 'drizzle-orm';
import { afterAll, describe, expect, it } from 'vitest';
import { allPlaces, cutting, emptyCut, SOUND_RATE } from '../../core';
import { inData } from '../config/settings';
import { db, tables } from '../database';
import { bakeCut, bakingOfCut, stopBakingCut } from '../deliveries/bakes';
import { runChunk } from '../deliveries/chunks';
import { deliverCut, NothingThere, retryItem } from '../deliveries/deliveries';
import { itemFrames, loadItem } from '../deliveries/frames';
import { runJoin } from '../deliveries/join';
import { cutSnapshotOf } from '../deliveries/snapshot';
import { originalOf } from '../footage/original';
import { runImport } from '../footage/import-job';
import { importPath } from '../footage/imports';
import { SAMPLES_FILE } from '../media/sound-file';
import { copyProject } from '../projects/projects';
import { startEngine } from '../render';
import { inSound, soundsOf } from '../sounds/sounds';
import { aProject, clipsIn, useDatabase } from '../testing/database';
import { cutOf, keepVersion, saveCut, versionOf, versionsOf } from './cuts';
import { openMix } from './mixing';
import { openCut } from './open';

useDatabase();
const threads = startEngine();
afterAll(() => threads.close());
const { deliveryItems, chunks } = tables;

const cutWith = async (project: string) => {
  const [a, b] = await clipsIn(project, ['a', 'b']);
  return cutting.placed(emptyCut(), 'row', 0, [
    { clip: a!, in: 0, frames: 30 },
    { clip: b!, in: 5, frames: 20 },
  ]);
};

describe('a cut', () => {
  it('is empty at first, and saved in place of the revision it was made from', async () => {
    const project = await aProject();
    expect(await cutOf(project)).toMatchObject({ revision: 0, document: emptyCut() });
    const cut = await cutWith(project);
    expect(await saveCut(project, cut, 0)).toBe(1);
    expect(await saveCut(project, emptyCut(), 0)).toBeUndefined();
    expect(await saveCut(project, emptyCut(), 2)).toBeUndefined();
    expect((await cutOf(project)).document).toEqual(cut);
    expect(await saveCut(project, cutting.moved(cut, ['place-2'], 3), 1)).toBe(2);
  });
  it('has versions that never change', async () => {
    const project = await aProject(),
      cut = await cutWith(project);
    expect(await keepVersion(project, 'rough', cut)).toBe(1);
    expect(await keepVersion(project, 'empty', emptyCut())).toBe(2);
    expect((await versionsOf(project)).map((v) => [v.number, v.name])).toEqual([
      [2, 'empty'],
      [1, 'rough'],
    ]);
    expect(await versionOf(project, 1)).toEqual(cut);
    expect(await versionOf(project, 3)).toBeUndefined();
  });
  it('goes into a copy of its project with the clips of the copy', async () => {
    const project = await aProject();
    await saveCut(project, await cutWith(project), 0);
    const copy = (await copyProject(project))!;
    const own = (
      await db().select().from(tables.clips).where(eq(tables.clips.projectId, copy))
    ).map((c) => c.id);
    const { document } = await cutOf(copy);
    expect(allPlaces(document).map((p) => own.includes(p.clip))).toEqual([true, true]);
  });
  it('is refused a delivery while nothing stands in it', async () => {
    const project = await aProject();
    await expect(deliverCut(project, WANTED)).rejects.toThrow(NothingThere);
  });
  it('is cut into chunks at its places too, and baked from the frame that is asked for on', async () => {
    const project = await aProject();
    await saveCut(project, await cutWith(project), 0);
    const id = await deliverCut(project, WANTED);
    expect((await chunksOf(id!)).map((c) => [c.first, c.count])).toEqual([
      [0, 24],
      [24, 6],
      [30, 20],
    ]);
    const baked = await bakeCut(project, { width: 96, height: 54, from: 25 });
    const [item] = await itemsOf(baked!);
    const inTurn = await db().execute<{ first: number }>(
      `select c.first from pgboss.job j join chunks c on c.id = (j.data ->> 'chunkId')::uuid
       where c.item_id = '${item!.id}' order by j.priority desc`,
    );
    expect(inTurn.rows.map((r) => r.first)).toEqual([24, 30, 42, 0, 12]);
    expect(await bakingOfCut(project)).toMatchObject({ state: 'waiting', frames: 50, made: 0 });
    await stopBakingCut(project);
    expect(await bakingOfCut(project)).toMatchObject({ state: 'cancelled' });
    // Deliveries of the cut are left alone.
    expect((await itemsOf(id!))[0]!.state).toBe('waiting');
  });
});

const WANTED = {
  format: 'mkv',
  width: 96,
  height: 54,
  coverage: false,
  effort: 'usual',
} as const;
const itemsOf = (delivery: string) =>
  db().select().from(deliveryItems).where(eq(deliveryItems.deliveryId, delivery));
const chunksOf = async (delivery: string, attempt = 1) => {
  const [item] = await itemsOf(delivery);
  const all = await db()
    .select()
    .from(chunks)
    .where(eq(chunks.itemId, item!.id))
    .orderBy(asc(chunks.first));
  return all.filter((c) => c.attempt === attempt);
};
const ffmpeg = (...args: string[]): Buffer =>
  execFileSync('ffmpeg', ['-v', 'error', ...args], { maxBuffer: 2 ** 28 });

describe('a whole cut as one file', () => {
  it('has its frames, whoever renders which chunk, and its song sample for sample', async () => {
    const project = await aProject();
    for (const path of ['demo/footage/floor-tom.mp4', 'demo/sounds/harbour-static.flac'])
      await runImport(await importPath(project, path));
    const [clip] = await db()
      .select()
      .from(tables.clips)
      .where(eq(tables.clips.projectId, project));
    const [song] = await soundsOf(project);
    const placed = cutting.placed(emptyCut(), 'row', 0, [
      { clip: clip!.id, in: 0, frames: 10 },
      { clip: clip!.id, in: 40, frames: 8 },
    ]);
    const overlapped = cutting.withPlaces(
      cutting.moved(placed, ['place-2'], -4),
      ['place-2'],
      (p) => ({
        ...p,
        enters: { look: 'mix' },
      }),
    );
    const cut = cutting.withSound(overlapped, {
      sound: song!.id,
      at: 0,
      from: 0,
      samples: 2 * SOUND_RATE,
      level: 0,
    });
    await saveCut(project, cut, 0);
    const frames = 50;
    const id = (await deliverCut(project, WANTED))!;
    const [item] = await itemsOf(id);
    expect(item!.frames).toBe(frames);
    for (const c of (await chunksOf(id)).reverse()) await runChunk(c.id, 1, threads);
    await runJoin(item!.id, 1);
    const [done] = await itemsOf(id);
    expect(done).toMatchObject({ state: 'done', error: null });
    const hashes = (await chunksOf(id)).flatMap((c) => c.hashes!);
    expect(hashes).toHaveLength(frames);

    // Before and after the overlap frames are those of the clip alone, and the gap is black.
    const alone = await hashesAlone(id);
    expect([0, 5].map((f) => hashes[f])).toEqual([0, 5].map((f) => alone[f]));
    expect([10, 13].map((f) => hashes[f])).toEqual([44, 47].map((f) => alone[f]));
    expect(new Set(hashes.slice(6, 10)).size).toBe(4);
    expect(new Set(hashes.slice(14))).toHaveLength(1);

    // The song, to the sample: the file's sound against the sound that was brought in.
    const file = inData(done!.file!),
      pcm = (from: string) => ffmpeg('-i', from, '-map', '0:a', '-f', 's16le', '-ac', '2', '-');
    const [mine, theirs] = [pcm(file), pcm(inSound(song!.hash, SAMPLES_FILE))];
    expect(mine.length).toBe(2 * SOUND_RATE * 4);
    expect(mine.equals(theirs.subarray(0, mine.length))).toBe(true);
    expect(mine.some((v) => v !== 0)).toBe(true);
    expect(done!.loudness!.integrated).toBeGreaterThan(-40);

    // Another attempt, its chunks rendered by another order, gives the same frames.
    expect(await retryItem(item!.id)).toBe(true);
    for (const c of await chunksOf(id, 2)) await runChunk(c.id, 2, threads);
    expect((await chunksOf(id, 2)).flatMap((c) => c.hashes!)).toEqual(hashes);
  }, 120_000);

  /** Hashes of the frames of the footage alone, by a cut of one place. */
  async function hashesAlone(delivery: string): Promise<string[]> {
    const [item] = await itemsOf(delivery);
    const { document, ...rest } = item!.cut!;
    const place = document.rows[0]!.places[0]!;
    const single = {
      ...document,
      rows: [{ ...document.rows[0]!, places: [{ ...place, frames: 75 }] }],
    };
    const found: string[] = [];
    const opened = await itemFrames(
      { ...(await loadItem(item!.id))!, cut: { ...rest, document: single } },
      threads.engine,
    );
    for (const f of [0, 5, 44, 47])
      found[f] = createHash('md5')
        .update(await opened.at(f))
        .digest('hex');
    await opened.close();
    return found;
  }
});

describe('the mix of a cut', () => {
  it('is the same by blocks as in one, with a place slowed to half', async () => {
    const project = await aProject();
    await runImport(await importPath(project, 'demo/footage/floor-tom.mp4'));
    const [clip] = await db()
      .select()
      .from(tables.clips)
      .where(eq(tables.clips.projectId, project));
    const retime = {
      places: [{ frame: 0, speed: 50, to: 'at-once' as const }],
      backwards: false,
      between: 'nearest' as const,
    };
    const cut = cutting.withPlaces(
      cutting.placed(emptyCut(), 'row', 3, [
        { clip: clip!.id, in: 0, frames: 20 },
        { clip: clip!.id, in: 10, frames: 20 },
      ]),
      ['place-1', 'place-2'],
      (p) => ({ ...p, sound: { level: -3 }, ...(p.key === 'place-2' && { retime }) }),
    );
    const snapshot = (await cutSnapshotOf(project, cut))!;
    const mix = await openMix(await openCut(snapshot), snapshot);
    expect(mix.samples).toBe((43 * SOUND_RATE) / 25);
    const [whole] = await mix.block(0, mix.samples);
    // Silent before the first place; from then on as the file sounds, three decibels lower.
    const begins = (3 * SOUND_RATE) / 25;
    expect(whole.subarray(0, begins).every((v) => v === 0)).toBe(true);
    const file = inData(`heard/${clip!.hash}.f32`),
      bytes = readFileSync(file),
      gain = 10 ** (-3 / 20);
    const channels = (await originalOf(clip!.hash))!.facts.sound!.channels!;
    for (const i of [0, 999, 20_000])
      expect(whole[begins + i]).toBeCloseTo(bytes.readFloatLE(i * 4 * channels) * gain, 6);
    const parts: number[] = [];
    for (let at = 0; at < mix.samples; at += 10_007)
      parts.push(...(await mix.block(at, Math.min(10_007, mix.samples - at)))[0]);
    expect(Float32Array.from(parts)).toEqual(whole);
    // The slowed place is heard.
    const slow = whole.subarray((30 * SOUND_RATE) / 25);
    expect(slow.some((v) => Math.abs(v) > 1e-3)).toBe(true);
  }, 60_000);
});
