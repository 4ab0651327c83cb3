/** Looks and their versions, which clips follow a new version, and kept pieces. */
import { eq } from 'drizzle-orm';
import { describe, expect, it } from 'vitest';
import { editClips } from '../clips/clips';
import { db, tables } from '../database';
import { aLook, aProject, clipsIn, useDatabase } from '../testing/database';
import { dropPiece, keepPiece, pieceList } from './pieces';
import {
  InUse,
  lookList,
  makeLook,
  MoreFollow,
  Outdated,
  removeVersion,
  saveVersion,
  versionOf,
  versionsExist,
} from './versions';

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
    expect(await clipOf(a!)).toMatchObject({
      lookVersionId: saved.versionId,
      decided: { follows: true },
    });
    expect(await clipOf(b!)).toMatchObject({
      lookVersionId: versionId,
      decided: { follows: false },
    });
    expect(await clipOf(c!)).toMatchObject({ lookVersionId: null });
    // A clip that stays is not asked again.
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
    // A version's number is never used again.
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
