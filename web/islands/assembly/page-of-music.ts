/** Where things lie on the page of music: lines, their parts, and frames under the pointer. */
import {
  beatsAs,
  type CutDocument,
  type CutSound,
  inLine,
  type Place,
  placesInOrder,
  type Row,
  SOUND_RATE,
  type Stretch,
} from '../../../core';
import { type Rate } from '../../../core/time';
import type { SoundView } from '../../data/views';

/** The sound that the page follows. */
export const songOf = ({ sounds, song }: CutDocument): CutSound | undefined =>
  sounds.find((s) => s.key === song) ?? sounds[0];

/** Beats and bars of the song in seconds of the cut, as far as it is heard. */
export function beatsOfCut(
  cut: CutDocument,
  sounds: readonly SoundView[],
): { readonly beats: readonly number[]; readonly bars: readonly number[] } {
  const song = songOf(cut),
    of = sounds.find((s) => s.id === song?.sound);
  if (!song || !of || of.beats.length === 0) return { beats: [], bars: [] };
  const { beats, bars } = beatsAs(of.beats, of.said);
  const there = (all: readonly number[]): number[] =>
    all
      .map((b) => b * SOUND_RATE)
      .filter((b) => b >= song.from && b < song.from + song.samples)
      .map((b) => (b - song.from + song.at) / SOUND_RATE);
  return { beats: there(beats), bars: there(bars) };
}

/** A part of a place that lies in a line, in shares of the line's width. */
export interface Part {
  readonly place: Place;
  readonly left: number;
  readonly width: number;
  /** Whether the place begins and ends in this line. */
  readonly begins: boolean;
  readonly ends: boolean;
}
const shareIn = (line: Stretch, frame: number): number =>
  (frame - line.from) / (line.to - line.from);

/** The parts of a row's places that lie in a line. */
export const partsIn = (row: Row, line: Stretch): readonly Part[] =>
  row.places.flatMap((place): Part[] => {
    const to = place.at + place.frames,
      part = inLine(line, place.at, to);
    if (!part) return [];
    return [
      {
        place,
        left: shareIn(line, part.from),
        width: shareIn(line, part.to) - shareIn(line, part.from),
        begins: part.from === place.at,
        ends: part.to === to,
      },
    ];
  });

/** Overlaps of a row with frames in a line, with the place that comes. */
export function overlapsIn(
  row: Row,
  line: Stretch,
): readonly (Stretch & { readonly place: Place })[] {
  let end = 0;
  return placesInOrder(row).flatMap((place) => {
    const to = Math.min(end, place.at + place.frames);
    end = Math.max(end, place.at + place.frames);
    return to > place.at && inLine(line, place.at, to) ? [{ place, from: place.at, to }] : [];
  });
}

/** The part of a sound that lies in a line: in shares of its width, and in samples of the sound. */
export function soundIn(
  { at, samples, from }: CutSound,
  line: Stretch,
  rate: Rate,
):
  | { readonly left: number; readonly width: number; readonly from: number; readonly to: number }
  | undefined {
  const each = (SOUND_RATE * rate[1]) / rate[0];
  const [begins, ends] = [Math.max(at, line.from * each), Math.min(at + samples, line.to * each)];
  if (begins >= ends) return undefined;
  const left = shareIn(line, begins / each);
  return {
    left,
    width: shareIn(line, ends / each) - left,
    from: from + begins - at,
    to: from + ends - at,
  };
}

/** The nearest of some frames within a distance; else the frame itself. */
export function snapped(frame: number, to: readonly number[], within: number): number {
  let best = frame,
    least = within + 1e-9;
  for (const f of to)
    if (Math.abs(f - frame) < least) {
      best = f;
      least = Math.abs(f - frame);
    }
  return best;
}

/** A time of the cut: minutes, seconds and frames. */
export function timeWords(frame: number, rate: Rate): string {
  const per = rate[0] / rate[1],
    seconds = Math.floor(frame / per + 1e-9);
  const rest = frame - Math.ceil(seconds * per - 1e-9);
  const two = (n: number): string => String(n).padStart(2, '0');
  return `${Math.floor(seconds / 60)}:${two(seconds % 60)}+${two(rest)}`;
}
