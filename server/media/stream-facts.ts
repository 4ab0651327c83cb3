/** What a stream of a file is, from ffprobe's description of it. */
import {
  type Fields,
  FLOAT,
  type FrameFormat,
  likelyBt601,
  type MatrixId,
  SITINGS,
} from '../../core';
import type { Rate } from '../../core/time';
import { delivered } from './formats';
import type { Place } from './place';
import { inPlainWords, run } from './run';

/** A stream as ffprobe describes it. */
export interface Stream {
  codec_type: string;
  codec_name?: string;
  pix_fmt?: string;
  width?: number;
  height?: number;
  r_frame_rate?: string;
  avg_frame_rate?: string;
  color_range?: string;
  color_space?: string;
  color_transfer?: string;
  color_primaries?: string;
  chroma_location?: string;
  field_order?: string;
  sample_aspect_ratio?: string;
  channels?: number;
  sample_rate?: string;
  side_data_list?: { rotation?: number }[];
  disposition?: { attached_pic?: number };
  nb_frames?: string;
  duration?: string;
  tags?: Record<string, string>;
}

/** A rate or ratio from ffprobe's `n/d` or `n:d`. */
export const fraction = (s: string | undefined): Rate | undefined => {
  const [n, d] = (s ?? '').split(/[/:]/).map(Number);
  return n && d && Number.isSafeInteger(n) && n / d <= 1000 ? [n, d] : undefined;
};

/** Codecs with chroma centred between luma samples both ways (JFIF 1.02; WebP). */
const CENTRED = new Set(['mjpeg', 'mjpegb', 'webp']);
/** ffprobe's names of the matrices that are read, beside those that begin with `bt2020`. */
const MATRIX: Readonly<Record<string, MatrixId>> = {
  bt709: 'bt709',
  smpte170m: 'bt601',
  bt470bg: 'bt601',
  fcc: 'bt601',
  smpte240m: 'smpte240m',
  bt2020nc: 'bt2020',
};
/** Tags that say nothing about the matrix of samples in luma and chroma. */
const SILENT = new Set(['', 'unknown', 'unspecified', 'reserved', 'gbr', 'rgb']);
/** Why a matrix is not read; undefined if it is. */
export const unreadMatrix = ({ color_space: space = '' }: Stream): string | undefined =>
  SILENT.has(space) || MATRIX[space]
    ? undefined
    : `its colours are stored by the matrix "${space}", which is not read: convert it to ` +
      (space === 'bt2020c'
        ? 'BT.2020 with non-constant luminance'
        : 'a Y′CbCr matrix (BT.709, BT.601, BT.2020 non-constant)') +
      ' or to RGB first';

/** ffprobe's field orders (first as coded, first as shown), by the one shown first. */
const ORDERS: Readonly<Record<string, Fields>> = {
  tt: 'top',
  bt: 'top',
  bb: 'bottom',
  tb: 'bottom',
};

/** The format of a stream's frames. `coded`: their size before they are turned. */
export function formatOf(
  v: Stream,
  width: number,
  height: number,
  coded: { readonly width: number; readonly height: number },
  fields: Fields = ORDERS[v.field_order ?? ''] ?? 'none',
): FrameFormat {
  const d = delivered(v.pix_fmt!);
  const matrix = MATRIX[v.color_space ?? ''] ?? (d.jpeg || likelyBt601(coded) ? 'bt601' : 'bt709');
  const shared = d.layout === 'yuv' && d.chroma.some((n) => n > 1);
  const siting =
    SITINGS.find((s) => s === v.chroma_location) ??
    (CENTRED.has(v.codec_name ?? '') ? 'center' : 'left');
  return {
    width,
    height,
    layout: d.layout,
    chroma: d.chroma,
    depth: d.depth,
    alpha: d.alpha,
    ...(d.alpha && d.depth === FLOAT && { multiplied: true }),
    full: d.jpeg || v.color_range === 'pc' || d.layout !== 'yuv',
    matrix,
    ...(shared && siting !== 'left' && { siting }),
    ...(fields !== 'none' && { fields }),
  };
}

/**
 * The fields of a stream that does not speak of them (DV), by its first frames: two fields each if
 * most say so.
 */
export async function fieldsOf(place: Place, v: Stream, signal?: AbortSignal): Promise<Fields> {
  const said = v.field_order ?? 'unknown';
  if (said !== 'unknown') return ORDERS[said] ?? 'none';
  const shown = 'frame=interlaced_frame,top_field_first';
  const read = ['-select_streams', 'v:0', '-show_entries', shown, '-of', 'csv=p=0'];
  const orders: Fields[] = [];
  await run(
    'ffprobe',
    [...read, '-read_intervals', '%+#8', ...probed(place)],
    (line) => {
      const [two, top] = line.split(',');
      if (two) orders.push(two === '0' ? 'none' : top?.startsWith('1') ? 'top' : 'bottom');
    },
    signal,
  );
  const woven = orders.filter((o) => o !== 'none');
  return woven.length * 2 > orders.length ? woven[0]! : 'none';
}

/** Options of ffmpeg that ffprobe does not have. */
const NOT_PROBES = new Set(['-c:v']);
/** How ffprobe opens a place. */
export const probed = (place: Place): string[] =>
  place.open.filter((a, i, all) => !NOT_PROBES.has(a) && !NOT_PROBES.has(all[i - 1] ?? ''));

/** Number of frames according to the container; undefined if it does not say. */
export function claimedFrames(
  v: Stream,
  rate: Rate,
  hasSound: boolean,
  duration: string | undefined,
): number | undefined {
  if (Number(v.nb_frames) > 0) return Number(v.nb_frames);
  const tag = /^(\d+):(\d+):([\d.]+)/.exec(v.tags?.['DURATION'] ?? '');
  const seconds =
    Number(v.duration) ||
    (tag
      ? Number(tag[1]) * 3600 + Number(tag[2]) * 60 + Number(tag[3])
      : hasSound
        ? 0
        : Number(duration));
  return seconds > 0 ? Math.round((seconds * rate[0]) / rate[1]) : undefined;
}

/** Frames that a file claims beyond those that were read; 0 within what claims are rounded by. */
export const missingOf = (found: number, claimed: number | undefined): number =>
  claimed !== undefined && found < claimed - 1 - claimed * 0.02 ? claimed - found : 0;

/** What a file's missing frames and its decoder's complaints leave in doubt. */
export function doubts(found: number, missing: number, said: string): string[] {
  const complaint = inPlainWords(said).split('\n')[0];
  return [
    ...(missing > 0
      ? [`${found} frames could be read of the ${found + missing} that the file says it holds`]
      : []),
    ...(complaint ? [`it is damaged in places (${complaint.slice(0, 160)})`] : []),
  ];
}
