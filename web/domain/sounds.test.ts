import { describe, expect, it } from 'vitest';
import { BEATS_FOUND } from '../../core';
import type { SoundView } from '../data/views';
import { clock, soundFacts } from './sounds';

describe('a moment of a sound', () => {
  it.each([
    [0, '0:00.0'],
    [0.96, '0:00.9'],
    [24, '0:24.0'],
    [59.99, '0:59.9'],
    [60, '1:00.0'],
    [3725.5, '62:05.5'],
  ])('%s is %s', (second, words) => expect(clock(second)).toBe(words));
});
it('a sound’s facts say its length, rate and loudness', () => {
  const sound: SoundView = {
    ...{ id: 's', hash: 'h', name: 'song', bytes: 9, codec: 'mp3', channels: 2, rate: 44_100 },
    ...{ tracks: 2, samples: 1_152_000, integrated: -19.72, shortTerm: -18.1, truePeak: -4.9 },
    ...{ beats: [], said: BEATS_FOUND },
  };
  expect(soundFacts(sound)).toBe(
    '0:24.0 · stereo · 44.1 kHz, used at 48 · mp3 · the first of 2 tracks · −19.7 LUFS, at most −18.1 over three seconds, true peak −4.9 dBTP',
  );
  const silent = { ...sound, channels: 6, rate: 48_000, tracks: 1 };
  expect(soundFacts({ ...silent, integrated: null, shortTerm: null, truePeak: null })).toBe(
    '0:24.0 · 6 channels · 48 kHz · mp3 · silent',
  );
});
