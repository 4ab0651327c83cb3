/** Starts and stops the baking of a clip's frames, or a cut's. Baked frames stay and are not computed again. */
import { and, eq, inArray, isNotNull, type SQL } from 'drizzle-orm';
import {
  allPlaces,
  cutsDecided,
  endOf,
  FORMAT_IDS,
  lengthOf,
  samplesFor,
  type LookDocument,
  shownOf,
  underLook,
  tracesNamed,
} from '../../core';
import { tracksNow } from '../traces/traces';
import { db, tables } from '../database';
import { notify } from '../events';
import { cutOf } from '../cuts/cuts';
import { chunkLengthOf, chunkLengthOfCut, startItem } from './cutting';
import { cutSnapshotOf } from './snapshot';
import { pinFootageOf } from '../clips/pin-footage';
import type { KeptSamples } from '../render';

const { clips, deliveries, deliveryItems } = tables;

/** Which frames to bake, and in which form. */
export interface WantedFrames {
  /** The look with the clip's trims. */
  readonly look: LookDocument;
  readonly first: number;
  readonly last: number;
  /** Size in pixels. */
  readonly width: number;
  readonly height: number;
  readonly keeps: KeptSamples;
}

/**
 * Queues frames, replacing earlier baking of the clip. Undefined if there is no such clip, false if
 * it has no such frames.
 */
export async function bakeFrames(
  clipId: string,
  wanted: WantedFrames,
): Promise<string | false | undefined> {
  const clip = await db().query.clips.findFirst({
    where: eq(clips.id, clipId),
    with: { footage: { columns: { index: false } } },
  });
  if (!clip) return undefined;
  const { look, first, last, width, height, keeps } = wanted;
  const { projectId, hash } = clip,
    shown = shownOf(clip.decided);
  if (first > last || last >= lengthOf(underLook({ ...clip.footage.facts, ...shown }, look)))
    return false;
  const beside = await pinFootageOf(projectId, look, shown.pins);
  const keys = (look?.pins ?? []).map((p) => p.key);
  const tracks = await tracksNow(tracesNamed(shown.pins, keys));
  const values = {
    hash,
    look,
    subject: { ...shown, cuts: cutsDecided(clip.footage.cuts, shown.cutsSaid), beside, tracks },
    first,
    frames: last - first + 1,
  };
  const length = chunkLengthOf(values, clip.footage.facts, wanted);
  const id = await db().transaction(async (tx) => {
    const old = tx
      .select({ id: deliveryItems.deliveryId })
      .from(deliveryItems)
      .where(eq(deliveryItems.clipId, clipId));
    await tx
      .delete(deliveries)
      .where(and(isNotNull(deliveries.keeps), inArray(deliveries.id, old)));
    // Nothing is encoded; the format is one whose files have these samples.
    const format =
      FORMAT_IDS.find((f) => samplesFor(f, shown.encoding) === keeps) ?? FORMAT_IDS[0]!;
    const [made] = await tx
      .insert(deliveries)
      .values({ projectId, format, width, height, keeps })
      .returning({ id: deliveries.id });
    const [item] = await tx
      .insert(deliveryItems)
      .values({ ...values, deliveryId: made!.id, clipName: clip.name, clipId })
      .returning();
    await startItem(tx, item!, length, true);
    return made!.id;
  });
  await notify({ project: projectId, what: 'deliveries' });
  return id;
}

/** The current or latest baking of a clip; null if there was none. */
export const bakingOf = (clipId: string) => bakingWhere(eq(deliveryItems.clipId, clipId));

async function bakingWhere(which: SQL) {
  const item = await db().query.deliveryItems.findFirst({
    where: which,
    columns: { state: true, first: true, frames: true, error: true, attempt: true },
    with: {
      delivery: { columns: { width: true, height: true, keeps: true } },
      chunks: { columns: { attempt: true, rendered: true, done: true, count: true } },
    },
  });
  if (!item) return null;
  const { state, first, frames, error, delivery, attempt } = item;
  const made = item.chunks
    .filter((c) => c.attempt === attempt)
    .reduce((n, c) => n + (c.done ? c.count : c.rendered), 0);
  return {
    state,
    first,
    frames,
    error,
    made,
    width: delivery.width,
    height: delivery.height,
    keeps: delivery.keeps!,
  };
}

/** Items of a project's cut that are baked. */
const ofCut = (projectId: string): SQL =>
  and(
    isNotNull(deliveryItems.cut),
    inArray(
      deliveryItems.deliveryId,
      db()
        .select({ id: deliveries.id })
        .from(deliveries)
        .where(and(eq(deliveries.projectId, projectId), isNotNull(deliveries.keeps))),
    ),
  )!;
/** The current or latest baking of a project's cut; null if there was none. */
export const bakingOfCut = (projectId: string) => bakingWhere(ofCut(projectId));

/** Frames of a chunk of a cut that is baked for playing: little ones come in order. */
const PLAYED_CHUNK = 12;
/**
 * Queues all frames of a project's cut for pages, from a frame on and then those before it,
 * replacing earlier baking of the cut. Undefined if nothing stands in it.
 */
export async function bakeCut(
  projectId: string,
  {
    width,
    height,
    from,
  }: { readonly width: number; readonly height: number; readonly from: number },
): Promise<string | undefined> {
  const { document } = await cutOf(projectId);
  const cut = await cutSnapshotOf(projectId, document, true);
  const frames = cut ? allPlaces(document).reduce((end, p) => Math.max(end, endOf(p)), 0) : 0;
  if (!cut || frames === 0) return undefined;
  const length = Math.min(PLAYED_CHUNK, await chunkLengthOfCut(cut, { width, height }));
  const id = await db().transaction(async (tx) => {
    const old = await tx
      .select({ id: deliveryItems.deliveryId })
      .from(deliveryItems)
      .where(ofCut(projectId));
    if (old.length > 0)
      await tx.delete(deliveries).where(
        inArray(
          deliveries.id,
          old.map((o) => o.id),
        ),
      );
    const [made] = await tx
      .insert(deliveries)
      .values({ projectId, format: 'mp4', width, height, keeps: 'page' })
      .returning({ id: deliveries.id });
    const [item] = await tx
      .insert(deliveryItems)
      .values({ deliveryId: made!.id, clipName: 'cut', cut, frames })
      .returning();
    await startItem(tx, item!, length, true, from);
    return made!.id;
  });
  await notify({ project: projectId, what: 'deliveries' });
  return id;
}
/** Stops the baking of a project's cut. */
export async function stopBakingCut(projectId: string): Promise<void> {
  await db()
    .update(deliveryItems)
    .set({ state: 'cancelled', ended: new Date() })
    .where(and(ofCut(projectId), inArray(deliveryItems.state, ['waiting', 'running'])));
  await notify({ project: projectId, what: 'deliveries' });
}

/** Stops the baking of a clip; false if there is no such clip. */
export async function stopBaking(clipId: string): Promise<boolean> {
  const clip = await db().query.clips.findFirst({
    where: eq(clips.id, clipId),
    columns: { projectId: true },
  });
  if (!clip) return false;
  await db()
    .update(deliveryItems)
    .set({ state: 'cancelled', ended: new Date() })
    .where(
      and(eq(deliveryItems.clipId, clipId), inArray(deliveryItems.state, ['waiting', 'running'])),
    );
  await notify({ project: clip.projectId, what: 'deliveries' });
  return true;
}
