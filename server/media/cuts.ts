/** Detects cuts in footage, from its small proxy. */
import { inData } from '../config/settings';
import { join } from 'node:path';
import { CUT_PICTURE, CutFinder } from '../../core';
import type { Footage } from './footage';
import type { Place } from './place';
import { input, streamed } from './run';

const PICTURES = `scale=${CUT_PICTURE.width}:${CUT_PICTURE.height}:flags=area,format=yuv444p`;

/** Frames at which another shot begins, in what an input opens; counted in source frames. */
async function cutsIn(open: readonly string[], signal?: AbortSignal): Promise<number[]> {
  const finder = new CutFinder();
  const args = [
    '-map',
    '0:v:0',
    '-vf',
    PICTURES,
    '-fps_mode',
    'passthrough',
    '-f',
    'rawvideo',
    '-',
  ];
  for await (const picture of streamed([...open, ...args], CUT_PICTURE.bytes, signal))
    finder.next(picture);
  return finder.cuts;
}
/**
 * Cuts of footage, in frames at its steady rate. Read from the original here; pages have them from
 * the small proxy (`cutsInFootage`).
 */
export const cutsOf = async (
  place: Place,
  footage: Footage,
  signal?: AbortSignal,
): Promise<number[]> =>
  footage.frames < 2 ? [] : inFrames(footage, await cutsIn(place.open, signal));

/** Source frames as frames at the steady rate: the first that shows one of them or a later one. */
const inFrames = ({ slots }: Footage, cuts: readonly number[]): number[] =>
  slots
    ? [...new Set(cuts.map((c) => slots.findIndex((s) => s >= c)).filter((c) => c > 0))]
    : [...cuts];

/**
 * The same for stored footage. Its proxy has one frame per source frame; coverage is below the
 * picture and changes with it.
 */
export const cutsInFootage = async (footage: Footage, signal?: AbortSignal): Promise<number[]> =>
  inFrames(
    footage,
    await cutsIn(input(inData(join('footage', footage.hash, 'proxy-270.webm'))), signal),
  );
