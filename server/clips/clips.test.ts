/** Edits of clips: all of them or none, and never over a newer edit by somebody else. */
import { asc, eq } from 'drizzle-orm';
import { describe, expect, it } from 'vitest';
import {
  ChangedMeanwhile,
  type ClipEdit,
  doubleClip,
  editClips,
  NothingToSplit,
  NotInFootage,
  splitClip,
} from './clips';
import { db, tables } from '../database';
import { makeLook } from '../looks/versions';
import { aLook, aProject, clipsIn, useDatabase } from '../testing/database';

useDatabase();
const { clips, projects } = tables;

const clipOf = async (id: string) => (await db().select().from(clips).where(eq(clips.id, id)))[0]!;
const inOrder = (project: string) =>
  db().select().from(clips).where(eq(clips.projectId, project)).orderBy(asc(clips.place));
const named = (clip: string, was: string, to: string): ClipEdit => ({
  clip,
  was: { name: was },
  to: { name: to },
});

describe('edits of clips', () => {
  it('change what they say and nothing else', async () => {
    const project = await aProject(),
      [a, b] = await clipsIn(project, ['gulls', 'kelp']);
    expect(await editClips(project, [named(a!, 'gulls', 'birds')])).toBe(1);
    expect(await clipOf(a!)).toMatchObject({
      name: 'birds',
      decided: { status: 'open', note: '' },
    });
    expect((await clipOf(b!)).name).toBe('kelp');
  });

  it('are done all or not at all', async () => {
    const project = await aProject(),
      [a, b] = await clipsIn(project, ['gulls', 'kelp']);
    const edits = [named(a!, 'gulls', 'birds'), named(b!, 'weed', 'leaves')];
    await expect(editClips(project, edits)).rejects.toThrow(
      new ChangedMeanwhile('kelp has another name'),
    );
    expect((await inOrder(project)).map((c) => c.name)).toEqual(['gulls', 'kelp']);
  });

  it('are refused where a clip has gone, or is another project’s', async () => {
    const [mine, other] = [await aProject(), await aProject()];
    const [theirs] = await clipsIn(other, ['gulls']);
    await expect(editClips(mine, [named(theirs!, 'gulls', 'birds')])).rejects.toThrow(
      'a clip has gone',
    );
    expect((await clipOf(theirs!)).name).toBe('gulls');
  });

  it('of different things about one clip do not hinder each other', async () => {
    const project = await aProject(),
      [a] = await clipsIn(project, ['gulls']);
    await editClips(project, [{ clip: a!, was: { note: '' }, to: { note: 'late' } }]);
    await editClips(project, [{ clip: a!, was: { status: 'open' }, to: { status: 'agreed' } }]);
    expect(await clipOf(a!)).toMatchObject({
      decided: { note: 'late', status: 'agreed' },
    });
  });

  it('of one thing: of two that saw the same only the first is done', async () => {
    const project = await aProject(),
      [a] = await clipsIn(project, ['gulls']);
    const edit = (to: string): Promise<number> => editClips(project, [named(a!, 'gulls', to)]);
    const ends = await Promise.allSettled([edit('one'), edit('two')]);
    expect(ends.map((e) => e.status).sort()).toEqual(['fulfilled', 'rejected']);
    const refused = ends.find((e) => e.status === 'rejected') as PromiseRejectedResult;
    expect(refused.reason).toBeInstanceOf(ChangedMeanwhile);
  });

  it('are taken back by what they replaced', async () => {
    const project = await aProject(),
      [a] = await clipsIn(project, ['gulls']);
    const { versionId } = await makeLook(aLook());
    const pins = { hit: [{ frame: 12 }] };
    const to = { version: versionId, pins, trims: { x: { warm: 3 } } };
    const was = { version: null, pins: {}, trims: {} };
    await editClips(project, [{ clip: a!, was, to }]);
    expect(await clipOf(a!)).toMatchObject({ lookVersionId: versionId, decided: { pins } });
    await editClips(project, [{ clip: a!, was: to, to: was }]);
    expect(await clipOf(a!)).toMatchObject({
      lookVersionId: null,
      decided: { pins: {}, trims: {} },
    });
  });

  it('put no out beyond the file’s last frame', async () => {
    const project = await aProject(),
      [a] = await clipsIn(project, ['gulls']);
    const until = (out: number): Promise<number> =>
      editClips(project, [{ clip: a!, was: { inOut: null }, to: { inOut: { in: 3, out } } }]);
    await expect(until(80)).rejects.toThrow(new NotInFootage('gulls’s file has frames 0 to 79'));
    await until(79);
    expect((await clipOf(a!)).decided.inOut).toEqual({ in: 3, out: 79 });
  });

  it('say that the project was touched', async () => {
    const project = await aProject(),
      [a] = await clipsIn(project, ['gulls']);
    const touched = async (): Promise<Date> =>
      (await db().select().from(projects).where(eq(projects.id, project)))[0]!.touched;
    const before = await touched();
    await editClips(project, [named(a!, 'gulls', 'birds')]);
    expect((await touched()).getTime()).toBeGreaterThan(before.getTime());
  });
});

describe('a clip that is split', () => {
  it('ends before the first of the frames; those split off follow it with what it had', async () => {
    const project = await aProject(),
      [a] = await clipsIn(project, ['gulls', 'kelp']);
    const pins = { hit: [{ frame: 40 }] };
    await editClips(project, [{ clip: a!, was: { pins: {} }, to: { pins } }]);
    const made = await splitClip(a!, [50, 20, 20]);
    expect(made).toHaveLength(2);
    const all = await inOrder(project);
    expect(all.map((c) => [c.name, c.decided.inOut])).toEqual([
      ['gulls', { in: 0, out: 19 }],
      ['gulls 2', { in: 20, out: 49 }],
      ['gulls 3', { in: 50, out: 79 }],
      ['kelp', null],
    ]);
    expect(all[2]!.decided.pins).toEqual(pins);
    expect(all.map((c) => c.decided.chance)).toEqual(
      [0, 20, 50, 0].map((from) => ({ number: 0, from })),
    );
    expect(all[2]!.hash).toBe(all[0]!.hash);
  });

  it('is split within its in and out alone', async () => {
    const project = await aProject(),
      [a] = await clipsIn(project, ['gulls']);
    await editClips(project, [
      { clip: a!, was: { inOut: null }, to: { inOut: { in: 10, out: 30 } } },
    ]);
    await expect(splitClip(a!, [5, 10, 31])).rejects.toThrow(NothingToSplit);
    await splitClip(a!, [5, 11, 31]);
    expect((await inOrder(project)).map((c) => c.decided.inOut)).toEqual([
      { in: 10, out: 10 },
      { in: 11, out: 30 },
    ]);
  });

  it('or doubled must be there', async () => {
    const nobody = '00000000-0000-4000-8000-000000000000';
    expect(await splitClip(nobody, [4])).toBeUndefined();
    expect(await doubleClip(nobody)).toBeUndefined();
  });
});

describe('a clip once more', () => {
  it('lies behind the one it was, with the same stretch and a name of its own', async () => {
    const project = await aProject(),
      [a] = await clipsIn(project, ['gulls', 'kelp']);
    await editClips(project, [
      { clip: a!, was: { inOut: null }, to: { inOut: { in: 4, out: 9 } } },
    ]);
    await doubleClip(a!);
    await doubleClip(a!);
    const all = await inOrder(project);
    expect(all.map((c) => c.name)).toEqual(['gulls', 'gulls again', 'gulls again', 'kelp']);
    expect(all.slice(0, 3).map((c) => c.decided.inOut)).toEqual(Array(3).fill({ in: 4, out: 9 }));
    // Each has a chance of its own, so that they do not flutter alike.
    expect(all.slice(0, 3).map((c) => c.decided.chance.number)).toEqual([0, 2, 1]);
  });
});
