/** Tracks made smoother: what trembles by a part of a pixel shows in what hangs on it. */
import { expd } from '../kernel';
import { MARKED, shotAround, sureOf, type Track, trackPlace, type TrackPlace } from './track';

/** Most frames either way over which a track is smoothed. */
export const MOST_SMOOTH = 25;

/**
 * A track of which each place is a mean of those up to `reach` frames before and behind (a Gauss
 * bell of half that deviation). The window is the same to both sides and narrows towards marks, cuts
 * and frames where it is lost: marks stay where they are, and so does what moves steadily.
 */
export function smoothed(track: Track, reach: number, cuts: readonly number[]): Track {
  if (reach <= 0) return track;
  const { places } = track;
  const weights = Array.from({ length: reach + 1 }, (_, k) => expd((-2 * k * k) / (reach * reach)));
  /** How many frames from here on are known and can be averaged, up to the reach. */
  const room = (f: number, by: 1 | -1, end: number): number => {
    let k = 0;
    while (
      k < reach &&
      f + by * k !== end &&
      places[f + by * (k + 1)]?.length === places[f]!.length
    ) {
      k++;
      if (sureOf(places[f + by * k]) === MARKED) break;
    }
    return k;
  };
  return {
    ...track,
    places: places.map((place, f): TrackPlace | null => {
      if (!place || sureOf(place) === MARKED) return place;
      const [first, last] = shotAround(f, places.length, cuts);
      const wide = Math.min(room(f, -1, first), room(f, 1, last));
      const sum = new Float64Array(place.length - 1);
      let all = 0;
      for (let k = -wide; k <= wide; k++) {
        const w = weights[Math.abs(k)]!;
        all += w;
        sum.forEach((v, i) => (sum[i] = v + w * places[f + k]![i]!));
      }
      const mean = Array.from(sum, (v) => v / all);
      return wide === 0 ? place : trackPlace(mean, place.at(-1)!);
    }),
  };
}
