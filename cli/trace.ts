/** `trace`: where what lies under marks goes, frame by frame; and tracks as files. */
import { readFile, writeFile } from 'node:fs/promises';
import { extname } from 'node:path';
import type { Option } from 'commander';
import { type Mark, type Track } from '../core';
import {
  TRACK_FILES,
  trackByHand,
  type TrackFile,
  trackFollowed,
  trackFrom,
  trackText,
} from '../core/trace';
import { cutsOf } from '../server/media/cuts';
import { leave, placeOf } from '../server/media/place';
import { probe } from '../server/media/probe';
import { sizesIn } from '../server/media/tracks';
import { flag, needed, Usage, value, type Words } from './args';

/** Options of `trace`. */
export const TRACE_OPTIONS: readonly Option[] = [
  value('in', 'file', 'a video, a picture or a folder of pictures'),
  value('mark', 'frame:x,y', 'a place on a frame, in per cent across and down; several marks'),
  flag('by-hand', 'straight from mark to mark; otherwise what lies under them is followed'),
  value('out', 'file', 'the track, as .json or .csv'),
];

function marksFrom(w: Words, frames: number): Mark[] {
  const all = w.flags.get('mark') ?? [];
  if (all.length === 0) throw new Usage('--mark is missing: say where it is, like 32:31.5,40');
  return all.map((text) => {
    const [, frame, x, y] = /^(\d+):(-?[\d.]+),(-?[\d.]+)$/.exec(text) ?? [];
    const mark = { frame: Number(frame), x: Number(x) / 100, y: Number(y) / 100 };
    if (![mark.frame, mark.x, mark.y].every(Number.isFinite))
      throw new Usage(`--mark ${text} must be like 32:31.5,40 (frame, per cent across and down)`);
    if (mark.frame >= frames)
      throw new Usage(`--mark ${text}: the footage has the frames 0 to ${frames - 1}`);
    return mark;
  });
}

/** Traces marks on footage and writes the track; words on how sure it is. Throws `Usage`. */
export async function trace(w: Words): Promise<string> {
  const from = needed(w, 'in'),
    out = needed(w, 'out'),
    as = trackFile(out);
  if (!as) throw new Usage(`--out ${out} must end in .json or .csv`);
  const place = await placeOf(from);
  try {
    const facts = await probe(from, { place });
    const marks = marksFrom(w, facts.frames),
      cuts = await cutsOf(place, facts);
    const sizes = sizesIn(place, facts);
    const track = w.flags.has('by-hand')
      ? trackByHand(marks, facts.frames, cuts)
      : (await trackFollowed(marks, facts.frames, cuts, sizes.at).finally(sizes.close))!;
    await writeFile(out, trackText(track, as));
    const count = (is: (sure: number) => boolean) =>
      track.places.filter((p) => is(p?.[2] ?? 0)).length;
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
