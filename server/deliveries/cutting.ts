/** Cuts an item of a delivery into chunks, so that any worker can render any of them. */
import { reachOf, type Size } from '../../core';
import { tables, type Transaction } from '../database';
import { send } from '../jobs/queue';
import type { Footage } from '../media/footage';

const { chunks } = tables;

/**
 * Frames per chunk: about a second of 1080 lines, fewer of larger pictures, and at least four times
 * the frames that the look looks back, because every chunk computes a trail's past again.
 */
export const chunkLength = (width: number, height: number, lookedBack = 0): number =>
  Math.max(4, Math.min(24, Math.round((24 * 1920 * 1080) / (width * height) / 2)), 4 * lookedBack);

type Item = typeof tables.deliveryItems.$inferSelect;
type Started = Pick<Item, 'id' | 'attempt' | 'first' | 'frames'>;
/** What the reach of an item's look depends on. */
type Planned = Pick<Item, 'look' | 'subject' | 'hash' | 'first' | 'frames'>;
/** The most frames that an item's look looks back and ahead, from a few of its frames. */
function lookedBack(
  { look, subject, hash, first, frames }: Planned,
  facts: Pick<Footage, 'frames' | 'rate'>,
): number {
  if (!look) return 0;
  const some = [0.25, 0.5, 0.75, 1].map((share) => first + Math.round((frames - 1) * share));
  const clip = { ...subject, content: hash, frames: facts.frames, rate: facts.rate };
  const { before, behind } = reachOf(look, clip, some);
  return before + behind;
}

/** Baking has lower priority than deliveries. */
const AHEAD = { priority: -1 };

/**
 * Frames per chunk of an item. Plans its look at a few frames, so ask before a transaction, which
 * holds locks.
 */
export const chunkLengthOf = (
  item: Planned,
  facts: Pick<Footage, 'frames' | 'rate'>,
  { width, height }: Size,
): number => chunkLength(width, height, lookedBack(item, facts));

/** Rows in one statement: PostgreSQL takes 65,535 values. */
const MOST_ROWS = 5000;

/**
 * Cuts an item into chunks of `length` frames for an attempt and queues them, inside a transaction.
 * `ahead`: for baking, at low priority.
 */
export async function startItem(
  tx: Transaction,
  item: Started,
  length: number,
  ahead = false,
): Promise<void> {
  const itemId = item.id;
  const rows = Array.from({ length: Math.ceil(item.frames / length) }, (_, i) => ({
    itemId,
    attempt: item.attempt,
    first: item.first + i * length,
    count: Math.min(length, item.frames - i * length),
  }));
  const made: { readonly id: string }[] = [];
  for (let at = 0; at < rows.length; at += MOST_ROWS)
    made.push(
      ...(await tx
        .insert(chunks)
        .values(rows.slice(at, at + MOST_ROWS))
        .onConflictDoNothing()
        .returning({ id: chunks.id })),
    );
  await send(
    'chunk',
    made.map((c) => ({ chunkId: c.id, attempt: item.attempt, ...(ahead && { ahead }) })),
    ahead ? AHEAD : {},
    tx,
  );
}
