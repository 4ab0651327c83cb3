/** Bakes the frames of a chunk; frames that are baked already are skipped. */
import { bakePicture, bakeSamples, isBaked, makeRoomForBaked } from '../media/baked';
import type { Threads } from '../render';
import { type Chunk, eachFrame, type Item, itemFrames } from './frames';

/** Bakes a chunk. Returns false if it is no longer wanted. */
export async function bakeChunk(item: Item, chunk: Chunk, { engine }: Threads): Promise<boolean> {
  const frames = await itemFrames(item, engine),
    { form } = frames;
  try {
    return await eachFrame(item, chunk, async (frame) => {
      const before = await frames.key(frame);
      if (before !== undefined && (await isBaked(before))) return;
      const samples = await frames.at(frame);
      // After rendering, motion is measured and the key is known.
      const key = before ?? (await frames.key(frame));
      if (key === undefined)
        throw new Error(`frame ${frame} cannot be named: its motion is not kept`);
      await (form.samples === 'page'
        ? bakePicture(key, samples, form.width, form.height)
        : bakeSamples(key, samples));
    });
  } finally {
    await frames.close();
    await makeRoomForBaked();
  }
}
