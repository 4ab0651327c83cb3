/** `cut`: a whole cut from files, without a database. */
import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { afterAll, expect, it } from 'vitest';
import { type CutDocument, cutting, emptyCut } from '../core';
import { cli } from './testing';

const folder = mkdtempSync(join(tmpdir(), 'cut-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));
const [GULLS, TOM, SONG] = [1, 2, 3].map((n) => `00000000-0000-4000-8000-00000000000${n}`) as [
  string,
  string,
  string,
];
const document = (): CutDocument =>
  cutting.withSound(
    cutting.withPlaces(
      cutting.placed(emptyCut(), 'row', 0, [
        { clip: GULLS, in: 10, frames: 8 },
        { clip: TOM, in: 20, frames: 8 },
      ]),
      ['place-2'],
      (p) => ({ ...p, at: 6, enters: { look: 'mix' } }),
    ),
    { sound: SONG, at: 0, from: 0, samples: 26_880, level: 0 },
  );
function written(cut: unknown, more: object = {}): string {
  const file = join(folder, 'cut.json');
  const from = (path: string): string => resolve(path);
  writeFileSync(
    file,
    JSON.stringify({
      ...{ rate: 25, width: 96, height: 54, cut },
      clips: {
        [GULLS]: { file: from('demo/footage/gulls.mp4'), look: 'late-gold' },
        [TOM]: { file: from('demo/footage/floor-tom.mp4') },
      },
      sounds: { [SONG]: from('demo/sounds/harbour-static.flac') },
      ...more,
    }),
  );
  return file;
}
const ffmpeg = (...args: string[]): Buffer =>
  execFileSync('ffmpeg', ['-v', 'error', ...args], { maxBuffer: 2 ** 28 });
const hashes = (file: string): string[] =>
  ffmpeg('-i', file, '-map', '0:v', '-f', 'framemd5', '-')
    .toString()
    .split('\n')
    .flatMap((l) => (l && !l.startsWith('#') ? [l.split(',').at(-1)!.trim()] : []));

it('renders its places as clips are rendered alone, and its song sample for sample', async () => {
  const out = join(folder, 'cut.mkv'),
    alone = join(folder, 'alone.mkv');
  const made = await cli('cut', '--in', written(document()), '--out', out, '--quiet');
  expect(made).toMatchObject({ code: 0, err: '' });
  expect(made.out).toContain('14 frames of 96x54');
  const all = hashes(out);
  expect(all).toHaveLength(14);
  await cli(
    ...['render', '--in', 'demo/footage/gulls.mp4', '--look', 'late-gold', '--out', alone],
    ...['--in-out', '10-17', '--size', '96x54', '--out-encoding', 'bt709', '--quiet'],
  );
  expect(hashes(alone).slice(0, 6)).toEqual(all.slice(0, 6));
  // Two frames of both, unlike either.
  expect(all.slice(6, 8)).not.toEqual(hashes(alone).slice(6));
  const pcm = (file: string): Buffer =>
    ffmpeg('-i', file, '-map', '0:a', '-f', 's16le', '-ac', '2', '-');
  const mine = pcm(out);
  expect(mine.length).toBe(26_880 * 4);
  expect(mine.equals(pcm('demo/sounds/harbour-static.flac').subarray(0, mine.length))).toBe(true);

  // A part is that part, with its sound.
  const part = join(folder, 'part.mkv');
  await cli('cut', '--in', written(document()), '--out', part, '--frames', '5-9', '--quiet');
  expect(hashes(part)).toEqual(all.slice(5, 10));
  expect(pcm(part).equals(mine.subarray(5 * 1920 * 4, 10 * 1920 * 4))).toBe(true);
}, 90_000);

it.each([
  ['no rate', { rate: undefined }, /rate must be frames a second/],
  ['a clip that is not there', { clips: {} }, /names the clip/],
  ['a clip without a file', { clips: { [GULLS]: {}, [TOM]: {} } }, /must have a file/],
  ['an odd size for MP4', { width: 97 }, /even/],
])('says what is wrong: %s', async (_, more, words) => {
  const ended = await cli('cut', '--in', written(document(), more), '--out', join(folder, 'x.mp4'));
  expect(ended.code).toBe(2);
  expect(ended.err).toMatch(words);
});
it('says where a document is wrong, and refuses what is no video', async () => {
  const bad = JSON.parse(JSON.stringify(document())) as {
    rows: { places: { frames: number }[] }[];
  };
  bad.rows[0]!.places[0]!.frames = 0;
  expect((await cli('cut', '--in', written(bad), '--out', join(folder, 'x.mkv'))).err).toMatch(
    /rows\[0\]\.places\[0\]\.frames/,
  );
  expect((await cli('cut', '--in', written(document()), '--out', folder)).err).toMatch(
    /must end in/,
  );
});
