/** Baking: a chunk's frames computed ahead and kept; what is there already is left as it is. */
import { bakePicture, bakeSamples, isBaked, makeRoomForBaked } from '../media/baked';
import type { Threads } from '../render';
import { type Chunk, eachFrame, type Item, itemFrames } from './frames';

/** False when nobody wants them any more. */
export async function bakeChunk(item: Item, chunk: Chunk, { engine }: Threads): Promise<boolean> {
  const frames = await itemFrames(item, engine),
    { spec } = frames;
  try {
    return await eachFrame(item, chunk, async (frame) => {
      const before = await frames.key(frame);
      if (before !== undefined && (await isBaked(before))) return;
      const samples = await frames.at(frame);
      // What had to be measured to make it is known by now.
      const key = before ?? (await frames.key(frame));
      if (key === undefined)
        throw new Error(`frame ${frame} cannot be named: its motion is not kept`);
      await (spec.samples === 'page'
        ? bakePicture(key, samples, spec.width, spec.height)
        : bakeSamples(key, samples));
    });
  } finally {
    await frames.close();
    await makeRoomForBaked();
  }
}
