/** Projects, looks and their versions, and who goes on to a new one. */
import { eq } from 'drizzle-orm';
import { describe, expect, it } from 'vitest';
import { editClips } from './clips';
import { db, tables } from './database';
import { dropPiece, keepPiece, pieceList } from './pieces';
import {
  changeProject,
  copyProject,
  InUse,
  lookList,
  makeLook,
  MoreFollow,
  openImport,
  Outdated,
  projectList,
  queueImport,
  removeVersion,
  saveVersion,
  uploadName,
  versionOf,
  versionsExist,
} from './projects';
import { aLook, aProject, clipsIn, useDatabase } from './testing/database';

useDatabase();
const { clips } = tables;
const NOBODY = { follow: [], stay: [] };
const NOT_THERE = '00000000-0000-4000-8000-000000000000';
const wear = (project: string, ids: readonly string[], version: string): Promise<number> =>
  editClips(
    project,
    ids.map((clip) => ({ clip, was: { version: null }, to: { version } })),
  );
const clipOf = async (id: string) => (await db().select().from(clips).where(eq(clips.id, id)))[0]!;

describe('projects', () => {
  it('are listed with how many clips each has, the last touched first', async () => {
    const [a, b] = [await aProject('First'), await aProject('Second')];
    await clipsIn(a, ['gulls', 'kelp']);
    await changeProject(a, { name: 'First again' });
    const list = (await projectList()).filter((p) => p.id === a || p.id === b);
    expect(list.map((p) => [p.name, Number(p.clips)])).toEqual([
      ['First again', 2],
      ['Second', 0],
    ]);
  });

  it('are removed and put back', async () => {
    const id = await aProject();
    const removed = async (): Promise<Date | null> =>
      (await projectList()).find((p) => p.id === id)!.removed;
    await changeProject(id, { removed: true });
    expect(await removed()).toBeInstanceOf(Date);
    await changeProject(id, { removed: false });
    expect(await removed()).toBeNull();
    expect(await changeProject(NOT_THERE, { removed: true })).toBe(false);
  });

  it('are copied with all that is decided about their clips', async () => {
    const id = await aProject('Whole'),
      [a] = await clipsIn(id, ['gulls']);
    const { versionId } = await makeLook(aLook());
    await wear(id, [a!], versionId);
    const copy = await copyProject(id);
    const [made] = await db().select().from(clips).where(eq(clips.projectId, copy!));
    expect(made).toMatchObject({ name: 'gulls', lookVersionId: versionId });
    expect(made!.id).not.toBe(a);
    expect((await projectList()).find((p) => p.id === copy)!.name).toBe('Whole copy');
    expect(await copyProject(NOT_THERE)).toBeUndefined();
  });
});

describe('an upload', () => {
  it('is handed to a worker once', async () => {
    const id = await openImport(await aProject(), 'gulls.mp4', ['gulls.mp4']);
    expect(await queueImport(id)).toBe(true);
    expect(await queueImport(id)).toBe(false);
    expect(await queueImport(NOT_THERE)).toBeUndefined();
  });

  it.each([
    ['gulls.MP4', 3, '000003.mp4'],
    ['no ending', 0, '000000'],
    ['../../etc/passwd.d/x.png', 12, '000012.png'],
    ['strange.e/nd', 1, '000001'],
  ])('of %s lies under a name of ours', (name, index, path) => {
    expect(uploadName(name, index)).toBe(path);
  });
});

describe('versions of a look', () => {
  it('are numbered on, and never change', async () => {
    const first = await makeLook(aLook('Plain'));
    const second = await saveVersion(first.lookId, aLook('Plainer'), 1, NOBODY);
    expect([first.number, second.number]).toEqual([1, 2]);
    expect((await versionOf(first.versionId))!.document.name).toBe('Plain');
    expect(await versionsExist([first.versionId, second.versionId])).toBe(true);
    expect(await versionsExist([first.versionId, NOT_THERE])).toBe(false);
    const listed = (await lookList(500, 0)).find((l) => l.id === first.lookId)!;
    expect([listed.name, ...listed.versions.map((v) => v.number)]).toEqual(['Plainer', 2, 1]);
  });

  it('are saved over the newest alone', async () => {
    const { lookId } = await makeLook(aLook());
    await saveVersion(lookId, aLook(), 1, NOBODY);
    await expect(saveVersion(lookId, aLook(), 1, NOBODY)).rejects.toMatchObject({ newest: 2 });
    await expect(saveVersion(NOT_THERE, aLook(), 1, NOBODY)).rejects.toThrow(Outdated);
  });

  it('are saved one after the other: of two at once one is outdated', async () => {
    const { lookId } = await makeLook(aLook());
    const ends = await Promise.allSettled(
      [1, 2].map(() => saveVersion(lookId, aLook(), 1, NOBODY)),
    );
    expect(ends.map((e) => e.status).sort()).toEqual(['fulfilled', 'rejected']);
  });

  it('take the clips along that were said to go, and leave the others where they are', async () => {
    const project = await aProject(),
      [a, b, c] = await clipsIn(project, ['gulls', 'kelp', 'skyline']);
    const { lookId, versionId } = await makeLook(aLook());
    await wear(project, [a!, b!], versionId);
    const saved = await saveVersion(lookId, aLook(), 1, { follow: [a!], stay: [b!] });
    expect(await clipOf(a!)).toMatchObject({ lookVersionId: saved.versionId, follows: true });
    expect(await clipOf(b!)).toMatchObject({ lookVersionId: versionId, follows: false });
    expect(await clipOf(c!)).toMatchObject({ lookVersionId: null });
    // One that stays is asked no more.
    await saveVersion(lookId, aLook(), 2, { follow: [a!], stay: [] });
  });

  it('are not saved over the heads of clips that nobody was shown', async () => {
    const project = await aProject(),
      [a] = await clipsIn(project, ['gulls']);
    const { lookId, versionId } = await makeLook(aLook());
    await wear(project, [a!], versionId);
    await expect(saveVersion(lookId, aLook(), 1, NOBODY)).rejects.toThrow(
      new MoreFollow(['gulls']),
    );
    expect((await lookList(500, 0)).find((l) => l.id === lookId)!.versions).toHaveLength(1);
  });

  it('are removed and put back, but for one that is worn and the only one', async () => {
    const project = await aProject(),
      [a] = await clipsIn(project, ['gulls']);
    const { lookId, versionId } = await makeLook(aLook());
    await expect(removeVersion(versionId, true)).rejects.toThrow(/only version/);
    const second = await saveVersion(lookId, aLook(), 1, NOBODY);
    await wear(project, [a!], versionId);
    await expect(removeVersion(versionId, true)).rejects.toThrow(
      new InUse('It is on gulls: put another version on there first.'),
    );
    expect(await removeVersion(second.versionId, true)).toBe(true);
    // Its number is not given again.
    const third = await saveVersion(lookId, aLook(), 1, { follow: [a!], stay: [] });
    expect(third.number).toBe(3);
    expect(await removeVersion(second.versionId, false)).toBe(true);
    const { versions, removed } = (await lookList(500, 0)).find((l) => l.id === lookId)!;
    expect([versions.map((v) => v.number), removed]).toEqual([[3, 2, 1], []]);
    expect(await removeVersion(NOT_THERE, true)).toBe(false);
  });
});

describe('kept pieces', () => {
  it('are listed by name, and go', async () => {
    const [b, a] = [await keepPiece(aLook('Beta')), await keepPiece(aLook('Alpha'))];
    const names = async (): Promise<string[]> =>
      (await pieceList()).filter((p) => p.id === a || p.id === b).map((p) => p.name);
    expect(await names()).toEqual(['Alpha', 'Beta']);
    expect(await dropPiece(a)).toBe(true);
    expect(await names()).toEqual(['Beta']);
    expect(await dropPiece(a)).toBe(false);
  });
});
