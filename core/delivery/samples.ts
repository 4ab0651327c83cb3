/** Samples that several formats have, and the tags that say what they are. */
import { type EncodingId, encodingOf, OF_2020 } from '../image';
import type { Depth, Encoded, Samples, Size } from './declare';

const WITH_COVERAGE: Partial<Record<Samples, Samples>> = {
  yuv420p: 'yuva420p',
  gbrp: 'gbrap',
  gbrp16le: 'gbrap16le',
};
const covered = (samples: Samples, coverage: boolean): Samples =>
  (coverage && WITH_COVERAGE[samples]) || samples;
/** 4:2:0 samples. BT.2020 and BT.2100 define none of less than ten bits. */
export const halvedColour = (encoding: EncodingId, coverage: boolean): Samples =>
  covered(OF_2020.includes(encoding) ? 'yuv420p10le' : 'yuv420p', coverage);
/** RGB samples. */
export const wholeColour = (_: EncodingId, coverage: boolean, depth: Depth): Samples =>
  covered(depth === 16 ? 'gbrp16le' : 'gbrp', coverage);

/** Why 4:2:0 with coverage cannot hold an encoding of ten bits. */
export const noTenBits = (
  id: string,
  encoding: EncodingId,
  coverage: boolean,
): string | undefined =>
  coverage && OF_2020.includes(encoding)
    ? `${id} has no ten bits with coverage, which ${encodingOf(encoding).label} needs: ` +
      'choose mkv or png, or leave coverage out'
    : undefined;

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
/** Tags of samples: transfer and primaries, and of luma and chroma their matrix and range. */
export function tagsOf({ samples, encoding }: Pick<Encoded, 'samples' | 'encoding'>): string[] {
  const [transfer, primaries] = TRANSFER[encoding];
  const space = samples === 'yuv420p10le' ? 'bt2020nc' : 'bt709';
  const matrix = samples.startsWith('yuv') ? ['-colorspace', space, '-color_range', 'tv'] : [];
  return ['-color_trc', transfer, '-color_primaries', primaries, ...matrix];
}

/**
 * FFV1 codes a frame in slices. For 16-bit RGB a slice may have at most `MOST_OF_SLICE` pixels; 16
 * slices of a large frame keep all cores busy (1920 × 1080: a quarter faster than four, half a per
 * cent larger).
 */
const MOST_OF_SLICE = 2_250_000,
  LARGE = 500_000;
const slices = (pixels: number): string =>
  String(pixels < LARGE ? 4 : ([16, 30].find((n) => pixels <= n * MOST_OF_SLICE) ?? 64));
/** FFV1 in frames of their own, with checksums. */
export const ffv1 = ({ width, height }: Size): string[] => [
  ...['-c:v', 'ffv1', '-level', '3', '-g', '1'],
  ...['-slices', slices(width * height), '-slicecrc', '1'],
];
