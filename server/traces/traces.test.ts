/** Traces: their tracks, made once for each set of marks; pins that take them; what a delivery keeps. */
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { eq } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import { editClips } from '../clips/clips';
import { db, tables } from '../database';
import { queueInspections } from '../inspections/inspections';
import { storeTrack } from '../media/tracks';
import { copyProject } from '../projects/projects';
import { aProject, clipsIn, useDatabase } from '../testing/database';
import {
  addTrace,
  editTrace,
  openTracks,
  removeTrace,
  setFollowing,
  tracedIn,
  trackOf,
  tracksMade,
  tracksNow,
  tracesOf,
  wantTracksAnew,
} from './traces';

useDatabase();
const { clips, derivedAssets, traces } = tables;
const NOT_THERE = '00000000-0000-4000-8000-000000000000';
const data = mkdtempSync(join(tmpdir(), 'traces-'));
beforeAll(() => void vi.stubEnv('WABISABI_DATA', data));
afterAll(() => {
  vi.unstubAllEnvs();
  rmSync(data, { recursive: true, force: true });
});

const MARKS = [{ frame: 2, x: 0.2, y: 0.4 }];
const rowOf = async (clip: string) =>
  (await db().select().from(clips).where(eq(clips.id, clip)))[0]!;
async function traced(follow: boolean) {
  const project = await aProject(),
    [clip] = await clipsIn(project, ['gulls']);
  const id = (await addTrace(clip!, { name: 'Gull', follow, marks: MARKS }))!;
  const { hash } = await rowOf(clip!);
  const state = async () => (await tracesOf([project])).get(tracedIn(project, hash))![0]!;
  return { project, clip: clip!, hash, id, state };
}

describe('a trace', () => {
  it('by hand has its track at once', async () => {
    const { id, state } = await traced(false);
    expect(await state()).toMatchObject({
      name: 'Gull',
      follow: false,
      state: 'done',
      marks: MARKS,
    });
    const { places } = (await trackOf(id))!;
    expect(places[0]).toEqual([0.2, 0.4, 1]);
    expect(places[2]).toEqual([0.2, 0.4, 2]);
  });

  it('has its track made anew where an earlier method made it, but not where somebody stopped it', async () => {
    const made = await traced(false),
      stopped = await traced(true);
    await setFollowing(stopped.id, false);
    await db()
      .delete(derivedAssets)
      .where(eq(derivedAssets.of, (await made.state()).of));
    expect((await made.state()).state).toBe('cancelled');
    await wantTracksAnew();
    expect((await made.state()).state).toBe('done');
    expect((await stopped.state()).state).toBe('cancelled');
  });

  it('smoothed is another track, and as it was followed the one there was', async () => {
    const { id, state } = await traced(true);
    const { of } = await state();
    await editTrace(id, { smooth: 5 });
    const smooth = await state();
    expect(smooth).toMatchObject({ smooth: 5, state: 'waiting' });
    expect(smooth.of).not.toBe(of);
    await editTrace(id, { smooth: 0 });
    expect((await state()).of).toBe(of);
    // By hand there is nothing to smooth.
    await editTrace(id, { follow: false, smooth: 0 });
    const hand = (await state()).of;
    await editTrace(id, { smooth: 5 });
    expect((await state()).of).toBe(hand);
  });

  it('that was taken away comes back under its id, which nothing else may have', async () => {
    const { id, clip, state } = await traced(false);
    const own = { name: 'Gull', follow: false, marks: MARKS, id };
    expect(await addTrace(clip, own)).toBeNull();
    await removeTrace(id);
    expect(await addTrace(clip, own)).toBe(id);
    expect(await state()).toMatchObject({ id, state: 'done', marks: MARKS });
  });

  it('of an oval has its own kind of marks, and another digest than a point there', async () => {
    const { clip, project, hash, id } = await traced(false);
    const mark = { frame: 3, x: 0.5, y: 0.5, rx: 0.1, ry: 0.2, turn: 10 };
    const oval = (await addTrace(clip, {
      name: 'Face',
      kind: 'oval',
      follow: false,
      marks: [mark],
    }))!;
    expect((await trackOf(oval))!.places[0]).toEqual([0.5, 0.5, 0.1, 0.2, 10, 1]);
    const states = (await tracesOf([project])).get(tracedIn(project, hash))!;
    expect(states.map((s) => s.kind)).toEqual(['point', 'oval']);
    expect(await editTrace(oval, { marks: MARKS })).toEqual({ kind: 'oval' });
    expect(await editTrace(id, { marks: [mark] })).toEqual({ kind: 'point' });
    expect((await trackOf(oval))!.places[3]!.at(-1)).toBe(2);
  });

  it('that is followed waits for a worker, is stopped, and begins again', async () => {
    const { id, state } = await traced(true);
    expect((await state()).state).toBe('waiting');
    expect(await trackOf(id)).toBeUndefined();
    // Nothing is keyed by a track that is not there.
    expect(await tracksMade([id])).toEqual({});
    await setFollowing(id, false);
    expect((await state()).state).toBe('cancelled');
    await setFollowing(id, true);
    expect((await state()).state).toBe('waiting');
  });

  it('has another track for other marks, and the one before for the marks before', async () => {
    const { id, hash, state } = await traced(false);
    const { of } = await state();
    await editTrace(id, { marks: [...MARKS, { frame: 5, x: 0.5, y: 0.5 }], name: 'Bird' });
    expect((await state()).of).not.toBe(of);
    expect(await state()).toMatchObject({ name: 'Bird', state: 'done' });
    await editTrace(id, { marks: MARKS });
    expect((await state()).of).toBe(of);
    const made = await db().select().from(derivedAssets).where(eq(derivedAssets.kind, 'track'));
    expect(made.filter((t) => t.of === of && t.hash === hash)).toHaveLength(1);
  });

  it('keeps the track of a name whatever becomes of its marks', async () => {
    const { id, hash } = await traced(false);
    const names = await tracksNow([id]);
    expect(await tracksMade([id])).toEqual(names);
    await editTrace(id, { marks: [{ frame: 0, x: 0.9, y: 0.9 }] });
    expect((await openTracks(hash, names))![id]!.places[2]).toEqual([0.2, 0.4, 2]);
    expect((await trackOf(id, names[id]))!.places[2]).toEqual([0.2, 0.4, 2]);
    expect((await trackOf(id))!.places[2]).toEqual([0.9, 0.9, 1]);
    expect(await openTracks(hash, { [id]: 'none' })).toEqual({});
  });

  it('goes from the pins that take it, and from no others', async () => {
    const { project, clip, id } = await traced(false);
    const pins = {
      sun: [{ trace: id }],
      moon: [{ x: 0.1, y: 0.1 }],
      both: [{ trace: id }, { x: 0.2, y: 0.2 }],
    };
    await editClips(project, [{ clip, was: { pins: {} }, to: { pins } }]);
    expect(await removeTrace(id)).toBe(true);
    expect((await rowOf(clip)).decided.pins).toEqual({
      moon: [{ x: 0.1, y: 0.1 }],
      both: [{ x: 0.2, y: 0.2 }],
    });
    expect(await db().select().from(traces).where(eq(traces.id, id))).toEqual([]);
  });

  it('makes inspections stale when its marks change', async () => {
    const { project, clip, id } = await traced(false);
    await editClips(project, [{ clip, was: { pins: {} }, to: { pins: { sun: [{ trace: id }] } } }]);
    expect(await queueInspections(project, [clip], false)).toBe(1);
    expect(await queueInspections(project, [clip], false)).toBe(0);
    await editTrace(id, { name: 'Bird' });
    expect(await queueInspections(project, [clip], false)).toBe(0);
    await editTrace(id, { marks: [{ frame: 0, x: 0.9, y: 0.9 }] });
    expect(await queueInspections(project, [clip], false)).toBe(1);
  });

  it('is copied with its project, and the copy’s pins take the copy', async () => {
    const { project, clip, hash, id } = await traced(false);
    await editClips(project, [{ clip, was: { pins: {} }, to: { pins: { sun: [{ trace: id }] } } }]);
    const copy = (await copyProject(project))!;
    const [own] = (await tracesOf([copy])).get(tracedIn(copy, hash))!;
    expect(own!.id).not.toBe(id);
    const [row] = await db().select().from(clips).where(eq(clips.projectId, copy));
    expect(row!.decided.pins).toEqual({ sun: [{ trace: own!.id }] });
    await removeTrace(id);
    expect((await trackOf(own!.id))!.places[0]).toEqual([0.2, 0.4, 1]);
  });

  it('of what is not there is none', async () => {
    expect(await addTrace(NOT_THERE, { name: 'x', follow: true, marks: MARKS })).toBeUndefined();
    expect(await editTrace(NOT_THERE, { name: 'x' })).toBeUndefined();
    expect(await removeTrace(NOT_THERE)).toBe(false);
    expect(await setFollowing(NOT_THERE, true)).toBe(false);
    expect(await trackOf(NOT_THERE)).toBeUndefined();
  });

  it('reads a track that was stored whole, and takes a truncated one for none', async () => {
    const { hash } = await traced(false);
    await storeTrack(hash, 'ab', { places: [[0.1, 0.2, 1], null] });
    expect((await openTracks(hash, { t: 'ab' }))!['t']!.places).toEqual([[0.1, 0.2, 1], null]);
  });
});
