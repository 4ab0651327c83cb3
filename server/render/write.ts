/** Files out of samples: encoders' arguments, lossless chunks, and the joining of chunks with sound. */
import type { EncodingId } from '../../core';
import type { Rate } from '../../core/time';
import type { Samples } from './render';

export const FORMATS = ['mp4', 'mkv', 'webm', 'png'] as const;
export type FormatId = (typeof FORMATS)[number];
export const samplesFor = (f: FormatId): Samples => (f === 'mkv' || f === 'png' ? 'gbrp16le' : 'yuv420p');

const TRANSFER: Record<EncodingId, [string, string]> = {
  srgb: ['iec61966-2-1', 'bt709'],
  bt709: ['bt709', 'bt709'],
  bt2020: ['bt2020-10', 'bt2020'],
  linear: ['linear', 'bt709'],
  pq: ['smpte2084', 'bt2020'],
  hlg: ['arib-std-b67', 'bt2020'],
  acescct: ['unspecified', 'unspecified'],
  cineon: ['unspecified', 'unspecified'],
};

/** Raw samples on standard input. */
export const rawInput = (samples: Samples, width: number, height: number, rate: Rate): string[] => [
  '-f',
  'rawvideo',
  '-pix_fmt',
  samples,
  '-s',
  `${width}x${height}`,
  '-r',
  rate.join('/'),
  '-i',
  'pipe:0',
];
/** A lossless chunk of samples. */
export const chunkOutput = (file: string): string[] => ['-c:v', 'ffv1', '-level', '3', '-g', '1', '-slices', '4', '-f', 'nut', file];

/** What a video file is encoded with. */
export function videoOutput(format: Exclude<FormatId, 'png'>, samples: Samples, encoding: EncodingId): string[] {
  const [transfer, primaries] = TRANSFER[encoding];
  const tags = [
    '-color_trc',
    transfer,
    '-color_primaries',
    primaries,
    ...(samples === 'yuv420p' ? ['-colorspace', 'bt709', '-color_range', 'tv'] : []),
  ];
  switch (format) {
    case 'mp4':
      return ['-c:v', 'libx264', '-preset', 'medium', '-crf', '15', '-pix_fmt', 'yuv420p', ...tags, '-movflags', '+faststart', '-f', 'mp4'];
    case 'mkv':
      return ['-c:v', 'ffv1', '-level', '3', '-g', '1', '-slices', '4', '-slicecrc', '1', ...tags, '-f', 'matroska'];
    case 'webm':
      return ['-c:v', 'libvpx-vp9', '-crf', '18', '-b:v', '0', '-row-mt', '1', '-deadline', 'good', '-cpu-used', '3', ...tags, '-f', 'webm'];
  }
}

const KEPT: Record<Exclude<FormatId, 'png'>, readonly string[]> = {
  mp4: ['aac', 'mp3', 'ac3'],
  mkv: ['aac', 'mp3', 'ac3', 'pcm_s16le', 'pcm_s24le', 'flac', 'opus', 'vorbis'],
  webm: ['opus', 'vorbis'],
};

/** The clip's own sound as it is where the container can carry it and nothing is cut off; otherwise coded anew. */
export function soundOutput(format: Exclude<FormatId, 'png'>, codec: string, whole: boolean): string[] {
  if (whole && KEPT[format].includes(codec)) return ['-c:a', 'copy'];
  return format === 'mp4' ? ['-c:a', 'aac', '-b:a', '256k'] : format === 'mkv' ? ['-c:a', 'flac'] : ['-c:a', 'libopus', '-b:a', '192k'];
}

/** Numbered pictures, 16 bits a sample unless the samples are 8. */
export const picturesOutput = (pattern: string, first: number, samples: Samples = 'gbrp16le'): string[] => [
  '-pix_fmt',
  samples === 'gbrp' ? 'rgb24' : 'rgb48be',
  '-f',
  'image2',
  '-start_number',
  String(first),
  pattern,
];
