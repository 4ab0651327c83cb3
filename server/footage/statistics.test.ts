/** The statistics of footage, and that they are measured once. */
import { eq } from 'drizzle-orm';
import { describe, expect, it } from 'vitest';
import { db, tables } from '../database';
import { aProject, clipsIn, useDatabase } from '../testing/database';
import { queueMeasure, samplingKey, statisticsOf, stretchKey } from './statistics';

useDatabase();

it('a stretch and a way of reading samples have names, and the usual ones none', () => {
  expect([stretchKey(null), stretchKey(undefined), stretchKey({ in: 4, out: 9 })]).toEqual([
    '',
    '',
    '4-9',
  ]);
  expect(samplingKey(null)).toBe('');
  expect(samplingKey({})).toBe('');
  expect(samplingKey({ fields: 'top', matrix: 'bt601' })).toBe('matrix=bt601,fields=top');
  expect(samplingKey({ matrix: 'bt601', fields: 'top' })).toBe('matrix=bt601,fields=top');
});

describe('measuring', () => {
  const waiting = async (hash: string): Promise<number> => {
    const { rows } = await db().execute<{ n: string }>(
      `select count(*) as n from pgboss.job where name = 'measure' and data->>'hash' = '${hash}'`,
    );
    return Number(rows[0]!.n);
  };
  const footageOf = async (): Promise<string> => {
    const [clip] = await clipsIn(await aProject(), ['gulls']);
    const [row] = await db().select().from(tables.clips).where(eq(tables.clips.id, clip!));
    return row!.hash;
  };

  it('is asked for once of the same footage, read in the same way', async () => {
    const hash = await footageOf();
    await queueMeasure([{ hash, encoding: 'srgb' }]);
    await queueMeasure([{ hash, encoding: 'srgb', sampling: null, inOut: null }]);
    expect(await waiting(hash)).toBe(1);
    await queueMeasure([
      { hash, encoding: 'bt709' },
      { hash, encoding: 'srgb', sampling: { matrix: 'bt601' } },
      { hash, encoding: 'srgb', inOut: { in: 0, out: 9 } },
    ]);
    expect(await waiting(hash)).toBe(4);
    await queueMeasure([]);
  });

  it('is not asked for again once it is known, unless cuts were never looked for', async () => {
    const hash = await footageOf();
    await db()
      .insert(tables.clipStatistics)
      .values({ hash, encoding: 'srgb', sampling: '', stretch: '', statistics: {} as never });
    await queueMeasure([{ hash, encoding: 'srgb' }]);
    expect(await waiting(hash)).toBe(1);
    await db().update(tables.footage).set({ cuts: [] }).where(eq(tables.footage.hash, hash));
    await db().execute(`delete from pgboss.job where name = 'measure'`);
    await queueMeasure([{ hash, encoding: 'srgb' }]);
    expect(await waiting(hash)).toBe(0);
  });

  it('each part of one long file is given its own, and its own alone is read', async () => {
    const hash = await footageOf();
    const parts = Array.from({ length: 300 }, (_, i) => ({ in: i * 10, out: i * 10 + 9 }));
    await db()
      .insert(tables.clipStatistics)
      .values(
        parts.map((inOut) => ({
          hash,
          encoding: 'srgb' as const,
          stretch: stretchKey(inOut),
          statistics: { plate: { black: inOut.in, white: 1 } } as never,
        })),
      );
    const asked = parts.map((inOut, i) => ({
      id: `part ${i}`,
      hash,
      encoding: 'srgb' as const,
      inOut,
    }));
    const found = await statisticsOf([...asked, { id: 'whole', hash, encoding: 'srgb' }]);
    expect(found.size).toBe(300);
    expect(found.get('part 217')?.plate?.black).toBe(2170);
    expect(found.has('whole')).toBe(false);
    expect((await statisticsOf([])).size).toBe(0);
  });
});
