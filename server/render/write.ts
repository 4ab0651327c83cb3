/** Arguments of encoders: lossless chunks, and their joining with sound. */
import { type EncodingId, encodingOf, type MatrixId, OF_2020 } from '../../core';
import type { Rate } from '../../core/time';
import type { KeptSamples, Samples } from './render';

/** Delivery formats. */
export const FORMATS = ['mp4', 'mkv', 'webm', 'png'] as const;
/** One of `FORMATS`. */
export type FormatId = (typeof FORMATS)[number];
/** Formats that can carry coverage. */
export const COVERED_FORMATS: readonly FormatId[] = ['mkv', 'webm', 'png'];
const WITH_COVERAGE: Partial<Record<Samples, Samples>> = {
  yuv420p: 'yuva420p',
  gbrp: 'gbrap',
  gbrp16le: 'gbrap16le',
};
/**
 * The samples of a format in an encoding. `coverage`: stored beside the picture; otherwise the
 * picture is composited over black. BT.2020 and BT.2100 define no samples of less than ten bits.
 */
export function samplesFor(
  f: FormatId,
  encoding: EncodingId,
  coverage = false,
  depth: 8 | 16 = 16,
): Samples {
  const halved = OF_2020.includes(encoding) ? 'yuv420p10le' : 'yuv420p';
  const plain = f === 'mp4' || f === 'webm' ? halved : depth === 16 ? 'gbrp16le' : 'gbrp';
  return (coverage && COVERED_FORMATS.includes(f) && WITH_COVERAGE[plain]) || plain;
}
/** Why a format cannot hold what is asked for, with what to choose; undefined if it can. */
export function cannotHold(
  f: FormatId,
  encoding: EncodingId,
  coverage: boolean,
): string | undefined {
  if (coverage && !COVERED_FORMATS.includes(f))
    return `${f} cannot carry coverage: choose another file, or leave coverage out`;
  return coverage && f === 'webm' && OF_2020.includes(encoding)
    ? `webm has no ten bits with coverage, which ${encodingOf(encoding).label} needs: ` +
        'choose mkv or png, or leave coverage out'
    : undefined;
}
/** The matrix of a format's samples in luma and chroma. */
export const matrixFor = (samples: KeptSamples): MatrixId =>
  samples === 'yuv420p10le' ? 'bt2020' : 'bt709';

const TRANSFER: Record<EncodingId, [string, string]> = {
  srgb: ['iec61966-2-1', 'bt709'],
  bt709: ['bt709', 'bt709'],
  'bt601-625': ['smpte170m', 'bt470bg'],
  'bt601-525': ['smpte170m', 'smpte170m'],
  bt2020: ['bt2020-10', 'bt2020'],
  linear: ['linear', 'bt709'],
  'linear-bt2020': ['linear', 'bt2020'],
  acescg: ['linear', 'unspecified'],
  aces2065: ['linear', 'unspecified'],
  pq: ['smpte2084', 'bt2020'],
  hlg: ['arib-std-b67', 'bt2020'],
  acescct: ['unspecified', 'unspecified'],
  cineon: ['unspecified', 'unspecified'],
};

/** Input arguments for raw samples on standard input. */
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
/**
 * FFV1 codes a frame in slices. For 16-bit RGB a slice may have at most `MOST_OF_SLICE` pixels; 16
 * slices of a large frame keep all cores busy (1920 × 1080: a quarter faster than four, half a per
 * cent larger).
 */
const MOST_OF_SLICE = 2_250_000,
  LARGE = 500_000;
const slices = (pixels: number): string =>
  String(pixels < LARGE ? 4 : ([16, 30].find((n) => pixels <= n * MOST_OF_SLICE) ?? 64));
const ffv1 = ({ width, height }: Size): string[] => [
  '-c:v',
  'ffv1',
  '-level',
  '3',
  '-g',
  '1',
  '-slices',
  slices(width * height),
  '-slicecrc',
  '1',
];

/** Encoding time against file size. */
export const EFFORTS = ['quick', 'usual', 'small'] as const;
/** One of `EFFORTS`. */
export type Effort = (typeof EFFORTS)[number];
/**
 * x264's preset and quality. On graded 1080p footage with noise, compared with *usual*: a quarter
 * of the time at the same size; twice the time at half the size.
 */
const X264: Record<Effort, readonly [string, string]> = {
  quick: ['veryfast', '14'],
  usual: ['medium', '15'],
  small: ['slow', '18'],
};

/** Width and height in pixels. */
export interface Size {
  readonly width: number;
  readonly height: number;
}

const tagsOf = (samples: Samples, encoding: EncodingId): string[] => {
  const [transfer, primaries] = TRANSFER[encoding];
  const space = matrixFor(samples) === 'bt2020' ? 'bt2020nc' : 'bt709';
  const matrix = samples.startsWith('yuv') ? ['-colorspace', space, '-color_range', 'tv'] : [];
  return ['-color_trc', transfer, '-color_primaries', primaries, ...matrix];
};

/**
 * Chunks hold samples exactly: FFV1 for a lossless delivery, which is large; light compression for
 * what is read back once.
 */
export const CHUNK_ENDING = 'mkv';
/** Output arguments for a chunk. */
export const chunkOutput = (
  format: FormatId,
  file: string,
  samples: Samples,
  encoding: EncodingId,
  size: Size,
): string[] => [
  ...(format === 'mkv' ? [...ffv1(size), ...tagsOf(samples, encoding)] : ['-c:v', 'ffvhuff']),
  ...['-f', 'matroska', file],
];

/** Output arguments for a video file. */
export function videoOutput(
  format: Exclude<FormatId, 'png'>,
  samples: Samples,
  encoding: EncodingId,
  size: Size,
  effort: Effort = 'usual',
): string[] {
  const tags = tagsOf(samples, encoding);
  switch (format) {
    case 'mp4':
      return [
        ...[
          '-c:v',
          'libx264',
          '-preset',
          X264[effort][0],
          '-crf',
          X264[effort][1],
          '-pix_fmt',
          samples,
        ],
        ...tags,
        ...['-movflags', '+faststart', '-f', 'mp4'],
      ];
    case 'mkv':
      return [...ffv1(size), ...tags, '-f', 'matroska'];
    case 'webm':
      return [
        ...[
          '-c:v',
          'libvpx-vp9',
          '-crf',
          '18',
          '-b:v',
          '0',
          '-row-mt',
          '1',
          '-deadline',
          'good',
          '-cpu-used',
          '3',
          '-pix_fmt',
          samples,
        ],
        // The encoder's alternative reference frames do not support coverage.
        ...(samples === 'yuva420p' ? ['-auto-alt-ref', '0'] : []),
        ...tags,
        ...['-f', 'webm'],
      ];
  }
}

/**
 * Arguments for copying FFV1 chunks into one file: packet N gets its own time in Matroska's
 * milliseconds, whatever times the chunks had.
 */
export const copiedOutput = ([num, den]: Rate): string[] => [
  '-c:v',
  'copy',
  '-bsf:v',
  `setts=ts=N*${1000 * den}/${num}`,
  '-f',
  'matroska',
];

/**
 * Sound that each container takes as it is. AAC and MP3 begin before the picture: MP4 says so by an
 * edit list, Matroska would show the picture later instead (AAC: by 21 ms).
 */
const KEPT: Record<Exclude<FormatId, 'png'>, readonly string[]> = {
  mp4: ['aac', 'mp3', 'ac3'],
  mkv: ['ac3', 'pcm_s16le', 'pcm_s24le', 'flac', 'vorbis'],
  webm: ['opus', 'vorbis'],
};
/** The layouts of channels that Opus takes (RFC 7845, 5.1.1.2); side channels become back ones. */
const OPUS_LAYOUTS = ['mono', 'stereo', '3.0', 'quad', '5.0', '5.1', '6.1', '7.1'].join('|');

/**
 * Arguments for the clip's sound: copied if the container can carry it and nothing is cut off,
 * otherwise encoded.
 */
export function soundOutput(
  format: Exclude<FormatId, 'png'>,
  codec: string,
  whole: boolean,
): string[] {
  if (whole && KEPT[format].includes(codec)) return ['-c:a', 'copy'];
  return format === 'mp4'
    ? ['-c:a', 'aac', '-b:a', '256k']
    : format === 'mkv'
      ? ['-c:a', 'flac']
      : ['-af', `aformat=channel_layouts=${OPUS_LAYOUTS}`, '-c:a', 'libopus', '-b:a', '192k'];
}

const PICTURE_SAMPLES: Partial<Record<Samples, string>> = {
  gbrp: 'rgb24',
  gbrp16le: 'rgb48be',
  gbrap: 'rgba',
  gbrap16le: 'rgba64be',
};
/** Output arguments for numbered pictures, from planar RGB samples. */
export const picturesOutput = (
  pattern: string,
  first: number,
  samples: Samples = 'gbrp16le',
): string[] => [
  '-pix_fmt',
  PICTURE_SAMPLES[samples]!,
  '-f',
  'image2',
  '-start_number',
  String(first),
  pattern,
];
