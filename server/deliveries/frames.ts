/** The frames of a delivery's item in order, for encoding and for baking. */
import { and, eq, sql } from 'drizzle-orm';
import { FRAME_ASSET_IDS, needsStatistics, samplesFor } from '../../core';
import type { Engine } from '../../core/engine';
import { noteUse } from '../assets/ceiling';
import { db, tables } from '../database';
import { myTurn } from '../jobs/turns';
import { notify } from '../events';
import { anyBaked, bakedSamples } from '../media/baked';
import { readAs } from '../media/footage';
import { FootageReader } from '../media/footage-reader';
import { storedParts } from '../media/parts';
import { openTracks } from '../traces/traces';
import { openPinFootage } from '../clips/pin-footage';
import { frameBytes, frameKey, type FrameSpec, renderFrame } from '../render';
import { statisticsFor } from '../footage/statistics';
import { openOriginal } from '../footage/original';

const { deliveryItems, chunks } = tables;

/** A chunk with its item, delivery and footage. */
export const loadChunk = (id: string) =>
  db().query.chunks.findFirst({
    where: eq(chunks.id, id),
    with: { item: { with: { delivery: true, footage: { columns: { index: false } } } } },
  });
/** An item with its delivery, footage and chunks. */
export const loadItem = (id: string) =>
  db().query.deliveryItems.findFirst({
    where: eq(deliveryItems.id, id),
    with: { delivery: true, footage: { columns: { index: false } }, chunks: true },
  });
/** An item with its delivery and footage. */
export type Item = Omit<NonNullable<Awaited<ReturnType<typeof loadItem>>>, 'chunks'>;
/** The frames of a chunk. */
export type Chunk = Pick<typeof chunks.$inferSelect, 'id' | 'first' | 'count'>;

/** Whether an attempt at an item is still wanted. */
export const live = (
  item: { attempt: number; state: string } | undefined,
  attempt: number,
): boolean =>
  item !== undefined &&
  item.attempt === attempt &&
  (item.state === 'waiting' || item.state === 'running');

/** Access to the frames of an item. */
export interface ItemFrames {
  readonly spec: FrameSpec;
  /** The frame's cache key; undefined if motion must be measured first. */
  key(frame: number): Promise<string | undefined>;
  /** A frame's samples, from the baked ones or computed. */
  at(frame: number): Promise<Buffer>;
  close(): Promise<void>;
}

/** Opens the frames of an item; close it afterwards. */
export async function itemFrames(item: Item, engine: Engine): Promise<ItemFrames> {
  const { width, height, format, coverage, keeps } = item.delivery;
  const { facts: stored, place } = await openOriginal(item.hash);
  const { subject } = item,
    facts = readAs(stored, subject.sampling);
  const spec: FrameSpec = {
    ...(item.look && { look: item.look }),
    ...subject,
    outEncoding: subject.encoding,
    pixelAspect: facts.pixelAspect,
    width,
    height,
    samples: keeps ?? samplesFor(format, subject.encoding, coverage),
    content: item.hash,
    rate: facts.rate,
    frames: facts.frames,
    whole:
      item.look && needsStatistics(item.look)
        ? await statisticsFor(engine, place, facts, subject)
        : null,
  };
  // What renders use goes last where room is made.
  await Promise.all(FRAME_ASSET_IDS.map((asset) => noteUse(item.hash, asset)));
  const tracks = await openTracks(item.hash, subject.tracks);
  // What is baked ahead is named by what it was made from; an order must be as it was made.
  if (!keeps && Object.keys(subject.tracks).some((trace) => !tracks?.[trace]))
    throw new Error('a track that the clip’s pins took has gone: order the delivery again');
  const reader = new FootageReader(
    item.look,
    place,
    facts,
    { ...spec, tracks },
    await openPinFootage(subject.beside, engine),
    {},
    storedParts(facts.hash, 'motion'),
  );
  const baked = !keeps && (await anyBaked());
  const key = async (frame: number): Promise<string | undefined> => {
    const sources = await reader.expected(frame);
    return sources && frameKey(sources, frame, spec);
  };
  return {
    spec,
    key,
    async at(frame) {
      const name = baked ? await key(frame) : undefined;
      const found = name === undefined ? undefined : await bakedSamples(name, frameBytes(spec));
      return found ?? renderFrame(engine, await reader.at(frame), frame, spec);
    },
    async close() {
      await reader.close();
    },
  };
}

/** Interval between progress reports, ms. */
const TOLD_EVERY = 400;

/**
 * Visits the frames of a chunk and reports progress. Returns false as soon as they are no longer
 * wanted.
 */
export async function eachFrame(
  item: Item,
  chunk: Chunk,
  make: (frame: number) => Promise<void>,
): Promise<boolean> {
  let looked = Date.now();
  const turn = item.delivery.keeps ? 'background' : 'delivery';
  for (let frame = chunk.first; frame < chunk.first + chunk.count; frame++) {
    await myTurn(turn);
    await make(frame);
    if (Date.now() - looked < TOLD_EVERY) continue;
    looked = Date.now();
    await db()
      .update(chunks)
      .set({ rendered: frame - chunk.first + 1 })
      .where(and(eq(chunks.id, chunk.id), eq(chunks.done, false)));
    await notify({ project: item.delivery.projectId, what: 'deliveries' });
    const [now] = await db()
      .select({ attempt: deliveryItems.attempt, state: deliveryItems.state })
      .from(deliveryItems)
      .where(eq(deliveryItems.id, item.id));
    if (!live(now, item.attempt)) return false;
  }
  return true;
}

/** Number of an attempt's chunks that are not done. */
export async function chunksLeft(itemId: string, attempt: number): Promise<number> {
  const [left] = await db()
    .select({ n: sql<number>`count(*)::int` })
    .from(chunks)
    .where(and(eq(chunks.itemId, itemId), eq(chunks.attempt, attempt), eq(chunks.done, false)));
  return left!.n;
}
