/** Requests deliveries, cancels them and tries them again. */
import { rm } from 'node:fs/promises';
import { touchProject } from '../projects/projects';
import { join } from 'node:path';
import { and, eq, inArray, sql } from 'drizzle-orm';
import {
  cannotHold,
  type Effort,
  type FormatId,
  lengthOf,
  lengthOfCut,
  underLook,
} from '../../core';
import { cutOf } from '../cuts/cuts';
import { db, tables } from '../database';
import { notify } from '../events';
import { chunkLengthFor, chunkLengthOf, chunkLengthOfCut, startItem } from './cutting';
import { CUT_ENCODING, loadItem } from './frames';
import { clipRows, cutSnapshotOf, snapshotOf } from './snapshot';
import { inData } from '../config/settings';

const { deliveries, deliveryItems } = tables;

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
/**
 * Stores a delivery with the current state of its clips, and queues its chunks. Returns its id;
 * undefined if a clip is not in the project. Throws `CannotHold`, `NotFollowed`.
 */
export async function deliver(projectId: string, wanted: Wanted): Promise<string | undefined> {
  const rows = await clipRows(projectId, wanted.clips);
  if (rows.length < new Set(wanted.clips).size) return undefined;
  for (const { name, decided } of rows) {
    const why = cannotHold(wanted.format, decided.encoding, wanted.coverage);
    if (why !== undefined) throw new CannotHold(`${name}: ${why}`);
  }
  const snapshots = await Promise.all(rows.map((row) => snapshotOf(row)));
  const values = snapshots.map(({ name, ...of }, i) => ({
    ...of,
    clipName: name,
    first: 0,
    frames: lengthOf(underLook({ ...rows[i]!.footage.facts, ...of.subject }, of.look)),
  }));
  const lengths = values.map((v, i) => chunkLengthOf(v, rows[i]!.footage.facts, wanted));
  const id = await queued(projectId, wanted, values, (i) => lengths[i]!);
  await notify({ project: projectId, what: 'deliveries' });
  return id;
}

/** Stores a delivery with its items and queues their chunks; its id. */
const queued = (
  projectId: string,
  { format, width, height, coverage, effort }: Omit<Wanted, 'clips'>,
  values: readonly Omit<typeof deliveryItems.$inferInsert, 'deliveryId'>[],
  length: (index: number) => number,
): Promise<string> =>
  db().transaction(async (tx) => {
    const [made] = await tx
      .insert(deliveries)
      .values({ projectId, format, width, height, coverage, effort })
      .returning({ id: deliveries.id });
    const items = await tx
      .insert(deliveryItems)
      .values(values.map((v) => ({ ...v, deliveryId: made!.id })))
      .returning();
    // Rows come back in the order they were given.
    for (const [i, item] of items.entries()) await startItem(tx, item, length(i));
    await touchProject(projectId, tx);
    return made!.id;
  });

/** There is nothing in a cut that could be delivered. */
export class NothingThere extends Error {}
/**
 * Stores a delivery of a project's cut as it is now, and queues its chunks. Returns its id;
 * undefined if there is no such project. Throws `CannotHold`, `NotFollowed`, `NothingThere`.
 */
export async function deliverCut(
  projectId: string,
  wanted: Omit<Wanted, 'clips'>,
): Promise<string | undefined> {
  const why = cannotHold(wanted.format, CUT_ENCODING, wanted.coverage);
  if (why !== undefined) throw new CannotHold(`The cut: ${why}`);
  const { document } = await cutOf(projectId);
  const cut = await cutSnapshotOf(projectId, document);
  if (!cut) return undefined;
  const frames = lengthOfCut(document, cut.rate);
  if (frames === 0)
    throw new NothingThere('Nothing stands in the cut yet: place clips or a sound first.');
  const project = await db().query.projects.findFirst({ where: eq(tables.projects.id, projectId) });
  const value = { cut, clipName: project!.name, first: 0, frames };
  const length = await chunkLengthOfCut(cut, wanted);
  const id = await queued(projectId, wanted, [value], () => length);
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
  const known = await loadItem(id);
  if (!known) return undefined;
  const length = await chunkLengthFor(known);
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
