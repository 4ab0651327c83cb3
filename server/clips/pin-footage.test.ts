/** The footage that a clip's pins name, as it is when it is read. */
import { eq, inArray } from 'drizzle-orm';
import { expect, it } from 'vitest';
import type { ClipPins, LookDocument } from '../../core';
import { db, tables } from '../database';
import { keptDecisions } from '../database/columns';
import { aLook, aProject, clipsIn, useDatabase } from '../testing/database';
import { pinFootageOf } from './pin-footage';

useDatabase();
const { clips } = tables;
const hashesOf = async (ids: readonly string[]): Promise<string[]> => {
  const rows = await db()
    .select()
    .from(clips)
    .where(inArray(clips.id, [...ids]));
  return ids.map((id) => rows.find((r) => r.id === id)!.hash);
};
const asking: LookDocument = {
  ...aLook('Double exposure'),
  pins: [
    { key: 'second', label: 'Second', kind: 'footage', many: false },
    { key: 'third', label: 'Third', kind: 'footage', many: false },
    { key: 'eyes', label: 'Eyes', kind: 'point', many: false },
  ] as never,
};
const showing = (hash: string): ClipPins => ({ second: [{ hash, start: 0, speed: 1 }] });

it('is found by the pin’s key, as the clip is read now', async () => {
  const project = await aProject();
  const ids = await clipsIn(project, ['gulls', 'kelp']);
  const [, kelp] = await hashesOf(ids);
  await db()
    .update(clips)
    .set({ decided: keptDecisions({ encoding: 'acescct' }) })
    .where(eq(clips.id, ids[1]!));
  expect(await pinFootageOf(project, asking, showing(kelp!))).toMatchObject({
    second: { hash: kelp, encoding: 'acescct', role: 'clip' },
  });
});

it('is nothing where the look asks for none, names a point, or the clip has set none', async () => {
  const project = await aProject();
  const [gulls] = await hashesOf(await clipsIn(project, ['gulls']));
  expect(await pinFootageOf(project, aLook(), showing(gulls!))).toEqual({});
  expect(await pinFootageOf(project, null, showing(gulls!))).toEqual({});
  expect(await pinFootageOf(project, asking, {})).toEqual({});
  expect(await pinFootageOf(project, asking, { eyes: [{ x: 0.5, y: 0.5 }] })).toEqual({});
});

it('is nothing of another project, or once it has left this one', async () => {
  const [mine, other] = [await aProject(), await aProject()];
  const ids = await clipsIn(mine, ['gulls']);
  const [gulls] = await hashesOf(ids);
  expect(await pinFootageOf(other, asking, showing(gulls!))).toEqual({});
  await db().delete(clips).where(eq(clips.id, ids[0]!));
  expect(await pinFootageOf(mine, asking, showing(gulls!))).toEqual({});
});
