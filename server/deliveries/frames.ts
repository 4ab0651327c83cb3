/** The frames of a delivery's item (a clip, or a cut) in order, for encoding and for baking. */
import { and, eq, sql } from 'drizzle-orm';
import {
  type EncodingId,
  FRAME_ASSET_IDS,
  type LookDocument,
  needsStatistics,
  samplesFor,
  shownOf,
  type Size,
} from '../../core';
import type { Engine } from '../../core/engine';
import type { Rate } from '../../core/time';
import { noteUse } from '../assets/ceiling';
import { openCut } from '../cuts/open';
import { db, tables } from '../database';
import type { CutSnapshot } from '../database/columns';
import { myTurn } from '../jobs/turns';
import { notify } from '../events';
import { anyBaked, bakedSamples } from '../media/baked';
import { readAs } from '../media/footage';
import { FootageReader } from '../media/footage-reader';
import { storedParts } from '../media/parts';
import { openTracks } from '../traces/traces';
import { openPinFootage } from '../clips/pin-footage';
import {
  clipPictures,
  cutPictures,
  type FrameForm,
  frameBytes,
  type OpenShots,
  type Pictures,
  pictureKey,
  renderPicture,
} from '../render';
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

/** The encoding in which whole cuts are delivered, whatever their clips are in. */
export const CUT_ENCODING = 'bt709';
/** An item that is one clip. */
export interface ClipItem extends Item {
  readonly hash: string;
  readonly subject: NonNullable<Item['subject']>;
  readonly footage: NonNullable<Item['footage']>;
}
/** Whether an item is one clip; else it is a cut. */
export const isClip = <I extends Pick<Item, 'hash' | 'subject'>>(item: I): item is I & ClipItem =>
  item.hash !== null && item.subject !== null;
type Formed = Pick<Item, 'subject'> & {
  readonly cut: Pick<CutSnapshot, 'rate'> | null;
  readonly footage: Pick<NonNullable<Item['footage']>, 'facts'> | null;
};
interface Form {
  readonly rate: Rate;
  readonly encoding: EncodingId;
}
/** The rate and the encoding of an item. */
export function formOf({ footage, subject, cut }: Formed): Form {
  if (footage && subject) return { rate: footage.facts.rate, encoding: subject.encoding };
  if (!cut) throw new Error('a delivery names neither a clip nor a cut');
  return { rate: cut.rate, encoding: CUT_ENCODING };
}

/** Access to the frames of an item. */
export interface ItemFrames {
  readonly form: FrameForm & { readonly rate: Rate };
  /** The frame's cache key; undefined if motion must be measured first. */
  key(frame: number): Promise<string | undefined>;
  /** A frame's samples, from the baked ones or computed. */
  at(frame: number): Promise<Buffer>;
  close(): Promise<void>;
}

/** What a clip's frames are rendered from. */
interface Shown {
  readonly hash: string;
  readonly look: LookDocument | null;
  readonly subject: ClipItem['subject'];
  readonly projectRate?: Rate;
  /** Whose statistics count, where it is a place of a cut: those of its clip. */
  readonly measured?: ClipItem['subject'];
}
/**
 * Opens a clip under its look at a size. `whole`: it must be as it was ordered, so that nothing may
 * be missing.
 */
async function openShots(
  { hash, look, subject, projectRate, measured = subject }: Shown,
  size: Size,
  engine: Engine,
  whole: boolean,
): Promise<OpenShots> {
  const { facts: stored, place } = await openOriginal(hash);
  const facts = readAs(stored, subject.sampling);
  const spec: OpenShots['spec'] = {
    ...(look && { look }),
    ...subject,
    ...(projectRate && { projectRate }),
    pixelAspect: facts.pixelAspect,
    ...size,
    content: hash,
    rate: facts.rate,
    frames: facts.frames,
    whole:
      look && needsStatistics(look) ? await statisticsFor(engine, place, facts, measured) : null,
  };
  // What renders use goes last where room is made.
  await Promise.all(FRAME_ASSET_IDS.map((asset) => noteUse(hash, asset)));
  const tracks = await openTracks(hash, subject.tracks);
  // What is baked ahead is named by what it was made from; an order must be as it was made.
  if (whole && Object.keys(subject.tracks).some((trace) => !tracks?.[trace]))
    throw new Error('a track that the clip’s pins took has gone: order the delivery again');
  const reader = new FootageReader(
    look,
    place,
    facts,
    { ...spec, tracks },
    await openPinFootage(subject.beside, engine),
    {},
    storedParts(facts.hash, 'motion'),
  );
  return { spec, reader };
}

/** Opens the frames of an item; close it afterwards. */
export async function itemFrames(item: Item, engine: Engine): Promise<ItemFrames> {
  const { width, height, format, coverage, keeps } = item.delivery;
  const { rate, encoding } = formOf(item);
  const form = {
    ...{ width, height, rate },
    outEncoding: encoding,
    samples: keeps ?? samplesFor(format, encoding, coverage),
  };
  const pictures = isClip(item)
    ? await picturesOfClip(item, engine)
    : await picturesOfCut(item.cut!, { width, height }, engine, !keeps);
  const baked = !keeps && (await anyBaked());
  const key = async (frame: number): Promise<string | undefined> => {
    const picture = await pictures.expected(frame);
    return picture && pictureKey(picture, form);
  };
  return {
    form,
    key,
    async at(frame) {
      const name = baked ? await key(frame) : undefined;
      const found = name === undefined ? undefined : await bakedSamples(name, frameBytes(form));
      if (found) return found;
      const { picture, counts } = await pictures.at(frame);
      return renderPicture(engine, picture, counts, form);
    },
    close: pictures.close,
  };
}

async function picturesOfClip(item: ClipItem, engine: Engine): Promise<Pictures> {
  const { width, height, keeps } = item.delivery;
  return clipPictures(await openShots(item, { width, height }, engine, !keeps));
}

async function picturesOfCut(
  snapshot: CutSnapshot,
  size: Size,
  engine: Engine,
  whole: boolean,
): Promise<Pictures> {
  const cut = await openCut(snapshot);
  return cutPictures(cut, size, ({ standing: { clip } }) => {
    const { subject, look, hash } = clip.snapshot;
    return openShots(
      {
        ...{ hash, look, measured: subject, projectRate: cut.rate },
        subject: { ...subject, ...shownOf(clip) },
      },
      size,
      engine,
      whole,
    );
  });
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
