/** When places stand, and which frames of their clips are shown. */
import { SOUND_RATE, samplesOf } from '../sound';
import type { FrameIndex, Rate } from '../time';
import { allPlaces, type CutDocument, endOf, type Place, type Row } from './document';

/**
 * The frame of something at rate `of` that a project frame shows: the latest at or before the
 * middle of that frame's time. Both count from the same moment.
 */
export const latestAt = (frame: FrameIndex, project: Rate, of: Rate): FrameIndex =>
  Math.floor(((2 * frame + 1) * project[1] * of[0]) / (2 * project[0] * of[1]));

/** Frames at rate `of` that a number of project frames shows, from the first to the last. */
export const framesFor = (frames: number, project: Rate, of: Rate): number =>
  latestAt(frames - 1, project, of) + 1;

/** The first project frame that shows a frame at rate `of`, or one after it. */
export const firstShowing = (frame: FrameIndex, project: Rate, of: Rate): FrameIndex =>
  Math.max(
    0,
    Math.ceil((2 * frame * project[0] * of[1] - project[1] * of[0]) / (2 * project[1] * of[0])),
  );

/** The most project frames for which so many frames at rate `of` last. */
export function lastsFor(frames: number, project: Rate, of: Rate): number {
  let most = Math.max(1, Math.floor((frames * of[1] * project[0]) / (of[0] * project[1])) - 1);
  while (framesFor(most + 1, project, of) <= frames) most++;
  return framesFor(most, project, of) > frames ? Math.max(1, most - 1) : most;
}

/** Number of project frames of a cut: to the end of its last place, and of its last sound. */
export function lengthOfCut(cut: CutDocument, rate: Rate): number {
  const pictures = allPlaces(cut).reduce((end, p) => Math.max(end, endOf(p)), 0);
  const sounds = cut.sounds.reduce((end, s) => Math.max(end, s.at + s.samples), 0);
  let heard = Math.ceil((sounds * rate[0]) / (SOUND_RATE * rate[1]));
  while (heard > 0 && samplesOf(heard - 1, rate) >= sounds) heard--;
  return Math.max(pictures, heard);
}

/** The places of a row in the order in which they begin. */
export const inOrder = (row: Row): readonly Place[] =>
  row.places.every((p, i) => i === 0 || row.places[i - 1]!.at <= p.at)
    ? row.places
    : [...row.places].sort((a, b) => a.at - b.at);

/** The places of a row that stand at a frame, from below. */
export const standingAt = (row: Row, frame: FrameIndex): readonly Place[] =>
  inOrder(row).filter((p) => p.at <= frame && frame < endOf(p));

/** A stretch of project frames: its first, and the one after its last. */
export interface Stretch {
  readonly from: FrameIndex;
  readonly to: FrameIndex;
}
/**
 * Where a place overlaps those that stand before it in its row; undefined if it does not. What ends
 * last of them counts, up to the place's own end.
 */
export function overlapOf(row: Row, place: Place): Stretch | undefined {
  const ordered = inOrder(row);
  const before = ordered.slice(0, ordered.indexOf(place));
  const to = Math.min(
    endOf(place),
    before.reduce((end, p) => Math.max(end, endOf(p)), 0),
  );
  return to > place.at ? { from: place.at, to } : undefined;
}
