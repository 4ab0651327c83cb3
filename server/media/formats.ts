/**
 * Maps ffmpeg's pixel formats to ours: the planar format to decode to, so that samples come out as
 * stored.
 */
import { FLOAT, type FrameFormat } from '../../core';

/** How samples are delivered by ffmpeg. */
export interface Delivered {
  readonly ask: string;
  readonly layout: FrameFormat['layout'];
  readonly chroma: FrameFormat['chroma'];
  readonly depth: number;
  readonly alpha: boolean;
  readonly jpeg: boolean;
}

const planar = (
  ask: string,
  layout: Delivered['layout'],
  chroma: Delivered['chroma'],
  depth: number,
  alpha = false,
  jpeg = false,
): Delivered => ({
  ask,
  layout,
  chroma,
  depth,
  alpha,
  jpeg,
});
const CHROMA: Record<string, FrameFormat['chroma']> = {
  '420': [2, 2],
  '422': [2, 1],
  '444': [1, 1],
  '440': [1, 2],
  '411': [4, 1],
  '410': [4, 4],
};
const PACKED: Record<string, Delivered> = {
  nv12: planar('yuv420p', 'yuv', [2, 2], 8),
  nv21: planar('yuv420p', 'yuv', [2, 2], 8),
  yuyv422: planar('yuv422p', 'yuv', [2, 1], 8),
  uyvy422: planar('yuv422p', 'yuv', [2, 1], 8),
  p010le: planar('yuv420p10le', 'yuv', [2, 2], 10),
  p016le: planar('yuv420p16le', 'yuv', [2, 2], 16),
  nv16: planar('yuv422p', 'yuv', [2, 1], 8),
  nv24: planar('yuv444p', 'yuv', [1, 1], 8),
  p210le: planar('yuv422p10le', 'yuv', [2, 1], 10),
  y210le: planar('yuv422p10le', 'yuv', [2, 1], 10),
  uyyvyy411: planar('yuv411p', 'yuv', [4, 1], 8),
  gray: planar('gray', 'gray', [1, 1], 8),
  gray10le: planar('gray10le', 'gray', [1, 1], 10),
  gray12le: planar('gray12le', 'gray', [1, 1], 12),
  gray16le: planar('gray16le', 'gray', [1, 1], 16),
  gray16be: planar('gray16le', 'gray', [1, 1], 16),
  grayf32le: planar('grayf32le', 'gray', [1, 1], FLOAT),
  gbrpf32le: planar('gbrpf32le', 'rgb', [1, 1], FLOAT),
  gbrapf32le: planar('gbrapf32le', 'rgb', [1, 1], FLOAT, true),
  monow: planar('gray', 'gray', [1, 1], 8),
  monob: planar('gray', 'gray', [1, 1], 8),
  pal8: planar('gbrap', 'rgb', [1, 1], 8, true),
  ya8: planar('gbrap', 'rgb', [1, 1], 8, true),
  ya16be: planar('gbrap16le', 'rgb', [1, 1], 16, true),
};

/**
 * How samples of an ffmpeg pixel format are delivered. Formats without a lossless planar form
 * become 16-bit RGB.
 */
export function delivered(pixelFormat: string): Delivered {
  const known = PACKED[pixelFormat];
  if (known) return known;
  const yuv = /^yuv(a?)(j?)(420|422|444|440|411|410)p(9|10|12|14|16)?(?:le|be)?$/.exec(pixelFormat);
  if (yuv) {
    const [, a, j, c, d] = yuv;
    return planar(
      `yuv${a}${j}${c}p${d ? `${d}le` : ''}`,
      'yuv',
      CHROMA[c!]!,
      Number(d ?? 8),
      a === 'a',
      j === 'j',
    );
  }
  const rgb = /^gbr(a?)p(9|10|12|14|16)?(?:le|be)?$/.exec(pixelFormat);
  if (rgb)
    return planar(
      `gbr${rgb[1]}p${rgb[2] ? `${rgb[2]}le` : ''}`,
      'rgb',
      [1, 1],
      Number(rgb[2] ?? 8),
      rgb[1] === 'a',
    );
  const alpha = /^(rgba|bgra|argb|abgr)(64)?/.exec(pixelFormat);
  if (alpha)
    return alpha[2]
      ? planar('gbrap16le', 'rgb', [1, 1], 16, true)
      : planar('gbrap', 'rgb', [1, 1], 8, true);
  if (/^(rgb24|bgr24|rgb0|bgr0|0rgb|0bgr)$/.test(pixelFormat))
    return planar('gbrp', 'rgb', [1, 1], 8);
  return planar('gbrp16le', 'rgb', [1, 1], 16);
}

/**
 * The order in which our planes are taken from ffmpeg's: it stores planar RGB as green, blue, red
 * (and coverage).
 */
export const planeOrder = (d: { layout: string; alpha: boolean }): number[] | undefined =>
  d.layout === 'rgb' ? [2, 0, 1, ...(d.alpha ? [3] : [])] : undefined;
