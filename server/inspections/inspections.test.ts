/** Inspections: only what has changed is measured; stopping; starting again. */
import { eq } from 'drizzle-orm';
import { describe, expect, it } from 'vitest';
import { editClips } from '../clips/clips';
import { db, tables } from '../database';
import { queueInspections, stopInspections } from './inspections';
import { clipSpeeds, queueMotion, stopMotion } from '../footage/motion';
import { aProject, clipsIn, useDatabase } from '../testing/database';

useDatabase();
const { clips, derivedAssets, inspections } = tables;
const NOT_THERE = '00000000-0000-4000-8000-000000000000';
const jobs = async (name: string): Promise<number> => {
  const { rows } = await db().execute<{ n: string }>(
    `select count(*) as n from pgboss.job where name = '${name}'`,
  );
  return Number(rows[0]!.n);
};

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

describe('motion', () => {
  const assetOf = async (clip: string) => {
    const [row] = await db().select().from(clips).where(eq(clips.id, clip));
    return (await db().select().from(derivedAssets).where(eq(derivedAssets.hash, row!.hash)))[0];
  };

  it('is queued once for all clips of one footage', async () => {
    const project = await aProject(),
      [a] = await clipsIn(project, ['gulls']);
    const [row] = await db().select().from(clips).where(eq(clips.id, a!));
    const { id: _, ...same } = row!;
    const [again] = await db().insert(clips).values(same).returning({ id: clips.id });
    const before = await jobs('motion');
    expect(await queueMotion(a!, 12)).toBe(true);
    expect(await queueMotion(again!.id, 0)).toBe(true);
    expect((await jobs('motion')) - before).toBe(1);
    expect(await assetOf(a!)).toMatchObject({ kind: 'motion', state: 'waiting' });
  });

  it('that was stopped is queued again', async () => {
    const project = await aProject(),
      [a] = await clipsIn(project, ['gulls']);
    await queueMotion(a!, 0);
    expect(await stopMotion(a!)).toBe(true);
    expect((await assetOf(a!))!.state).toBe('cancelled');
    await queueMotion(a!, 0);
    expect((await assetOf(a!))!.state).toBe('waiting');
  });

  it('of a clip that is not there is not measured', async () => {
    expect(await queueMotion(NOT_THERE, 0)).toBe(false);
    expect(await stopMotion(NOT_THERE)).toBe(false);
    expect(await clipSpeeds(NOT_THERE)).toBeUndefined();
  });
});
