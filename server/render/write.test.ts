/** The arguments for encoders: samples, tags, effort and sound per format. */
import { describe, expect, it } from 'vitest';
import {
  cannotHold,
  cannotMeasure,
  DELIVERY_FORMATS,
  EFFORTS,
  type Effort,
  type EncodingId,
  ENCODINGS,
  FORMAT_IDS,
  type FormatId,
  OF_2020,
  type PictureFormat,
  deliveryFormat,
  type Samples,
  samplesFor,
  type VideoFormat,
} from '../../core';
import { chunkOutput, copiedOutput, picturesOutput, soundOutput, videoOutput } from './write';

const SIZE = { width: 1920, height: 1080 };
/** The value after an option; undefined if the option is missing. */
const said = (args: readonly string[], option: string): string | undefined => {
  const at = args.indexOf(option);
  return at < 0 ? undefined : args[at + 1];
};

const VIDEOS = DELIVERY_FORMATS.filter((f) => f.makes === 'video') as (VideoFormat & {
  readonly id: FormatId;
})[];
const video = (id: FormatId) => deliveryFormat(id) as VideoFormat;
const encoded = (samples: Samples, encoding: EncodingId = 'bt709', effort: Effort = 'usual') => ({
  samples,
  encoding,
  size: SIZE,
  effort,
});

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
    for (const { id, covers } of DELIVERY_FORMATS) {
      expect(samplesFor(id, 'srgb', true) !== samplesFor(id, 'srgb', false)).toBe(covers);
      expect(cannotHold(id, 'srgb', true) === undefined).toBe(covers);
    }
  });
});

describe('a format', () => {
  it('has an id, an ending and words of its own', () => {
    for (const of of [
      FORMAT_IDS,
      DELIVERY_FORMATS.map((f) => f.ending),
      DELIVERY_FORMATS.map((f) => f.label),
    ])
      expect(new Set(of).size).toBe(DELIVERY_FORMATS.length);
  });

  it('of 4:2:0 samples refuses odd sizes', () => {
    for (const { id, even = false } of DELIVERY_FORMATS) {
      if (samplesFor(id, 'srgb').startsWith('yuv420')) expect(even).toBe(true);
      expect(cannotMeasure(id, { width: 101, height: 50 }) !== undefined).toBe(even);
      expect(cannotMeasure(id, { width: 100, height: 50 })).toBeUndefined();
    }
  });

  it('of pictures has pixels for all samples that it may have', () => {
    for (const f of DELIVERY_FORMATS)
      if (f.makes === 'pictures')
        for (const encoding of ENCODINGS)
          for (const depth of [8, 16] as const)
            for (const coverage of [false, true])
              expect(f.pixels[samplesFor(f.id, encoding, coverage, depth)]).toBeTruthy();
  });
});

describe('a video', () => {
  it.each(ENCODINGS)('in %s is tagged with its transfer and primaries', (encoding) => {
    for (const format of VIDEOS) {
      const samples = samplesFor(format.id, encoding);
      const args = videoOutput(format, encoded(samples, encoding));
      expect(said(args, '-color_trc')).toBeTruthy();
      expect(said(args, '-color_primaries')).toBeTruthy();
      // RGB samples have no matrix.
      const matrix = OF_2020.includes(encoding) ? 'bt2020nc' : 'bt709';
      expect(said(args, '-colorspace')).toBe(samples.startsWith('yuv') ? matrix : undefined);
    }
  });

  it('in H.264 is as large as its effort says, and can be played while it comes', () => {
    const presets = EFFORTS.map((effort) => {
      const args = videoOutput(video('mp4'), encoded('yuv420p', 'bt709', effort));
      expect(said(args, '-movflags')).toBe('+faststart');
      return [said(args, '-preset'), said(args, '-crf')].join();
    });
    expect(new Set(presets).size).toBe(EFFORTS.length);
  });

  it('in VP9 with coverage has none of the frames that cannot carry it', () => {
    const args = (samples: 'yuva420p' | 'yuv420p'): string[] =>
      videoOutput(video('webm'), encoded(samples));
    expect(said(args('yuva420p'), '-auto-alt-ref')).toBe('0');
    expect(said(args('yuv420p'), '-auto-alt-ref')).toBeUndefined();
  });

  it('in FFV1 is coded alike in chunks and as a whole, so that packets can be copied', () => {
    const whole = videoOutput(video('mkv'), encoded('gbrp16le')),
      chunk = chunkOutput(video('mkv'), 'x.mkv', encoded('gbrp16le'));
    expect(chunk.slice(0, -1)).toEqual(whole);
    expect(said(chunkOutput(video('mp4'), 'x.mkv', encoded('yuv420p')), '-c:v')).toBe('ffvhuff');
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
    const args = picturesOutput(deliveryFormat('png') as PictureFormat, '%06d.png', 48, samples);
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
    expect(said(soundOutput(video(format), codec, whole), '-c:a')).toBe(coder);
  });
});
