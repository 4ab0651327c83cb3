/** Projects, looks and versions, and which clips follow a new version. */
import { eq } from 'drizzle-orm';
import { describe, expect, it } from 'vitest';
import { editClips } from '../clips/clips';
import { db, tables } from '../database';
import { changeProject, copyProject, projectList } from './projects';
import { makeLook } from '../looks/versions';
import { aLook, aProject, clipsIn, useDatabase } from '../testing/database';

useDatabase();
const { clips } = tables;
const NOT_THERE = '00000000-0000-4000-8000-000000000000';
const wear = (project: string, ids: readonly string[], version: string): Promise<number> =>
  editClips(
    project,
    ids.map((clip) => ({ clip, was: { version: null }, to: { version } })),
  );

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
