/** Starts and stops the baking of a clip's frames. Baked frames stay and are not computed again. */
import { and, eq, inArray, isNotNull } from 'drizzle-orm';
import {
  cutsDecided,
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
import { chunkLengthOf, startItem } from './cutting';
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
      .values({
        deliveryId: made!.id,
        clipName: clip.name,
        clipId,
        hash,
        look,
        subject: {
          ...shown,
          cuts: cutsDecided(clip.footage.cuts, shown.cutsSaid),
          beside,
          tracks,
        },
        first,
        frames: last - first + 1,
      })
      .returning();
    await startItem(tx, item!, chunkLengthOf(item!, clip.footage.facts, wanted), true);
    return made!.id;
  });
  await notify({ project: projectId, what: 'deliveries' });
  return id;
}

/** The current or latest baking of a clip; null if there was none. */
export async function bakingOf(clipId: string) {
  const item = await db().query.deliveryItems.findFirst({
    where: eq(deliveryItems.clipId, clipId),
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
