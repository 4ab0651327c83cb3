import type { Effort, VideoFormat } from './declare';
import { halvedColour, tagsOf } from './samples';

/**
 * x264's preset and quality. On graded 1080p footage with noise, compared with *usual*: a quarter
 * of the time at the same size; twice the time at half the size.
 */
const X264: Record<Effort, readonly [string, string]> = {
  quick: ['veryfast', '14'],
  usual: ['medium', '15'],
  small: ['slow', '18'],
};

/** H.264 in MP4. */
export const mp4 = {
  id: 'mp4',
  label: 'MP4, H.264',
  help: '8 or 10 bit, for viewing',
  ending: 'mp4',
  makes: 'video',
  even: true,
  plays: true,
  covers: false,
  efforts: {
    quick: 'quick: a quarter of the time, as large',
    usual: 'usual',
    small: 'small: twice the time, half as large',
  },
  samples: (encoding) => halvedColour(encoding, false),
  encoder: (of) => [
    ...['-c:v', 'libx264', '-preset', X264[of.effort][0], '-crf', X264[of.effort][1]],
    ...['-pix_fmt', of.samples, ...tagsOf(of)],
  ],
  container: ['-movflags', '+faststart', '-f', 'mp4'],
  soundKept: ['aac', 'mp3', 'ac3'],
  sound: ['-c:a', 'aac', '-b:a', '256k'],
} as const satisfies VideoFormat;
