/** Detects cuts in footage, from its small proxy. */
import { inData } from '../config/settings';
import { join } from 'node:path';
import { CUT_PICTURE, CutFinder } from '../../core';
import { input, streamed } from './run';

const PICTURES = `scale=${CUT_PICTURE.width}:${CUT_PICTURE.height}:flags=area,format=yuv444p`;

/** Frames at which another shot begins, in a video file. */
export async function cutsIn(file: string, signal?: AbortSignal): Promise<number[]> {
  const finder = new CutFinder();
  const args = [
    ...input(file),
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
  for await (const picture of streamed(args, CUT_PICTURE.bytes, signal)) finder.next(picture);
  return finder.cuts;
}
/**
 * The same for stored footage. Its proxy has one frame per source frame; coverage is below the
 * picture and changes with it.
 */
export const cutsInFootage = (hash: string, signal?: AbortSignal): Promise<number[]> =>
  cutsIn(inData(join('footage', hash, 'proxy-270.webm')), signal);
