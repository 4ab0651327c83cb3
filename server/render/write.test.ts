/** The arguments for encoders: samples, tags, effort and sound per format. */
import { describe, expect, it } from 'vitest';
import { ENCODINGS, OF_2020 } from '../../core';
import {
  cannotHold,
  chunkOutput,
  copiedOutput,
  COVERED_FORMATS,
  EFFORTS,
  FORMATS,
  picturesOutput,
  samplesFor,
  soundOutput,
  videoOutput,
} from './write';

const SIZE = { width: 1920, height: 1080 };
/** The value after an option; undefined if the option is missing. */
const said = (args: readonly string[], option: string): string | undefined => {
  const at = args.indexOf(option);
  return at < 0 ? undefined : args[at + 1];
};

describe('samples', () => {
  it.each([
    ['mp4', false, 'yuv420p'],
    ['mp4', true, 'yuv420p'],
    ['webm', false, 'yuv420p'],
    ['webm', true, 'yuva420p'],
    ['mkv', false, 'gbrp16le'],
    ['mkv', true, 'gbrap16le'],
    ['png', false, 'gbrp16le'],
    ['png', true, 'gbrap16le'],
  ] as const)('of %s, with coverage: %s, are %s', (format, coverage, samples) => {
    expect(samplesFor(format, 'bt709', coverage)).toBe(samples);
  });

  it('of eight bits are planes of bytes, where the format keeps colour whole', () => {
    expect(samplesFor('mkv', 'srgb', false, 8)).toBe('gbrp');
    expect(samplesFor('png', 'srgb', true, 8)).toBe('gbrap');
    expect(samplesFor('mp4', 'srgb', false, 8)).toBe('yuv420p');
  });

  it('of BT.2020 and BT.2100 have ten bits where others have eight, and no coverage there', () => {
    for (const encoding of OF_2020) {
      expect(samplesFor('mp4', encoding)).toBe('yuv420p10le');
      expect(samplesFor('mkv', encoding)).toBe('gbrp16le');
      expect(cannotHold('webm', encoding, true)).toMatch(/choose mkv or png/);
      expect(cannotHold('webm', encoding, false)).toBeUndefined();
    }
    expect(cannotHold('webm', 'bt709', true)).toBeUndefined();
  });

  it('keep coverage in just those formats that say so', () => {
    for (const format of FORMATS)
      expect(samplesFor(format, 'srgb', true) !== samplesFor(format, 'srgb', false)).toBe(
        COVERED_FORMATS.includes(format),
      );
  });
});

describe('a video', () => {
  it.each(ENCODINGS)('in %s is tagged with its transfer and primaries', (encoding) => {
    for (const format of ['mp4', 'mkv', 'webm'] as const) {
      const args = videoOutput(format, samplesFor(format, encoding), encoding, SIZE);
      expect(said(args, '-color_trc')).toBeTruthy();
      expect(said(args, '-color_primaries')).toBeTruthy();
      // RGB samples have no matrix.
      const matrix = OF_2020.includes(encoding) ? 'bt2020nc' : 'bt709';
      expect(said(args, '-colorspace')).toBe(format === 'mkv' ? undefined : matrix);
    }
  });

  it('in H.264 is as large as its effort says, and can be played while it comes', () => {
    const presets = EFFORTS.map((effort) => {
      const args = videoOutput('mp4', 'yuv420p', 'bt709', SIZE, effort);
      expect(said(args, '-movflags')).toBe('+faststart');
      return [said(args, '-preset'), said(args, '-crf')].join();
    });
    expect(new Set(presets).size).toBe(EFFORTS.length);
  });

  it('in VP9 with coverage has none of the frames that cannot carry it', () => {
    const args = (samples: 'yuva420p' | 'yuv420p'): string[] =>
      videoOutput('webm', samples, 'bt709', SIZE);
    expect(said(args('yuva420p'), '-auto-alt-ref')).toBe('0');
    expect(said(args('yuv420p'), '-auto-alt-ref')).toBeUndefined();
  });

  it('in FFV1 is coded alike in chunks and as a whole, so that packets can be copied', () => {
    const whole = videoOutput('mkv', 'gbrp16le', 'bt709', SIZE),
      chunk = chunkOutput('mkv', 'x.mkv', 'gbrp16le', 'bt709', SIZE);
    expect(chunk.slice(0, -1)).toEqual(whole);
    expect(said(chunkOutput('mp4', 'x.mkv', 'yuv420p', 'bt709', SIZE), '-c:v')).toBe('ffvhuff');
  });

  it.each([
    [[25, 1], 'setts=ts=N*1000/25'],
    [[24000, 1001], 'setts=ts=N*1001000/24000'],
  ] as const)('of copied packets at %j has each at its own time', (rate, filter) => {
    expect(said(copiedOutput(rate), '-bsf:v')).toBe(filter);
  });
});

describe('pictures', () => {
  it.each([
    ['gbrp', 'rgb24'],
    ['gbrp16le', 'rgb48be'],
    ['gbrap', 'rgba'],
    ['gbrap16le', 'rgba64be'],
  ] as const)('of %s are PNGs of %s, numbered from where their chunk begins', (samples, pixels) => {
    const args = picturesOutput('%06d.png', 48, samples);
    expect([said(args, '-pix_fmt'), said(args, '-start_number'), args.at(-1)]).toEqual([
      pixels,
      '48',
      '%06d.png',
    ]);
  });
});

describe('sound', () => {
  it.each([
    ['mp4', 'aac', true, 'copy'],
    ['mp4', 'pcm_s16le', true, 'aac'],
    ['mp4', 'aac', false, 'aac'],
    ['mkv', 'pcm_s24le', true, 'copy'],
    ['mkv', 'aac', false, 'flac'],
    ['mkv', 'aac', true, 'flac'],
    ['webm', 'opus', true, 'copy'],
    ['webm', 'aac', true, 'libopus'],
  ] as const)('in %s of %s, whole: %s, is %s', (format, codec, whole, coder) => {
    expect(said(soundOutput(format, codec, whole), '-c:a')).toBe(coder);
  });
});
