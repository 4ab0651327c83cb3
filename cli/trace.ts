/** `trace`: where what lies under marks goes, frame by frame; and tracks as files. */
import { readFile, writeFile } from 'node:fs/promises';
import { extname } from 'node:path';
import type { Option } from 'commander';
import {
  isPlaceKindId,
  type Mark,
  PLACE_KIND_IDS,
  type PlaceKindId,
  sureOf,
  type TraceGiven,
  type Track,
} from '../core';
import {
  MOST_SMOOTH,
  TRACK_FILES,
  trackByHand,
  type TrackFile,
  trackFollowed,
  trackFrom,
  trackText,
} from '../core/trace';
import { cutsOf } from '../server/media/cuts';
import type { Footage } from '../server/media/footage';
import { leave, type Place, placeOf } from '../server/media/place';
import { probe } from '../server/media/probe';
import { sizesIn } from '../server/media/tracks';
import { flag, needed, one, Usage, value, type Words } from './args';
import { placeFrom, placeWords } from './places';

/** Options of `trace`. */
export const TRACE_OPTIONS: readonly Option[] = [
  value('in', 'file', 'a video, a picture or a folder of pictures'),
  value('kind', 'kind', `what is marked: ${PLACE_KIND_IDS.join(', ')}; a point without`),
  value('mark', 'frame:x,y', 'a place on a frame, in per cent across and down; several marks'),
  flag('by-hand', 'straight from mark to mark; otherwise what lies under them is followed'),
  value('smooth', 'frames', `averaged over so many before and behind, up to ${MOST_SMOOTH}`),
  value('out', 'file', 'the track, as .json or .csv'),
];

function marksFrom(w: Words, kind: PlaceKindId, frames: number): Mark[] {
  const all = w.flags.get('mark') ?? [];
  if (all.length === 0) throw new Usage('--mark is missing: say where it is, like 32:31.5,40');
  return all.map((text) => {
    const [, at, words = ''] = /^(\d+):(.*)$/.exec(text) ?? [];
    const frame = Number(at),
      place = at === undefined ? undefined : placeFrom(kind, words);
    if (!place) throw new Usage(`--mark ${text} must be a frame, a colon, and ${placeWords(kind)}`);
    if (frame >= frames)
      throw new Usage(`--mark ${text}: the footage has the frames 0 to ${frames - 1}`);
    return { frame, ...place };
  });
}

function smoothFrom(w: Words): number {
  const text = one(w, 'smooth') ?? '0',
    frames = Number(text);
  if (!Number.isInteger(frames) || frames < 0 || frames > MOST_SMOOTH)
    throw new Usage(`--smooth ${text} must be a number of frames, 0 to ${MOST_SMOOTH}`);
  return frames;
}

/** Traces marks on footage and writes the track; words on how sure it is. Throws `Usage`. */
export async function trace(w: Words): Promise<string> {
  const from = needed(w, 'in'),
    out = needed(w, 'out'),
    as = trackFile(out);
  if (!as) throw new Usage(`--out ${out} must end in .json or .csv`);
  const kind = w.flags.get('kind')?.at(-1) ?? 'point';
  if (!isPlaceKindId(kind))
    throw new Usage(`--kind ${kind} must be one of ${PLACE_KIND_IDS.join(', ')}`);
  const place = await placeOf(from);
  try {
    const facts = await probe(from, { place });
    const given = {
      kind,
      marks: marksFrom(w, kind, facts.frames),
      cuts: await cutsOf(place, facts),
      smooth: smoothFrom(w),
    };
    const track = w.flags.has('by-hand')
      ? trackByHand(given, facts.frames)
      : await followedIn(place, facts, given);
    await writeFile(out, textOf(track, as));
    const count = (is: (sure: number) => boolean) =>
      track.places.filter((p) => is(sureOf(p))).length;
    const [sure, unsure, lost] = [
      count((s) => s >= 1),
      count((s) => s > 0 && s < 1),
      count((s) => s === 0),
    ];
    return `${track.places.length} frames: sure on ${sure}, unsure on ${unsure}, lost on ${lost}`;
  } finally {
    await leave(place);
  }
}
async function followedIn(
  place: Place,
  facts: Footage,
  given: Omit<TraceGiven, 'follow'>,
): Promise<Track> {
  const sizes = sizesIn(place, facts);
  return (await trackFollowed(given, facts.frames, sizes.at).finally(sizes.close))!;
}
function textOf(track: Track, as: TrackFile): string {
  try {
    return trackText(track, as);
  } catch (e) {
    throw new Usage(`--out: ${(e as Error).message}`);
  }
}
/** How a file holds a track, by its ending; undefined if it holds none. */
export const trackFile = (file: string): TrackFile | undefined =>
  TRACK_FILES.find((ending) => ending === extname(file).toLowerCase());
/** A track from a file that `trace` wrote, or another program. Throws `Usage`. */
export async function trackIn(key: string, file: string, as: TrackFile): Promise<Track> {
  try {
    return trackFrom(await readFile(file, 'utf8'), as);
  } catch (e) {
    throw new Usage(`--pin ${key}: ${file} cannot be read as a track: ${(e as Error).message}`);
  }
}
