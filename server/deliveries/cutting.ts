/** Cuts an item of a delivery into chunks, so that any worker can render any of them. */
import { eq } from 'drizzle-orm';
import { reachOf } from '../../core';
import { tables, type Transaction } from '../database';
import { send } from '../jobs/queue';
import type { Size } from '../render';

const { chunks } = tables;

/**
 * Frames per chunk: about a second of 1080 lines, fewer of larger pictures, and at least four times
 * the frames that the look looks back, because every chunk computes a trail's past again.
 */
export const chunkLength = (width: number, height: number, lookedBack = 0): number =>
  Math.max(4, Math.min(24, Math.round((24 * 1920 * 1080) / (width * height) / 2)), 4 * lookedBack);

type Started = Pick<
  typeof tables.deliveryItems.$inferSelect,
  'id' | 'attempt' | 'first' | 'frames' | 'look' | 'pins' | 'hash' | 'inOut' | 'cuts' | 'retime'
>;
/** The most frames that an item's look looks back and ahead, from a few of its frames. */
async function lookedBack(
  tx: Transaction,
  { look, pins, hash, first, frames, inOut, cuts, retime }: Started,
): Promise<number> {
  if (!look) return 0;
  const [row] = await tx
    .select({ facts: tables.footage.facts })
    .from(tables.footage)
    .where(eq(tables.footage.hash, hash));
  const some = [0.25, 0.5, 0.75, 1].map((share) => first + Math.round((frames - 1) * share));
  const clip = {
    content: hash,
    frames: row!.facts.frames,
    rate: row!.facts.rate,
    pins,
    inOut,
    cuts,
    retime,
  };
  const { before, behind } = reachOf(look, clip, some);
  return before + behind;
}

/** Baking has lower priority than deliveries. */
const AHEAD = { priority: -1 };

/**
 * Cuts an item into chunks for an attempt and queues them, inside a transaction. `ahead`: for
 * baking, at low priority.
 */
export async function startItem(
  tx: Transaction,
  item: Started,
  size: Size,
  ahead = false,
): Promise<void> {
  const length = chunkLength(size.width, size.height, await lookedBack(tx, item)),
    itemId = item.id;
  const rows = Array.from({ length: Math.ceil(item.frames / length) }, (_, i) => ({
    itemId,
    attempt: item.attempt,
    first: item.first + i * length,
    count: Math.min(length, item.frames - i * length),
  }));
  const made = await tx
    .insert(chunks)
    .values(rows)
    .onConflictDoNothing()
    .returning({ id: chunks.id });
  await send(
    'chunk',
    made.map((c) => ({ chunkId: c.id, attempt: item.attempt, ...(ahead && { ahead }) })),
    ahead ? AHEAD : {},
    tx,
  );
}
