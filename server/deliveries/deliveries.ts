/** Requests deliveries, cancels them and tries them again. */
import { rm } from 'node:fs/promises';
import { touchProject } from '../projects/projects';
import { join } from 'node:path';
import { and, asc, eq, inArray, sql } from 'drizzle-orm';
import {
  cannotHold,
  cutsDecided,
  type Effort,
  type FormatId,
  lengthOf,
  shownOf,
  underLook,
  withTrims,
  tracesNamed,
  type ClipPins,
  type LookDocument,
} from '../../core';
import { openTracks, tracksNow } from '../traces/traces';
import { db, tables } from '../database';
import { notify } from '../events';
import { chunkLengthOf, startItem } from './cutting';
import { pinFootageOf } from '../clips/pin-footage';
import { inData } from '../config/settings';

const { clips, deliveries, deliveryItems } = tables;

/** What to deliver. */
export interface Wanted {
  readonly clips: readonly string[];
  readonly format: FormatId;
  readonly width: number;
  readonly height: number;
  readonly coverage: boolean;
  readonly effort: Effort;
}

/** The format of a delivery cannot hold a clip. */
export class CannotHold extends Error {}
/** A trace that a clip's pins name is not followed yet. */
export class NotFollowed extends Error {}

/**
 * The tracks of the traces that a look's pins on a clip name, as they stand: later marks do not
 * change a delivery. Throws `NotFollowed`.
 */
async function tracksFor(
  { name, hash, decided }: { name: string; hash: string; decided: { pins: ClipPins } },
  look: LookDocument | null | undefined,
): Promise<Record<string, string>> {
  const keys = (look?.pins ?? []).map((p) => p.key);
  const names = await tracksNow(tracesNamed(decided.pins, keys));
  const there = (await openTracks(hash, names)) ?? {};
  if (Object.keys(names).some((id) => !there[id]))
    throw new NotFollowed(
      `${name}: a trace that its pins take is not followed to its end. Wait until it is, or begin it again on the Bench.`,
    );
  return names;
}

/**
 * Stores a delivery with the current state of its clips, and queues its chunks. Returns its id;
 * undefined if a clip is not in the project. Throws `CannotHold`, `NotFollowed`.
 */
export async function deliver(projectId: string, wanted: Wanted): Promise<string | undefined> {
  const rows = await db().query.clips.findMany({
    where: and(eq(clips.projectId, projectId), inArray(clips.id, [...wanted.clips])),
    orderBy: [asc(clips.place)],
    with: { footage: { columns: { index: false } }, version: { with: { look: true } } },
  });
  if (rows.length < new Set(wanted.clips).size) return undefined;
  for (const { name, decided } of rows) {
    const why = cannotHold(wanted.format, decided.encoding, wanted.coverage);
    if (why !== undefined) throw new CannotHold(`${name}: ${why}`);
  }
  const looks = rows.map(
    (c) => c.version && withTrims(c.version.document, c.decided.trims[c.version.lookId]),
  );
  const tracks = await Promise.all(rows.map((c, i) => tracksFor(c, looks[i])));
  const beside = await Promise.all(
    rows.map((c, i) => pinFootageOf(projectId, looks[i], c.decided.pins)),
  );
  const values = rows.map((c, i) => ({
    clipName: c.name,
    hash: c.hash,
    subject: {
      ...shownOf(c.decided),
      cuts: cutsDecided(c.footage.cuts, c.decided.cutsSaid),
      beside: beside[i]!,
      tracks: tracks[i]!,
    },
    first: 0,
    frames: lengthOf(underLook({ ...c.footage.facts, ...shownOf(c.decided) }, looks[i])),
    look: looks[i] ?? null,
    ...(c.version && { lookName: `${c.version.look.name} v${c.version.number}` }),
  }));
  const lengths = values.map((v, i) => chunkLengthOf(v, rows[i]!.footage.facts, wanted));
  const id = await db().transaction(async (tx) => {
    const [made] = await tx
      .insert(deliveries)
      .values({
        projectId,
        format: wanted.format,
        width: wanted.width,
        height: wanted.height,
        coverage: wanted.coverage,
        effort: wanted.effort,
      })
      .returning({ id: deliveries.id });
    const items = await tx
      .insert(deliveryItems)
      .values(values.map((v) => ({ ...v, deliveryId: made!.id })))
      .returning({
        id: deliveryItems.id,
        attempt: deliveryItems.attempt,
        first: deliveryItems.first,
        frames: deliveryItems.frames,
      });
    // Rows come back in the order they were given.
    for (const [i, item] of items.entries()) await startItem(tx, item, lengths[i]!);
    await touchProject(projectId, tx);
    return made!.id;
  });
  await notify({ project: projectId, what: 'deliveries' });
  return id;
}

async function changed(itemId: string): Promise<void> {
  const item = await db().query.deliveryItems.findFirst({
    where: eq(deliveryItems.id, itemId),
    with: { delivery: true },
  });
  if (item) await notify({ project: item.delivery.projectId, what: 'deliveries' });
}

/** Cancels an item; false if there is none. */
export async function cancelItem(id: string): Promise<boolean> {
  if (!(await itemExists(id))) return false;
  await db()
    .update(deliveryItems)
    .set({ state: 'cancelled', ended: new Date() })
    .where(and(eq(deliveryItems.id, id), inArray(deliveryItems.state, ['waiting', 'running'])));
  await rm(inData(join('work', id)), { recursive: true, force: true });
  await changed(id);
  return true;
}
const itemExists = async (id: string): Promise<boolean> =>
  (await db().$count(deliveryItems, eq(deliveryItems.id, id))) > 0;

/** Starts a new attempt; false while one is running, undefined if there is no such item. */
export async function retryItem(id: string): Promise<boolean | undefined> {
  const known = await db().query.deliveryItems.findFirst({
    where: eq(deliveryItems.id, id),
    with: { delivery: true, footage: { columns: { facts: true } } },
  });
  if (!known) return undefined;
  const length = chunkLengthOf(known, known.footage.facts, known.delivery);
  // Each attempt has a folder of its own.
  const begun = await db().transaction(async (tx) => {
    const [item] = await tx
      .update(deliveryItems)
      .set({
        state: 'waiting',
        error: null,
        started: null,
        ended: null,
        attempt: sql`${deliveryItems.attempt} + 1`,
      })
      .where(
        and(
          eq(deliveryItems.id, id),
          inArray(deliveryItems.state, ['failed', 'cancelled', 'done']),
        ),
      )
      .returning();
    if (!item) return false;
    await startItem(tx, item, length);
    return true;
  });
  if (!begun) return (await itemExists(id)) ? false : undefined;
  await changed(id);
  return true;
}
