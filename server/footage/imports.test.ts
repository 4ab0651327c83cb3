/** Starting an import, the names of its files, and bringing in again what is there. */
import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import { eq } from 'drizzle-orm';
import { afterAll, describe, expect, it } from 'vitest';
import type { KeptGaps } from '../../core';
import { db, tables } from '../database';
import { frameOf } from '../media/decode';
import { run } from '../media/run';
import { scratch, sweep } from '../testing/awkward';
import { aProject, clipsIn, useDatabase } from '../testing/database';
import { runImport } from './import-job';
import { importGaps, importPath, openImport, queueImport, uploadName } from './imports';
import { openOriginal } from './original';

useDatabase();
const NOT_THERE = '00000000-0000-4000-8000-000000000000';

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

describe('a folder that lacks pictures', () => {
  const folder = scratch();
  afterAll(() => sweep(folder));
  /** Brings in what an import waits for; its clip with the footage's facts. */
  const broughtIn = async (id: string) => {
    await runImport(id);
    const done = await db().query.imports.findFirst({
      where: eq(tables.imports.id, id),
    });
    expect([done!.state, done!.error]).toEqual(['done', null]);
    const clip = await db().query.clips.findFirst({
      where: eq(tables.clips.id, done!.clipId!),
      with: { footage: true },
    });
    return clip!;
  };
  const again = async (clip: string, gaps: KeptGaps) => (await importGaps(clip, gaps))!;

  it('is brought in again with black there, beside the clip that holds the one before', async () => {
    const dir = join(folder, 'strip');
    mkdirSync(dir);
    for (const n of [4, 5, 7])
      await run('ffmpeg', [
        ...['-f', 'lavfi', '-i', 'color=c=0x808080:s=32x16', '-frames:v', '1'],
        join(dir, `shot_${String(n).padStart(4, '0')}.png`),
      ]);
    const project = await aProject();
    const held = await broughtIn(await importPath(project, dir));
    expect([held.footage.facts.gaps, held.footage.facts.sequence!.gaps]).toEqual([1, 'hold']);
    const black = await broughtIn(await again(held.id, 'black'));
    expect([black.name, black.footage.facts.gaps, black.footage.facts.sequence!.gaps]).toEqual([
      'strip with black',
      1,
      'black',
    ]);
    expect(black.footage.facts.sequence).toEqual({ gaps: 'black', sizes: 'fit' });
    expect(black.id).not.toBe(held.id);
    const values = await Promise.all(
      [held, black].map(async ({ hash }) => {
        const { place, facts } = await openOriginal(hash);
        return (await frameOf(place, facts, 2)).planes[0]![0];
      }),
    );
    expect(values).toEqual([0x80, 0]);
    // Back again it is the footage that was there first.
    const back = await again(black.id, 'hold');
    await runImport(back);
    const said = await db().query.imports.findFirst({ where: eq(tables.imports.id, back) });
    expect([said!.clipId, said!.error]).toEqual([
      held.id,
      'the same file is here already, as "strip"',
    ]);
  });

  it('is not made of a clip that lacks none', async () => {
    const [clip] = await clipsIn(await aProject(), ['gulls']);
    expect(await importGaps(clip!, 'black')).toBeNull();
    expect(await importGaps(NOT_THERE, 'black')).toBeUndefined();
  });
});
