/** Takes shot to playback, and a new mix, are found in the song; what was found is kept. */
import { execFileSync } from 'node:child_process';
import { join } from 'node:path';
import { afterAll, expect, it } from 'vitest';
import { SURE } from '../../core';
import { runImport } from '../footage/import-job';
import { importPath } from '../footage/imports';
import { soundsOf } from '../sounds/sounds';
import { scratch, sweep } from '../testing/awkward';
import { aProject, clipsIn, useDatabase } from '../testing/database';
import { alignmentIn } from './alignments';

useDatabase();
const folder = scratch();
afterAll(() => sweep(folder));
const SONG = 'demo/sounds/harbour-static.flac';
const made = (name: string, from: number, seconds: number, filters: string): string => {
  const file = join(folder, `${name}.wav`);
  const cut = ['-ss', String(from), '-t', String(seconds), '-i', SONG];
  execFileSync('ffmpeg', ['-v', 'error', ...cut, '-af', filters, '-ac', '1', file]);
  return file;
};
/** A microphone in a room: dull, with an echo and noise, its clock off by a thousandth. */
const ROOM = 'asetrate=48048,aresample=48000,lowpass=3000,aecho=0.8:0.6:23:0.4,volume=0.3';

it('three takes lie in step within ten milliseconds, whatever their clocks', async () => {
  const project = await aProject();
  const takes = [
    ['one', 2.61, 8],
    ['two', 5.137, 7],
    ['three', 8.33, 5.5],
  ] as const;
  for (const path of [SONG, ...takes.map(([n, from, long]) => made(n, from, long, ROOM))])
    await runImport(await importPath(project, path));
  const sounds = await soundsOf(project),
    id = (name: string) => sounds.find((s) => s.name === name)!.id;
  for (const [name, from, long] of takes) {
    const lies = (await alignmentIn(
      project,
      { sound: id(name) },
      { sound: id('harbour-static') },
    ))!;
    // A take that ran fast holds more of the song in each of its seconds.
    for (const t of [0, long / 2, long - 0.1])
      expect(Math.abs(lies.offset + t * (1 + lies.drift) - from - t * 1.001)).toBeLessThan(0.01);
    expect(lies.sure).toBeGreaterThan(SURE);
    expect(
      await alignmentIn(project, { sound: id(name) }, { sound: id('harbour-static') }),
    ).toEqual(lies);
  }
}, 90_000);
it('what is not there is told from what cannot be heard', async () => {
  const project = await aProject(),
    [silent] = await clipsIn(project, ['silent']);
  await runImport(await importPath(project, 'demo/sounds/shutter.flac'));
  const [shutter] = await soundsOf(project);
  expect(await alignmentIn(project, { clip: silent! }, { sound: shutter!.id })).toBeNull();
  expect(
    await alignmentIn(
      project,
      { sound: shutter!.id },
      { sound: '00000000-0000-4000-8000-000000000000' },
    ),
  ).toBeUndefined();
});
