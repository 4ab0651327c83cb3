import { motionOfFrames, packPair, type Tracked, trackedFrame } from '../../core/trace';
import { frames } from '../media/decode';
import type { AssetMaker } from './makers';

/** Measures the motion of footage pair by pair, on from a frame and then from the beginning. */
export const makeMotion: AssetMaker = async ({ facts, place, store, from, made, report }) => {
  const last = facts.frames - 1,
    known = new Set(made);
  /** Measures pairs from `first` up to `end`; false if they are no longer wanted. */
  const stretch = async (first: number, end: number): Promise<boolean> => {
    let frame = first;
    while (frame <= end && known.has(frame)) frame++;
    if (frame > end) return true;
    let before: Tracked | undefined;
    for await (const raw of frames(place, facts, frame, end + 1)) {
      const wanted = !known.has(frame - 1) || !known.has(frame);
      const now = wanted ? trackedFrame(raw) : undefined;
      if (before && now && !known.has(frame - 1)) {
        await store.write(frame - 1, packPair(motionOfFrames(before, now)));
        known.add(frame - 1);
      }
      before = now;
      frame++;
      if (!(await report(known.size, last))) return false;
    }
    return true;
  };
  const begin = Math.max(0, Math.min(last - 1, from));
  return last < 1 || ((await stretch(begin, last - 1)) && (await stretch(0, begin - 1)));
};
