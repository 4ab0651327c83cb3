/** Cuts an item of a delivery into chunks, so that any worker can render any of them. */
import { allPlaces, reachOf, shownOf, type Size, standing } from '../../core';
import { openCut } from '../cuts/open';
import { tables, type Transaction } from '../database';
import type { CutSnapshot } from '../database/columns';
import { send } from '../jobs/queue';
import type { Footage } from '../media/footage';
import type { Item as AnyItem } from './frames';

const { chunks } = tables;

/**
 * Frames per chunk: about a second of 1080 lines, fewer of larger pictures, and at least four times
 * the frames that the look looks back, because every chunk computes a trail's past again.
 */
export const chunkLength = (width: number, height: number, lookedBack = 0): number =>
  Math.max(4, Math.min(24, Math.round((24 * 1920 * 1080) / (width * height) / 2)), 4 * lookedBack);

type Item = typeof tables.deliveryItems.$inferSelect;
type Started = Pick<Item, 'id' | 'attempt' | 'first' | 'frames' | 'cut'>;
/** What the reach of an item's look depends on. */
interface Planned extends Pick<Item, 'first' | 'frames'> {
  readonly look?: Item['look'] | undefined;
  readonly subject: NonNullable<Item['subject']>;
  readonly hash: string;
}
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

/** Baking has lower priority than deliveries, and goes in turn: what is looked at comes first. */
const AHEAD = { priority: -1, inTurn: true };

/**
 * Frames per chunk of an item. Plans its look at a few frames, so ask before a transaction, which
 * holds locks.
 */
export const chunkLengthOf = (
  item: Planned,
  facts: Pick<Footage, 'frames' | 'rate'>,
  { width, height }: Size,
): number => chunkLength(width, height, lookedBack(item, facts));

/** Frames per chunk of a cut: the looks of all its places count. */
export async function chunkLengthOfCut(snapshot: CutSnapshot, size: Size): Promise<number> {
  const { clips, document, rate } = await openCut(snapshot);
  const most = allPlaces(document).map((place) => {
    const clip = clips[place.clip];
    if (!clip?.look) return 0;
    const { clip: shown, frames } = standing(place, clip, rate);
    const subject = { ...clip.snapshot.subject, ...shownOf(shown) };
    return lookedBack({ look: clip.look, subject, hash: clip.hash, first: 0, frames }, clip.facts);
  });
  return chunkLength(size.width, size.height, Math.max(0, ...most));
}
/** Frames per chunk of an item, whatever it is. */
export async function chunkLengthFor(item: AnyItem): Promise<number> {
  if (item.cut) return chunkLengthOfCut(item.cut, item.delivery);
  return chunkLengthOf(
    { ...item, subject: item.subject!, hash: item.hash! },
    item.footage!.facts,
    item.delivery,
  );
}

/** First frames of an item's chunks: every `length`, and of a cut wherever its own row is cut. */
function firstsOf({ cut, first, frames }: Started, length: number): number[] {
  const borders = (cut?.document.rows[0]?.places ?? [])
    .map((p) => p.at)
    .filter((at) => at > first && at < first + frames);
  const ends = [...new Set([first, ...borders, first + frames])].sort((a, b) => a - b);
  return ends
    .slice(1)
    .flatMap((to, i) =>
      Array.from({ length: Math.ceil((to - ends[i]!) / length) }, (_, k) => ends[i]! + k * length),
    );
}

/** Rows in one statement: PostgreSQL takes 65,535 values. */
const MOST_ROWS = 5000;

/**
 * Cuts an item into chunks of `length` frames for an attempt and queues them, inside a transaction.
 * `ahead`: for baking, at low priority. `from`: the frame whose chunk comes first; those before it
 * come last.
 */
export async function startItem(
  tx: Transaction,
  item: Started,
  length: number,
  ahead = false,
  from = 0,
): Promise<void> {
  const itemId = item.id;
  const firsts = firstsOf(item, length);
  const rows = firsts.map((first, i) => ({
    itemId,
    attempt: item.attempt,
    first,
    count: (firsts[i + 1] ?? item.first + item.frames) - first,
  }));
  const begins = rows.findIndex((r) => r.first + r.count > from);
  rows.push(...rows.splice(0, Math.max(0, begins)));
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
