/** The pictures of a cut, frame by frame, from the footage of its places. */
import {
  type Cut,
  type CutClip,
  cutPicture,
  type CutShot,
  cutShots,
  type ImageNode,
  type Size,
  type SourceFrames,
} from '../../core';
import type { FootageReader } from '../media/footage-reader';
import { type FrameSpec, pictureAt } from './render';

/** A clip under its look, ready to be read and planned. */
export interface OpenShots {
  readonly spec: Omit<FrameSpec, 'samples' | 'outEncoding'>;
  readonly reader: FootageReader;
}
/** Where the pictures of something come from. */
export interface Pictures {
  /** A frame's picture, without samples; undefined if motion must be measured first. */
  expected(frame: number): Promise<ImageNode | undefined>;
  /** A frame's picture, and its number as the looks in it count. */
  at(frame: number): Promise<{ readonly picture: ImageNode; readonly counts: number }>;
  close(): Promise<void>;
}

/** The pictures of one clip. */
export const clipPictures = ({ spec, reader }: OpenShots): Pictures => ({
  async expected(frame) {
    const sources = await reader.expected(frame);
    return sources && pictureAt(sources, frame, spec);
  },
  at: async (frame) => ({ picture: pictureAt(await reader.at(frame), frame, spec), counts: frame }),
  close: () => reader.close(),
});

const nameOf = ({ place, frame }: CutShot): string => `${place.key} ${frame}`;
/** Places of a cut whose footage is open at once; those that were shown last stay. */
const MOST_OPEN = 8;

/** The pictures of a cut at a size. `open`: a clip at its place, called once while it is shown. */
export function cutPictures<C extends CutClip>(
  cut: Cut<C>,
  size: Size,
  open: (shot: CutShot<C>) => Promise<OpenShots>,
): Pictures {
  const opened = new Map<string, OpenShots>();
  const shotsOf = async (shot: CutShot<C>): Promise<OpenShots> => {
    const { key } = shot.place,
      known = opened.get(key) ?? (await open(shot));
    opened.delete(key);
    opened.set(key, known);
    return known;
  };
  const closeOldest = async (needed: number): Promise<void> => {
    for (const [key, { reader }] of opened) {
      if (opened.size <= Math.max(MOST_OPEN, needed)) return;
      opened.delete(key);
      await reader.close();
    }
  };
  const pictures = async (
    frame: number,
    read: (r: FootageReader, at: readonly number[]) => Promise<SourceFrames[] | undefined>,
  ): Promise<{ readonly picture: ImageNode; readonly counts: number } | undefined> => {
    const shots = cutShots(cut, frame);
    const byPlace = new Map<string, CutShot<C>[]>();
    for (const shot of shots)
      byPlace.set(shot.place.key, [...(byPlace.get(shot.place.key) ?? []), shot]);
    const gathered = new Map<
      string,
      { readonly sources: SourceFrames; readonly spec: OpenShots['spec'] }
    >();
    for (const of of byPlace.values()) {
      const { spec, reader } = await shotsOf(of[0]!);
      const all = await read(
        reader,
        of.map((s) => s.frame),
      );
      if (!all) return undefined;
      of.forEach((s, i) => gathered.set(nameOf(s), { sources: all[i]!, spec }));
    }
    await closeOldest(byPlace.size);
    const picture = cutPicture(cut, frame, size, (shot) => {
      const { sources, spec } = gathered.get(nameOf(shot))!;
      return pictureAt(sources, shot.frame, spec, shot.answered);
    });
    return { picture, counts: Math.min(frame, ...shots.map((s) => s.frame)) };
  };
  const outlines = async (
    reader: FootageReader,
    frames: readonly number[],
  ): Promise<SourceFrames[] | undefined> => {
    const all: SourceFrames[] = [];
    for (const at of frames) {
      const sources = await reader.expected(at);
      if (!sources) return undefined;
      all.push(sources);
    }
    return all;
  };
  return {
    expected: async (frame) => (await pictures(frame, outlines))?.picture,
    at: async (frame) => (await pictures(frame, (r, at) => r.atAll(at)))!,
    async close() {
      for (const { reader } of opened.values()) await reader.close();
    },
  };
}
