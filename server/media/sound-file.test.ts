/** Sound files: what they hold, how loud they are, and what is refused. */
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { PEAK_ZOOMS, SOUND_RATE } from '../../core';
import { input, run } from './run';
import { isSoundFile, peaksFile, readSoundFile, SAMPLES_FILE } from './sound-file';
import { soundSamples } from './sound-samples';

const SONG = 'demo/sounds/harbour-static.flac';
interface SongTruth {
  readonly seconds: number;
  readonly beats: readonly number[];
  readonly bars: readonly number[];
  readonly loudness: {
    readonly integrated: number;
    readonly shortTerm: number;
    readonly truePeak: number;
  };
}
const truth = JSON.parse(readFileSync('demo/truth/harbour-static.song.json', 'utf8')) as SongTruth;

let folder: string;
beforeAll(() => void (folder = mkdtempSync(join(tmpdir(), 'sound-file-'))));
afterAll(() => rmSync(folder, { recursive: true, force: true }));
const made = async (name: string, ...args: string[]): Promise<string> => {
  const file = join(folder, name);
  await run('ffmpeg', [...args, file]);
  return file;
};
const TONE = ['-f', 'lavfi', '-i', 'sine=frequency=440:duration=2:sample_rate=44100'];

describe('the demo’s song', () => {
  it('has its length, and the loudness that another meter finds', async () => {
    const to = join(folder, 'song'),
      told: number[] = [];
    const facts = await readSoundFile(SONG, 'song', to, (share) => told.push(share));
    expect(facts).toMatchObject({ codec: 'flac', channels: 2, rate: 48_000, tracks: 1 });
    expect(facts.samples).toBe(truth.seconds * SOUND_RATE);
    expect(Math.abs(facts.integrated! - truth.loudness.integrated)).toBeLessThanOrEqual(0.1);
    expect(Math.abs(facts.shortTerm! - truth.loudness.shortTerm)).toBeLessThanOrEqual(0.1);
    expect(Math.abs(facts.truePeak! - truth.loudness.truePeak)).toBeLessThanOrEqual(0.2);
    expect(told.at(-1)).toBe(1);
    expect(told).toEqual([...told].sort((a, b) => a - b));
    // What is kept of it has the same samples.
    const [own, kept] = await Promise.all(
      [SONG, join(to, SAMPLES_FILE)].map((f) => soundSamples(input(f), 2)),
    );
    expect(kept).toEqual(own);
    for (const zoom of PEAK_ZOOMS)
      expect(readFileSync(join(to, peaksFile(zoom))).length).toBe(
        4 * Math.ceil(facts.samples / zoom),
      );
  });
  it('is louder on its first beats than right before them', async () => {
    const [left] = await soundSamples(input(SONG), 2);
    const power = (from: number): number => {
      const at = Math.round(from * SOUND_RATE);
      return left!.subarray(at, at + 2400).reduce((s, v) => s + v * v, 0);
    };
    expect(truth.beats).toHaveLength(40);
    const verse = truth.bars.slice(1, 6);
    for (const bar of verse) expect(power(bar)).toBeGreaterThan(4 * power(bar - 0.06));
  });
});

describe('other sound files', () => {
  it('at another rate are read at ours, and a cover’s picture is no footage', async () => {
    const cover = await made('cover.png', '-f', 'lavfi', '-i', 'color=s=16x16', '-frames:v', '1');
    const mp3 = await made(
      'tone.mp3',
      ...TONE,
      ...['-i', cover, '-map', '0:a', '-map', '1:v', '-c:v', 'png'],
      ...['-disposition:v', 'attached_pic'],
    );
    expect(await isSoundFile(mp3)).toBe(true);
    const facts = await readSoundFile(mp3, 'tone.mp3', join(folder, 'mp3'));
    expect(facts).toMatchObject({ channels: 1, rate: 44_100 });
    expect(Math.abs(facts.samples - 2 * SOUND_RATE)).toBeLessThan(0.06 * SOUND_RATE);
  });
  it('that are silent say so, without figures', async () => {
    const file = await made('silent.wav', '-f', 'lavfi', '-i', 'anullsrc=d=1');
    const facts = await readSoundFile(file, 'silent.wav', join(folder, 'silent'));
    expect(facts).toMatchObject({ integrated: null, shortTerm: null, truePeak: null });
  });
  it('are told from videos and from what is neither', async () => {
    expect(await isSoundFile('demo/footage/floor-tom.mp4')).toBe(false);
    const words = join(folder, 'words.wav');
    writeFileSync(words, 'words, not samples');
    expect(await isSoundFile(words)).toBe(false);
    await expect(readSoundFile(words, 'words.wav', join(folder, 'words'))).rejects.toThrow(
      '"words.wav" holds no sound that can be read: bring it as WAV or FLAC',
    );
    const empty = await made('empty.wav', '-f', 'lavfi', '-i', 'anullsrc=d=1', '-t', '0');
    await expect(readSoundFile(empty, 'empty.wav', join(folder, 'empty'))).rejects.toThrow(
      '"empty.wav" holds no sound',
    );
  });
});
