import type { VideoFormat } from './declare';
import { ffv1, tagsOf, wholeColour } from './samples';

/**
 * FFV1 in Matroska. AAC and MP3 are not copied into it: they begin before the picture, which would
 * be shown later instead (AAC: by 21 ms).
 */
export const mkv = {
  id: 'mkv',
  label: 'Matroska, FFV1',
  help: '16 bit RGB, lossless',
  ending: 'mkv',
  makes: 'video',
  covers: true,
  lossless: true,
  samples: wholeColour,
  encoder: (of) => [...ffv1(of.size), ...tagsOf(of)],
  container: ['-f', 'matroska'],
  soundKept: ['ac3', 'pcm_s16le', 'pcm_s24le', 'flac', 'vorbis'],
  sound: ['-c:a', 'flac'],
} as const satisfies VideoFormat;
