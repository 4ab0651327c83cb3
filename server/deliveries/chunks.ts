/**
 * Renders chunks. Any worker can render any chunk, to a folder of its own that is then moved into
 * place.
 */
import { createHash } from 'node:crypto';
import { readdir, rename, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { eq } from 'drizzle-orm';
import { db, tables } from '../database';
import { notify } from '../events';
import { send } from '../jobs/queue';
import { WrongFrame } from '../media/decode';
import { isDiskFull, numberedIn, output, Sink } from '../media/run';
import { type DeliveryFormat, deliveryFormat, samplesFor } from '../../core';
import { chunkOutput, picturesOutput, rawInput, type Threads } from '../render';
import { bakeChunk } from './bake-chunk';
import {
  type Chunk,
  chunksLeft,
  eachFrame,
  type Item,
  itemFrames,
  live,
  loadChunk,
} from './frames';
import { begun, endItem, failItem, waitForRoom } from './item-state';
import { CHUNK, chunkFile, workFolder } from './work-folder';

const { chunks, deliveryItems } = tables;

/** Runs a chunk of an attempt, and queues the join after the last one. */
export async function runChunk(chunkId: string, attempt: number, threads: Threads): Promise<void> {
  const chunk = await loadChunk(chunkId);
  if (!chunk || !live(chunk.item, attempt)) return;
  const { item } = chunk;
  if (!chunk.done) {
    if (!(await begun(item.id, attempt))) return;
    try {
      const hashes = item.delivery.keeps
        ? (await bakeChunk(item, chunk, threads)) && []
        : await renderChunk(item, chunk, threads);
      if (!hashes) return;
      if (item.error)
        await db().update(deliveryItems).set({ error: null }).where(eq(deliveryItems.id, item.id));
      await db()
        .update(chunks)
        .set({ done: true, rendered: chunk.count, hashes })
        .where(eq(chunks.id, chunkId));
    } catch (e) {
      // Errors that would repeat are reported at once; the queue retries others.
      if (e instanceof WrongFrame) return failItem(item, attempt, e.message);
      if (isDiskFull(e)) return waitForRoom(item, 'chunk', { chunkId, attempt });
      throw e;
    }
  }
  await notify({ project: item.delivery.projectId, what: 'deliveries' });
  if ((await chunksLeft(item.id, attempt)) > 0) return;
  if (item.delivery.keeps) await endItem(item, attempt, {});
  else
    await send('join', [{ itemId: item.id, attempt }], { singletonKey: `${item.id}:${attempt}` });
}

/**
 * Renders to a temporary folder and moves the result into place. Undefined if the item was
 * cancelled meanwhile.
 */
async function renderChunk(
  item: Item,
  chunk: Chunk,
  { engine }: Threads,
): Promise<string[] | undefined> {
  const format = deliveryFormat(item.delivery.format);
  const frames = await itemFrames(item, engine),
    { form } = frames;
  const samples = samplesFor(format.id, form.outEncoding, item.delivery.coverage);
  const tryFolder = workFolder(item, `.try-${chunk.id}-${process.pid}-${Date.now()}`);
  const sink = new Sink([
    ...rawInput(samples, form.width, form.height, form.rate),
    ...(format.makes === 'pictures'
      ? picturesOutput(format, numberedIn(tryFolder, `%06d.${format.id}`), chunk.first, samples)
      : chunkOutput(format, output(join(tryFolder, CHUNK)), {
          samples,
          encoding: form.outEncoding,
          size: form,
          effort: item.delivery.effort,
        })),
  ]);
  const hashes: string[] = [];
  try {
    const wanted = await eachFrame(item, chunk, async (frame) => {
      const made = await frames.at(frame);
      hashes.push(createHash('md5').update(made).digest('hex'));
      await sink.write(made);
    });
    if (!wanted) {
      sink.kill();
      return undefined;
    }
    await sink.end();
    await settle(item, chunk.first, tryFolder, format);
    return hashes;
  } finally {
    await frames.close();
    await rm(tryFolder, { recursive: true, force: true });
  }
}

async function settle(
  item: Item,
  first: number,
  tryFolder: string,
  format: DeliveryFormat,
): Promise<void> {
  if (format.makes === 'video') return rename(join(tryFolder, CHUNK), chunkFile(item, first));
  const pictures = workFolder(item, 'pictures');
  for (const name of await readdir(tryFolder))
    await rename(join(tryFolder, name), join(pictures, name));
}

/** Id of the item that a chunk belongs to. */
export const itemOfChunk = async (chunkId: string): Promise<string | undefined> =>
  (await loadChunk(chunkId))?.itemId;
