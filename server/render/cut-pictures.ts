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
    read: (r: FootageReader, at: number) => Promise<SourceFrames | undefined>,
  ): Promise<{ readonly picture: ImageNode; readonly counts: number } | undefined> => {
    const shots = cutShots(cut, frame),
      made = new Map<string, ImageNode>();
    for (const shot of shots) {
      const { spec, reader } = await shotsOf(shot);
      const sources = await read(reader, shot.frame);
      if (!sources) return undefined;
      made.set(`${shot.place.key} ${shot.frame}`, pictureAt(sources, shot.frame, spec));
    }
    await closeOldest(new Set(shots.map((s) => s.place.key)).size);
    const picture = cutPicture(cut, frame, size, ({ place, frame: at }) =>
      made.get(`${place.key} ${at}`)!,
    );
    return { picture, counts: Math.min(frame, ...shots.map((s) => s.frame)) };
  };
  return {
    expected: async (frame) => (await pictures(frame, (r, at) => r.expected(at)))?.picture,
    at: async (frame) => (await pictures(frame, (r, at) => r.at(at)))!,
    async close() {
      for (const { reader } of opened.values()) await reader.close();
    },
  };
}
