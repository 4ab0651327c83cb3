/** Cutting an item of a delivery into chunks, so that any worker can render any of them. */
import { eq } from 'drizzle-orm';
import { reachOf } from '../../core';
import { tables, type Transaction } from '../database';
import { send } from '../jobs/queue';
import type { Size } from '../render';

const { chunks } = tables;

/**
 * Frames to a chunk: a second or so of 1080 lines, fewer of larger pictures; at least four times as
 * many as the look looks back (a trail's past is made anew in every chunk).
 */
export const chunkLength = (width: number, height: number, lookedBack = 0): number =>
  Math.max(4, Math.min(24, Math.round((24 * 1920 * 1080) / (width * height) / 2)), 4 * lookedBack);

type Started = Pick<
  typeof tables.deliveryItems.$inferSelect,
  'id' | 'attempt' | 'first' | 'frames' | 'look' | 'pins' | 'hash' | 'inOut' | 'cuts' | 'retime'
>;
/**
 * How many frames before and behind each of its own an item's look looks at, at most, over a few of
 * them.
 */
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

/** What is made ahead waits for what people wait for. */
const AHEAD = { priority: -1 };

/**
 * Cuts an item into chunks for an attempt and queues them, all inside a transaction. `ahead`:
 * nobody waits for it.
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
    made.map((c) => ({ chunkId: c.id, attempt: item.attempt })),
    ahead ? AHEAD : {},
    tx,
  );
}
