/** Stored footage, ready to be decoded. */
import { eq } from 'drizzle-orm';
import { db, tables } from '../database';
import { type Footage, whole } from '../media/footage';
import { type Place } from '../media/place';
import { storedPlace } from '../media/store';

/** A stored file and all facts about it. */
export interface Original {
  readonly file: string;
  readonly facts: Footage;
}

/** Footage never changes, and its index of frames is large: some are kept. */
const known = new Map<string, Original>();
const MOST_KNOWN = 16;

/** The footage with this hash; undefined if there is none. */
export async function originalOf(hash: string): Promise<Original | undefined> {
  const kept = known.get(hash);
  if (kept) return kept;
  const [row] = await db()
    .select({
      file: tables.footage.file,
      facts: tables.footage.facts,
      index: tables.footage.index,
    })
    .from(tables.footage)
    .where(eq(tables.footage.hash, hash));
  if (!row) return undefined;
  const found = { file: row.file, facts: whole(row) };
  known.set(hash, found);
  for (const oldest of known.keys()) if (known.size > MOST_KNOWN) known.delete(oldest);
  return found;
}

/** The same with the place to decode it from. Throws if there is none. */
export async function openOriginal(hash: string): Promise<Original & { readonly place: Place }> {
  const found = await originalOf(hash);
  if (!found) throw new Error(`the footage ${hash.slice(0, 8)} has gone`);
  return { ...found, place: await storedPlace(found.file, found.facts) };
}
