/** Arguments for FFmpeg: raw samples in, chunks, and finished files with sound, by format. */
import { type Encoded, type PictureFormat, type Samples, type VideoFormat } from '../../core';
import type { Rate } from '../../core/time';

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
 * Chunks hold samples exactly: those of a lossless delivery are encoded as its file is; others are
 * lightly compressed, because they are read back once.
 */
export const CHUNK_ENDING = 'mkv';
/** Output arguments for a chunk. */
export const chunkOutput = (format: VideoFormat, file: string, of: Encoded): string[] => [
  ...(format.lossless ? format.encoder(of) : ['-c:v', 'ffvhuff']),
  ...['-f', 'matroska', file],
];

/** Output arguments for a video file. */
export const videoOutput = (format: VideoFormat, of: Encoded): string[] => [
  ...format.encoder(of),
  ...format.container,
];

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
 * Arguments for the clip's sound: copied if the container can carry it and nothing is cut off,
 * otherwise encoded.
 */
export const soundOutput = (format: VideoFormat, codec: string, whole: boolean): string[] =>
  whole && format.soundKept.includes(codec) ? ['-c:a', 'copy'] : [...format.sound];

/** Output arguments for numbered pictures, from planar RGB samples. */
export const picturesOutput = (
  format: PictureFormat,
  pattern: string,
  first: number,
  samples: Samples,
): string[] => [
  ...['-pix_fmt', format.pixels[samples]!, '-f', 'image2'],
  ...['-start_number', String(first), pattern],
];
