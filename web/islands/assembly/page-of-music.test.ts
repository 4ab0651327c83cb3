/** Where things lie on the page of music. */
import { expect, it } from 'vitest';
import { BEATS_FOUND, type CutDocument, cutting, emptyCut, type Place } from '../../../core';
import type { SoundView } from '../../data/views';
import { beatsOfCut, partsIn, snapped, songOf, soundIn, timeWords } from './page-of-music';

const place = (key: string, at: number, frames: number): Place => ({
  ...{ key, at, frames, in: 0 },
  clip: '00000000-0000-4000-8000-000000000001',
});
const RATE = [25, 1] as const;

it('what runs over a line’s end goes on in the next', () => {
  const row = { key: 'row', name: '', places: [place('a', 0, 60), place('b', 60, 100)] };
  const [one, two] = [
    { from: 0, to: 100 },
    { from: 100, to: 200 },
  ].map((line) => partsIn(row, line).map((p) => [p.place.key, p.left, p.width, p.begins, p.ends]));
  expect(one).toEqual([
    ['a', 0, 0.6, true, true],
    ['b', 0.6, 0.4, true, false],
  ]);
  expect(two).toEqual([['b', 0, 0.6, false, true]]);
});
it('a sound lies where it is heard, with the samples that are heard there', () => {
  const sound = {
    ...{ key: 's', sound: 'x', at: 48_000, from: 24_000, samples: 96_000, level: 0 },
  };
  expect(soundIn(sound, { from: 0, to: 50 }, RATE)).toEqual({
    ...{ left: 0.5, width: 0.5, from: 24_000, to: 72_000 },
  });
  expect(soundIn(sound, { from: 50, to: 100 }, RATE)).toEqual({
    ...{ left: 0, width: 0.5, from: 72_000, to: 120_000 },
  });
  expect(soundIn(sound, { from: 100, to: 150 }, RATE)).toBeUndefined();
});
it('beats of the song lie where it is laid in, as far as it is heard', () => {
  const song = { id: 'x', beats: [0.5, 1, 1.5, 2, 2.5], said: BEATS_FOUND } as unknown as SoundView;
  const cut: CutDocument = cutting.withSound(emptyCut(), {
    ...{ sound: 'x', at: 48_000, from: 48_000, samples: 48_000, level: 0 },
  });
  expect(songOf(cut)?.sound).toBe('x');
  expect(beatsOfCut(cut, [song]).beats).toEqual([1, 1.5]);
  expect(beatsOfCut(emptyCut(), [song])).toEqual({ beats: [], bars: [] });
});
it('frames snap to what is near, and times are told', () => {
  expect([snapped(10, [3, 12, 14], 2), snapped(10, [3, 14], 2), snapped(10, [11], 0)]).toEqual([
    12, 10, 10,
  ]);
  expect(timeWords(0, RATE)).toBe('0:00+00');
  expect(timeWords(1530, RATE)).toBe('1:01+05');
  expect(timeWords(30, [30_000, 1001])).toBe('0:01+00');
});
