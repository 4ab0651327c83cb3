import type { VideoFormat } from './declare';
import { halvedColour, noTenBits, tagsOf } from './samples';

/** The layouts of channels that Opus takes (RFC 7845, 5.1.1.2); side channels become back ones. */
const OPUS_LAYOUTS = ['mono', 'stereo', '3.0', 'quad', '5.0', '5.1', '6.1', '7.1'].join('|');

/** VP9 in WebM. */
export const webm = {
  id: 'webm',
  label: 'WebM, VP9',
  help: '8 or 10 bit, for pages',
  ending: 'webm',
  makes: 'video',
  even: true,
  plays: true,
  covers: true,
  samples: halvedColour,
  cannotHold: (encoding, coverage) => noTenBits('webm', encoding, coverage),
  encoder: (of) => [
    ...['-c:v', 'libvpx-vp9', '-crf', '18', '-b:v', '0', '-row-mt', '1'],
    ...['-deadline', 'good', '-cpu-used', '3', '-pix_fmt', of.samples],
    // The encoder's alternative reference frames do not support coverage.
    ...(of.samples === 'yuva420p' ? ['-auto-alt-ref', '0'] : []),
    ...tagsOf(of),
  ],
  container: ['-f', 'webm'],
  soundKept: ['opus', 'vorbis'],
  sound: ['-af', `aformat=channel_layouts=${OPUS_LAYOUTS}`, '-c:a', 'libopus', '-b:a', '192k'],
} as const satisfies VideoFormat;
