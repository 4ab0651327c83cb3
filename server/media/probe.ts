/** Probes a file frame by frame. */
import {
  type Fields,
  type FrameFormat,
  guessEncoding,
  isTagged,
  likelyBt601,
  SITINGS,
} from '../../core';
import { nearestRate, type Rate, steady } from '../../core/time';
import { type Footage, NotFootage } from './footage';
import { delivered } from './formats';
import { mostPixels } from '../config/settings';
import { contentHash, leave, type Place, placeOf } from './place';
import { inPlainWords, isDiskFull, run, ToolFailed } from './run';

interface Stream {
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

const fraction = (s: string | undefined): Rate | undefined => {
  const [n, d] = (s ?? '').split(/[/:]/).map(Number);
  return n && d && Number.isSafeInteger(n) && n / d <= 1000 ? [n, d] : undefined;
};

/** Codecs with chroma centred between luma samples both ways (JFIF 1.02; WebP). */
const CENTRED = new Set(['mjpeg', 'mjpegb', 'webp']);
/** ffprobe's field orders (first as coded, first as shown), by the one shown first. */
const ORDERS: Readonly<Record<string, Fields>> = {
  tt: 'top',
  bt: 'top',
  bb: 'bottom',
  tb: 'bottom',
};

function formatOf(v: Stream, width: number, height: number): FrameFormat {
  const d = delivered(v.pix_fmt!);
  const space = v.color_space ?? '';
  const matrix = space.startsWith('bt2020')
    ? 'bt2020'
    : /smpte170m|bt470bg|fcc/.test(space)
      ? 'bt601'
      : space === 'bt709'
        ? 'bt709'
        : d.jpeg || likelyBt601({ width, height })
          ? 'bt601'
          : 'bt709';
  const halved = d.layout === 'yuv' && d.chroma.includes(2);
  const siting =
    SITINGS.find((s) => s === v.chroma_location) ??
    (CENTRED.has(v.codec_name ?? '') ? 'center' : 'left');
  const fields = ORDERS[v.field_order ?? ''] ?? 'none';
  return {
    width,
    height,
    layout: d.layout,
    chroma: d.chroma,
    depth: d.depth,
    alpha: d.alpha,
    full: d.jpeg || v.color_range === 'pc' || d.layout !== 'yuv',
    matrix,
    ...(halved && siting !== 'left' && { siting }),
    ...(fields !== 'none' && { fields }),
  };
}

const DAMAGED =
  /premature|truncat|Invalid data|corrupt|rror while decoding|partial file|moov atom not found|invalid NAL|Invalid NAL/;

/** Times in the stream's own time base; by default ffmpeg rounds them to its average rate. */
const OWN_TICKS = ['-enc_time_base', '-1'];

/** Presentation time (seconds from the first) and hash of every frame. */
async function indexOf(
  place: Place,
  pixelFormat: string,
  onFrame: (count: number) => void,
  signal?: AbortSignal,
): Promise<{ times: number[]; hashes: string[]; last: number; said: string }> {
  let base = 1;
  const times: number[] = [],
    hashes: string[] = [];
  let last = 0;
  const line = (s: string): void => {
    const tb = /^#tb 0: (\d+)\/(\d+)/.exec(s);
    if (tb) base = Number(tb[1]) / Number(tb[2]);
    if (s.startsWith('#') || !s.includes(',')) return;
    const [, , pts, duration, , hash] = s.split(',').map((c) => c.trim());
    times.push(Number(pts) * base);
    last = Number(duration) * base;
    hashes.push(hash!);
    onFrame(hashes.length);
  };
  const { said } = await run(
    'ffmpeg',
    [
      ...place.open,
      '-map',
      '0:v:0',
      '-fps_mode',
      'passthrough',
      ...OWN_TICKS,
      '-pix_fmt',
      pixelFormat,
      '-f',
      'framehash',
      '-hash',
      'md5',
      '-',
    ],
    line,
    signal,
  );
  const damage = said.split('\n').find((l) => DAMAGED.test(l));
  if (damage)
    throw new NotFootage(
      `"${place.name}" is damaged or cut short after frame ${hashes.length} (${inPlainWords(damage)}): copy it again from its source`,
    );
  const first = times[0] ?? 0;
  return { times: times.map((t) => t - first), hashes, last, said };
}

/** Progress of probing, in frames. */
export interface Progress {
  readonly frames: number;
  readonly of: number;
}

/** Options of ffmpeg that ffprobe does not have. */
const NOT_PROBES = new Set(['-c:v']);
/** Time limit for reading a file's description, ms. */
const PROBE_TIME = 30_000;

/** Number of frames according to the container; undefined if it does not say. */
function claimedFrames(
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

/**
 * Differences between the container's claims and the decoded frames, and the decoder's complaints.
 */
function doubts(found: number, claimed: number | undefined, said: string): string[] {
  const complaint = inPlainWords(said).split('\n')[0];
  return [
    ...(claimed !== undefined && found < claimed - 1 - claimed * 0.02
      ? [`${found} frames could be read of the ${claimed} that the file says it holds`]
      : []),
    ...(complaint ? [`it is damaged in places (${complaint.slice(0, 160)})`] : []),
  ];
}

/** All facts about a file or folder. Throws `NotFootage` with what to do. */
export async function probe(
  path: string,
  options: {
    rate?: Rate;
    place?: Place;
    hash?: string;
    onProgress?: (p: Progress) => void;
    signal?: AbortSignal;
  } = {},
): Promise<Footage> {
  const place = options.place ?? (await placeOf(path, { rate: options.rate }));
  try {
    const read = JSON.parse(
      (
        await run(
          'ffprobe',
          [
            '-show_streams',
            '-show_format',
            '-of',
            'json',
            ...place.open.filter(
              (a, i, all) => !NOT_PROBES.has(a) && !NOT_PROBES.has(all[i - 1] ?? ''),
            ),
          ],
          undefined,
          options.signal,
          PROBE_TIME,
        )
      ).out.toString(),
    ) as {
      streams?: Stream[];
      format?: { format_name?: string; size?: string; duration?: string };
    };
    const v = read.streams?.find((s) => s.codec_type === 'video' && !s.disposition?.attached_pic);
    if (!v?.pix_fmt || !v.width || !v.height)
      throw new NotFootage(
        `"${place.name}" holds no pictures that can be read: bring a video, a picture or a folder of pictures`,
      );
    if (v.width * v.height > mostPixels())
      throw new NotFootage(
        `"${place.name}" has ${v.width}×${v.height} pixels; at most ${(mostPixels() / 1e6).toFixed(0)} million a frame are read: make it smaller first`,
      );
    const pixels = place.decoder ? v.pix_fmt.replace(/^yuv(?!a)/, 'yuva') : v.pix_fmt;
    const turned =
      Math.abs(v.side_data_list?.find((s) => s.rotation !== undefined)?.rotation ?? 0) % 180 === 90;
    const [width, height] = turned ? [v.height, v.width] : [v.width, v.height];
    const format = formatOf({ ...v, pix_fmt: pixels }, width, height),
      asked = delivered(pixels);
    const claimed = fraction(v.avg_frame_rate) ?? fraction(v.r_frame_rate) ?? [25, 1];
    const of = Math.round((Number(read.format?.duration) || 0) * (claimed[0] / claimed[1]));
    const index = await indexOf(
      place,
      asked.ask,
      (frames) => options.onProgress?.({ frames, of }),
      options.signal,
    );
    if (index.hashes.length === 0)
      throw new NotFootage(`"${place.name}" has no frames: it was cut short or holds only sound`);
    const rate = place.kind === 'video' ? snapped(claimed) : (options.rate ?? [25, 1]);
    const even =
      place.kind === 'video'
        ? steady(index.times, rate, index.last)
        : { rate, frames: index.hashes.length };
    const aspect = fraction(v.sample_aspect_ratio);
    const sound = read.streams?.find((s) => s.codec_type === 'audio');
    const claims =
      place.kind === 'video'
        ? claimedFrames(v, claimed, sound !== undefined, read.format?.duration)
        : undefined;
    const warnings = doubts(index.hashes.length, claims, index.said);
    return {
      kind: place.kind,
      hash: options.hash ?? (await contentHash(path, place)),
      bytes: Number(read.format?.size) || 0,
      codec: v.codec_name ?? '',
      container: read.format?.format_name ?? '',
      format,
      pixelFormat: asked.ask,
      pixelAspect:
        aspect && aspect[0] > 0 ? (turned ? aspect[1] / aspect[0] : aspect[0] / aspect[1]) : 1,
      rate: even.rate,
      frames: even.frames,
      ...('source' in even && even.source && { slots: even.source }),
      sound: sound
        ? {
            codec: sound.codec_name ?? '',
            channels: sound.channels ?? 1,
            rate: Number(sound.sample_rate),
          }
        : null,
      proxyMatrix: 'own',
      guess: guessEncoding({
        transfer: v.color_transfer,
        primaries: v.color_primaries,
        matrix: v.color_space,
        still: place.kind !== 'video',
        width,
        height,
      }),
      ...(place.kind === 'video' &&
        ![v.color_transfer, v.color_primaries, v.color_space].some(isTagged) && { untagged: true }),
      ...(warnings.length > 0 && { warnings }),
      index: { times: index.times, hashes: index.hashes },
    };
  } catch (e) {
    if (isDiskFull(e)) throw e;
    if (e instanceof ToolFailed)
      throw new NotFootage(
        `"${place.name}" cannot be read as footage (${inPlainWords(e.said).split('\n')[0] || 'no reason given'}): bring a video, a picture or a folder of pictures`,
      );
    throw e;
  } finally {
    if (!options.place) await leave(place);
  }
}

/** Containers' average rates are often off by a tick or two. */
const snapped = (r: Rate): Rate => {
  const near = nearestRate(r[0] / r[1]);
  return near[1] === 1000 ? r : near;
};
