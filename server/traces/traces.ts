/** Traces of footage: marks that people gave, and the tracks that are made from them. */
import { createHash } from 'node:crypto';
import { and, asc, eq, inArray, type SQL } from 'drizzle-orm';
import {
  kindOfPlace,
  kindOfTrace,
  type PlaceKindId,
  type WholeAssets,
  withoutTrace,
} from '../../core';
import { POINTS_METHOD, type Track, type TraceGiven, trackByHand } from '../../core/trace';
import { notifyAll, UNDER_WAY } from '../assets/assets';
import { db, tables, type Transaction } from '../database';
import { originalOf } from '../footage/original';
import { send } from '../jobs/queue';
import { storedTrack, storeTrack } from '../media/tracks';

const { clips, derivedAssets, traces } = tables;

/** What a person gives of a trace. */
export interface TraceEdit {
  readonly name?: string | undefined;
  readonly follow?: boolean | undefined;
  /** Frames either way over which it is smoothed. */
  readonly smooth?: number | undefined;
  readonly marks?: TraceGiven['marks'] | undefined;
}
/** A new trace. */
export interface NewTrace extends Required<Omit<TraceEdit, 'smooth'>>, Pick<TraceEdit, 'smooth'> {
  /** What is marked. Default: a point. */
  readonly kind?: PlaceKindId | undefined;
  /** Its id, where it was taken away and comes back. */
  readonly id?: string | undefined;
}
/** A trace as pages see it. */
export interface TraceState {
  readonly id: string;
  readonly name: string;
  readonly kind: PlaceKindId;
  readonly follow: boolean;
  /** Frames either way over which it is smoothed; 0 for none. */
  readonly smooth: number;
  readonly marks: TraceGiven['marks'];
  /** Digest of what its track is made from: the name of the track. */
  readonly of: string;
  readonly state: (typeof derivedAssets.$inferSelect)['state'];
  /** 0…1. */
  readonly progress: number;
  readonly error: string | null;
}

/** Digest of what a track is made from. */
export function digestOf(given: TraceGiven): string {
  const { kind = 'point', follow, smooth = 0, marks, cuts } = given,
    { numbers } = kindOfTrace(given);
  const all = marks.map((m) => [m.frame, ...numbers(m)]);
  return createHash('sha256')
    .update(
      JSON.stringify([
        ...[POINTS_METHOD, follow, all, cuts],
        ...(kind === 'point' ? [] : [kind]),
        ...(follow && smooth > 0 ? [smooth] : []),
      ]),
    )
    .digest('hex');
}
const trackRow = (hash: string, of: string): SQL =>
  and(
    eq(derivedAssets.hash, hash),
    eq(derivedAssets.kind, 'track'),
    eq(derivedAssets.method, POINTS_METHOD),
    eq(derivedAssets.of, of),
  )!;

/** Has the track of a trace made, unless it is there or under way. By hand it is there at once. */
async function wantTrack(hash: string, given: TraceGiven): Promise<void> {
  const of = digestOf(given);
  const known = await db().query.derivedAssets.findFirst({ where: trackRow(hash, of) });
  if (known && [...UNDER_WAY, 'done'].includes(known.state)) return;
  const row = { hash, kind: 'track' as const, method: POINTS_METHOD, of, given };
  const put = (tx: Pick<Transaction, 'insert'>, state: 'waiting' | 'done') => {
    const fresh = { state, error: null, progress: state === 'done' ? 1 : 0, used: new Date() };
    return tx
      .insert(derivedAssets)
      .values({ ...row, ...fresh })
      .onConflictDoUpdate({
        target: [derivedAssets.hash, derivedAssets.kind, derivedAssets.method, derivedAssets.of],
        set: fresh,
      });
  };
  if (!given.follow) {
    const original = await originalOf(hash);
    if (!original) return;
    await storeTrack(hash, of, trackByHand(given, original.facts.frames));
    await put(db(), 'done');
    return;
  }
  await db().transaction(async (tx) => {
    await put(tx, 'waiting');
    await send('track', [{ hash }], {}, tx);
  });
}

/** Has the tracks made that an earlier method made; those that somebody stopped stay stopped. */
export async function wantTracksAnew(): Promise<void> {
  const rows = await db().select({ hash: traces.hash, given: traces.given }).from(traces);
  const made = await db()
    .select({ hash: derivedAssets.hash, of: derivedAssets.of })
    .from(derivedAssets)
    .where(and(eq(derivedAssets.kind, 'track'), eq(derivedAssets.method, POINTS_METHOD)));
  const known = new Set(made.map(({ hash, of }) => `${hash} ${of}`));
  for (const { hash, given } of rows)
    if (!known.has(`${hash} ${digestOf(given)}`)) await wantTrack(hash, given);
}

/**
 * Adds a trace to a clip's footage and has its track made; undefined if there is no such clip, null
 * if its id is another's.
 */
export async function addTrace(
  clipId: string,
  { name, kind, follow, smooth, marks, id }: NewTrace,
): Promise<string | null | undefined> {
  const clip = await db().query.clips.findFirst({
    where: eq(clips.id, clipId),
    columns: { hash: true, projectId: true },
    with: { footage: { columns: { cuts: true } } },
  });
  if (!clip) return undefined;
  const given: TraceGiven = {
    ...(kind && kind !== 'point' && { kind }),
    follow: follow ?? false,
    ...(smooth && { smooth }),
    marks: marks ?? [],
    cuts: clip.footage.cuts ?? [],
  };
  const [row] = await db()
    .insert(traces)
    .values({
      projectId: clip.projectId,
      hash: clip.hash,
      name: name ?? '',
      given,
      ...(id && { id }),
    })
    .onConflictDoNothing()
    .returning({ id: traces.id });
  if (!row) return null;
  await wantTrack(clip.hash, given);
  await notifyAll(clip.hash);
  return row.id;
}

/**
 * Changes a trace; another track is made if its marks changed. Its kind if the marks are of another,
 * undefined if there is no such trace.
 */
export async function editTrace(
  id: string,
  edit: TraceEdit,
): Promise<'done' | { readonly kind: PlaceKindId } | undefined> {
  const row = await db().query.traces.findFirst({ where: eq(traces.id, id) });
  if (!row) return undefined;
  const { kind = 'point' } = row.given;
  if (edit.marks?.some((m) => kindOfPlace(m) !== kind)) return { kind };
  const given: TraceGiven = {
    ...row.given,
    ...(edit.follow !== undefined && { follow: edit.follow }),
    ...(edit.smooth !== undefined && { smooth: edit.smooth }),
    ...(edit.marks && { marks: edit.marks }),
  };
  await db()
    .update(traces)
    .set({ given, ...(edit.name !== undefined && { name: edit.name }) })
    .where(eq(traces.id, id));
  await wantTrack(row.hash, given);
  await notifyAll(row.hash);
  return 'done';
}

/** Stops following, or begins again; false if there is no such trace. */
export async function setFollowing(id: string, on: boolean): Promise<boolean> {
  const row = await db().query.traces.findFirst({ where: eq(traces.id, id) });
  if (!row) return false;
  if (on) await wantTrack(row.hash, row.given);
  else
    await db()
      .update(derivedAssets)
      .set({ state: 'cancelled' })
      .where(and(trackRow(row.hash, digestOf(row.given)), inArray(derivedAssets.state, UNDER_WAY)));
  await notifyAll(row.hash);
  return true;
}

/** Takes a trace away, and from the pins that name it; false if there is none. */
export async function removeTrace(id: string): Promise<boolean> {
  const [row] = await db().delete(traces).where(eq(traces.id, id)).returning();
  if (!row) return false;
  const same = and(eq(clips.projectId, row.projectId), eq(clips.hash, row.hash));
  await db().transaction(async (tx) => {
    for (const clip of await tx.select().from(clips).where(same).for('update')) {
      const pins = withoutTrace(clip.decided.pins, id);
      if (pins)
        await tx
          .update(clips)
          .set({ decided: { ...clip.decided, pins } })
          .where(eq(clips.id, clip.id));
    }
  });
  await notifyAll(row.hash);
  return true;
}
/** Key of a project's footage. */
export const tracedIn = (projectId: string, hash: string): string => `${projectId} ${hash}`;
/** The traces of all footage of projects, by `tracedIn`. */
export async function tracesOf(projectIds: readonly string[]): Promise<Map<string, TraceState[]>> {
  const rows = await db()
    .select()
    .from(traces)
    .where(inArray(traces.projectId, [...projectIds]))
    .orderBy(asc(traces.created));
  const found = new Map<string, TraceState[]>();
  if (rows.length === 0) return found;
  const tracks = await db()
    .select({
      hash: derivedAssets.hash,
      of: derivedAssets.of,
      state: derivedAssets.state,
      progress: derivedAssets.progress,
      error: derivedAssets.error,
    })
    .from(derivedAssets)
    .where(
      and(
        eq(derivedAssets.kind, 'track'),
        eq(derivedAssets.method, POINTS_METHOD),
        inArray(derivedAssets.of, [...new Set(rows.map((r) => digestOf(r.given)))]),
      ),
    );
  for (const { id, projectId, hash, name, given } of rows) {
    const of = digestOf(given),
      track = tracks.find((t) => t.hash === hash && t.of === of);
    const state: TraceState = {
      ...{ id, name, of, kind: given.kind ?? 'point', follow: given.follow, marks: given.marks },
      smooth: given.smooth ?? 0,
      state: track?.state ?? 'cancelled',
      progress: track?.progress ?? 0,
      error: track?.error ?? null,
    };
    const key = tracedIn(projectId, hash);
    found.set(key, [...(found.get(key) ?? []), state]);
  }
  return found;
}

/**
 * The track of a trace by its name, or as it stands without one; undefined if it is not made.
 * Somebody may have changed the marks since the name was read.
 */
export async function trackOf(id: string, of?: string): Promise<Track | undefined> {
  const row = await db().query.traces.findFirst({ where: eq(traces.id, id) });
  return row && storedTrack(row.hash, of ?? digestOf(row.given));
}

/**
 * Names of the tracks of traces as they stand, by the traces' ids. What keeps them is not changed
 * by later marks.
 */
export async function tracksNow(ids: readonly string[]): Promise<Record<string, string>> {
  if (ids.length === 0) return {};
  const rows = await db()
    .select()
    .from(traces)
    .where(inArray(traces.id, [...ids]));
  return Object.fromEntries(rows.map((r) => [r.id, digestOf(r.given)]));
}
/** The same of those that are made, for keys: what was computed without a track has another. */
export async function tracksMade(ids: readonly string[]): Promise<Record<string, string>> {
  const names = Object.entries(await tracksNow(ids));
  if (names.length === 0) return {};
  const rows = await db()
    .select({ of: derivedAssets.of })
    .from(derivedAssets)
    .where(
      and(
        eq(derivedAssets.kind, 'track'),
        eq(derivedAssets.state, 'done'),
        inArray(
          derivedAssets.of,
          names.map(([, of]) => of),
        ),
      ),
    );
  const made = new Set(rows.map((r) => r.of));
  return Object.fromEntries(names.filter(([, of]) => made.has(of)));
}
/** Tracks by the ids of their traces, from their names; those that are not made are left out. */
export async function openTracks(
  hash: string,
  names: Readonly<Record<string, string>>,
): Promise<WholeAssets['tracks']> {
  const all = await Promise.all(
    Object.entries(names).map(async ([id, of]) => [id, await storedTrack(hash, of)] as const),
  );
  return Object.fromEntries(all.flatMap(([id, t]) => (t ? [[id, t]] : [])));
}
