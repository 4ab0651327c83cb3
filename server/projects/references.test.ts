/** Kept references: their pictures, what they showed, and their statistics. */
import { eq } from 'drizzle-orm';
import sharp from 'sharp';
import { describe, expect, it } from 'vitest';
import { db, tables } from '../database';
import { aLook, aProject, clipsIn, useDatabase } from '../testing/database';
import { makeLook } from '../looks/versions';
import {
  dropReference,
  keepReference,
  type NewReference,
  pictureOf,
  referencesOf,
  statisticsOfReference,
} from './references';

useDatabase();
const NOT_THERE = '00000000-0000-4000-8000-000000000000';
/** A grey picture, as PNG. */
const grey = (value: number): Promise<Buffer> =>
  sharp({
    create: { width: 32, height: 18, channels: 3, background: { r: value, g: value, b: value } },
  })
    .png()
    .toBuffer();
async function aReference(name: string, more: Partial<NewReference> = {}): Promise<NewReference> {
  const projectId = more.projectId ?? (await aProject());
  const [clipId] = await clipsIn(projectId, ['gulls']);
  return {
    ...{ projectId, name, clipId: clipId!, clipName: 'gulls', frame: 12, versionId: null },
    document: aLook('As it was'),
    ...more,
  };
}

describe('a kept reference', () => {
  it('is its picture, and what it showed, with the version it was made from', async () => {
    const { versionId } = await makeLook(aLook('Plain'));
    const kept = await aReference('Deck', { versionId });
    const picture = await grey(128);
    const id = await keepReference(kept, picture);
    expect(Buffer.compare((await pictureOf(id))!, picture)).toBe(0);
    const [row, ...more] = await referencesOf(kept.projectId);
    expect(more).toEqual([]);
    expect(row).toMatchObject({
      reference: { id, name: 'Deck', frame: 12, clipName: 'gulls' },
      number: 1,
      saved: { name: 'Plain' },
    });
  });

  it('stands before older ones, in its own project alone', async () => {
    const first = await aReference('First');
    await keepReference(first, await grey(10));
    await keepReference({ ...first, name: 'Second' }, await grey(20));
    await keepReference(await aReference('Elsewhere'), await grey(30));
    const names = (await referencesOf(first.projectId)).map((r) => r.reference.name);
    expect(names).toEqual(['Second', 'First']);
  });

  it('is measured once: as light as it is, and without a colour', async () => {
    const [dark, light] = await Promise.all(
      [60, 190].map(async (v) => keepReference(await aReference('Grey'), await grey(v))),
    );
    const of = async (id: string) => (await statisticsOfReference(id))!;
    const [a, b] = [await of(dark!), await of(light!)];
    expect(a.tones.p50).toBeCloseTo(60 / 255, 1);
    expect(b.tones.p50).toBeCloseTo(190 / 255, 1);
    expect(a.tones.p50).toBeLessThan(b.tones.p50);
    // It is known by now, so its picture is not sent again.
    await db()
      .update(tables.keptReferences)
      .set({ picture: 'references/gone.png' })
      .where(eq(tables.keptReferences.id, dark!));
    expect(await of(dark!)).toEqual(a);
    expect(await pictureOf(dark!)).toBeUndefined();
  });

  it('goes, and another of the same picture keeps it', async () => {
    const kept = await aReference('Once'),
      picture = await grey(77);
    const [one, two] = [await keepReference(kept, picture), await keepReference(kept, picture)];
    expect(await dropReference(one)).toBe(true);
    expect(await dropReference(one)).toBe(false);
    expect(await pictureOf(one)).toBeUndefined();
    expect(Buffer.compare((await pictureOf(two))!, picture)).toBe(0);
    expect(await statisticsOfReference(NOT_THERE)).toBeUndefined();
  });
});
