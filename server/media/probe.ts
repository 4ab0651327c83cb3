/** Probes a file frame by frame. */
import { guessEncoding, isTagged } from '../../core';
import { nearestRate, type Rate, steady, unsteady } from '../../core/time';
import { doubtsInside } from './doubts';
import { type Footage, NotFootage } from './footage';
import { delivered } from './formats';
import { indexOf } from './frame-index';
import { mostPixels } from '../config/settings';
import { contentHash, leave, type Place, placeOf } from './place';
import { inPlainWords, isDiskFull, run, ToolFailed } from './run';
import {
  claimedFrames,
  doubts,
  fieldsOf,
  formatOf,
  fraction,
  missingOf,
  probed,
  type Stream,
  unreadMatrix,
} from './stream-facts';

/** Progress of probing, in frames. */
export interface Progress {
  readonly frames: number;
  readonly of: number;
}

/** Time limit for reading a file's description, ms. */
const PROBE_TIME = 30_000;

interface Described {
  readonly streams?: Stream[];
  readonly format?: { format_name?: string; size?: string; duration?: string };
}
async function described(place: Place, signal?: AbortSignal): Promise<Described> {
  const shown = ['-show_streams', '-show_format', '-of', 'json', ...probed(place)];
  const { out } = await run('ffprobe', shown, undefined, signal, PROBE_TIME);
  return JSON.parse(out.toString()) as Described;
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
    const read = await described(place, options.signal);
    const v = read.streams?.find((s) => s.codec_type === 'video' && !s.disposition?.attached_pic);
    if (!v?.pix_fmt || !v.width || !v.height)
      throw new NotFootage(
        `"${place.name}" holds no pictures that can be read: bring a video, a picture or a folder of pictures`,
      );
    if (v.width * v.height > mostPixels())
      throw new NotFootage(
        `"${place.name}" has ${v.width}×${v.height} pixels; at most ${(mostPixels() / 1e6).toFixed(0)} million a frame are read: make it smaller first`,
      );
    const unread = unreadMatrix(v);
    if (unread) throw new NotFootage(`"${place.name}" cannot be read right: ${unread}`);
    const pixels = place.decoder ? v.pix_fmt.replace(/^yuv(?!a)/, 'yuva') : v.pix_fmt;
    const turned =
      Math.abs(v.side_data_list?.find((s) => s.rotation !== undefined)?.rotation ?? 0) % 180 === 90;
    const [width, height] = turned ? [v.height, v.width] : [v.width, v.height];
    const coded = { width: v.width, height: v.height };
    const fields = place.kind === 'video' ? await fieldsOf(place, v, options.signal) : 'none';
    const format = formatOf({ ...v, pix_fmt: pixels }, width, height, coded, fields),
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
    const timed = place.kind === 'video' && index.times.every(Number.isFinite);
    const uneven = timed ? unsteady(index.times, rate) : undefined;
    if (uneven)
      throw new NotFootage(`"${place.name}" cannot be laid onto frames: ${uneven}: cut it first`);
    const even = timed
      ? steady(index.times, rate, index.last)
      : { rate, frames: index.hashes.length };
    const aspect = fraction(v.sample_aspect_ratio);
    const sounds = read.streams?.filter((s) => s.codec_type === 'audio') ?? [],
      [sound] = sounds;
    const claims =
      place.kind === 'video'
        ? claimedFrames(v, claimed, sounds.length > 0, read.format?.duration)
        : undefined;
    // Where frames are held the file does not claim more than it has.
    const laid = 'source' in even && even.source ? even.frames : index.hashes.length;
    const missing = missingOf(laid, claims);
    const inside = await doubtsInside(path, place, v, asked, options.signal);
    const warnings = [
      ...(place.notes ?? []),
      ...doubts(index.hashes.length, missing, index.said),
      ...inside.doubts,
    ];
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
      ...(place.sequence && { sequence: place.sequence }),
      ...(place.missing && { gaps: place.missing }),
      sound: sound
        ? {
            codec: sound.codec_name ?? '',
            channels: sound.channels ?? 1,
            rate: Number(sound.sample_rate),
            ...(sounds.length > 1 && { tracks: sounds.length }),
          }
        : null,
      proxyMatrix: 'own',
      guess:
        inside.encoding ??
        guessEncoding({
          transfer: v.color_transfer,
          primaries: v.color_primaries,
          matrix: v.color_space,
          still: place.kind !== 'video',
          rgb: asked.layout === 'rgb',
          ...coded,
        }),
      ...(place.kind === 'video' &&
        ![v.color_transfer, v.color_primaries, v.color_space].some(isTagged) && { untagged: true }),
      ...(missing > 0 && { missing }),
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
