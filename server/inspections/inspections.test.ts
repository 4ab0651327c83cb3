/** Inspections: only what has changed is measured; stopping; starting again. */
import { eq } from 'drizzle-orm';
import { describe, expect, it } from 'vitest';
import { editClips } from '../clips/clips';
import { db, tables } from '../database';
import { queueInspections, stopInspections } from './inspections';
import { aProject, clipsIn, useDatabase } from '../testing/database';

useDatabase();
const { inspections } = tables;

describe('inspections', () => {
  it('are queued for clips that changed since, and for no others', async () => {
    const project = await aProject(),
      [a, b] = await clipsIn(project, ['gulls', 'kelp']);
    expect(await queueInspections(project, [a!, b!], false)).toBe(2);
    expect(await queueInspections(project, [a!, b!], false)).toBe(0);
    const to = { encoding: 'cineon' as const };
    await editClips(project, [{ clip: a!, was: { encoding: 'srgb' }, to }]);
    expect(await queueInspections(project, [a!, b!], false)).toBe(1);
  });

  it('are not owed by what shows in no picture', async () => {
    const project = await aProject(),
      [a] = await clipsIn(project, ['gulls']);
    await queueInspections(project, [a!], false);
    const was = { note: '', scene: '' },
      to = { note: 'seen', scene: 'pier' };
    await editClips(project, [{ clip: a!, was, to }]);
    expect(await queueInspections(project, [a!], false)).toBe(0);
  });

  it('that were stopped are begun again only when asked', async () => {
    const project = await aProject(),
      [a] = await clipsIn(project, ['gulls']);
    await queueInspections(project, [a!], false);
    await stopInspections(project);
    const [row] = await db().select().from(inspections).where(eq(inspections.clipId, a!));
    expect(row!.state).toBe('cancelled');
    expect(await queueInspections(project, [a!], false)).toBe(0);
    expect(await queueInspections(project, [a!], true)).toBe(1);
  });

  it('of one project are not stopped with those of another', async () => {
    const [mine, other] = [await aProject(), await aProject()];
    const [[a], [b]] = [await clipsIn(mine, ['gulls']), await clipsIn(other, ['kelp'])];
    await queueInspections(mine, [a!], false);
    await queueInspections(other, [b!], false);
    await stopInspections(mine);
    const [row] = await db().select().from(inspections).where(eq(inspections.clipId, b!));
    expect(row!.state).toBe('waiting');
  });
});
