/**
 * What people decide about clips (name, encoding, look, trims, balance, status …). Several clips
 * are changed together or not at all.
 */
import { isDeepStrictEqual } from 'node:util';
import { and, asc, eq, gt, inArray } from 'drizzle-orm';
import {
  type ClipDecisions,
  type DecisionId,
  DECISIONS,
  type InOut,
  inOutOf,
  MOST_CHANCE,
  reachedAt,
} from '../../core';
import { db, tables } from '../database';
import { notify } from '../events';
import { type Measured, queueMeasure } from '../footage/statistics';

const { clips, projects } = tables;

/**
 * A change. `was` holds the values that `to` replaces; if the clip has others, someone else changed
 * it meanwhile.
 */
export interface ClipEdit {
  readonly clip: string;
  readonly was: Partial<ClipDecisions>;
  readonly to: Partial<ClipDecisions>;
}

/** The footage does not have what was asked for. */
export class NotInFootage extends Error {}
/** The clip has changed since it was read. */
export class ChangedMeanwhile extends Error {}

const keysOf = (part: Partial<ClipDecisions>): DecisionId[] =>
  (Object.keys(part) as DecisionId[]).filter((key) => part[key] !== undefined);
/** A copy as plain objects, without the classes of requests. */
const plain = (v: unknown): unknown => JSON.parse(JSON.stringify(v)) as unknown;

/**
 * Changes clips of a project: all, or none if one of them has changed meanwhile. Returns the number
 * of clips. Throws `ChangedMeanwhile`, and `NotInFootage` for an out point beyond the file.
 */
export async function editClips(projectId: string, edits: readonly ClipEdit[]): Promise<number> {
  const ids = edits.map((e) => e.clip);
  const reread: Measured[] = [];
  await db().transaction(async (tx) => {
    const rows = await tx
      .select()
      .from(clips)
      .where(and(eq(clips.projectId, projectId), inArray(clips.id, ids)))
      .orderBy(clips.id)
      .for('update');
    for (const { clip, was, to } of edits) {
      const row = rows.find((r) => r.id === clip);
      if (!row) throw new ChangedMeanwhile('a clip has gone');
      const now: ClipDecisions = { ...row.decided, name: row.name, version: row.lookVersionId };
      // What is so already was sent twice: the answer to the first was lost.
      const other = keysOf(to).find(
        (key) =>
          !isDeepStrictEqual(plain(now[key]), plain(was[key] ?? null)) &&
          !isDeepStrictEqual(plain(now[key]), plain(to[key])),
      );
      if (other) throw new ChangedMeanwhile(`${row.name} ${DECISIONS[other].words}`);
      const { name, version, ...rest } = plain(to) as Partial<ClipDecisions>;
      if (rest.inOut) {
        const source = await tx.query.footage.findFirst({
          where: eq(tables.footage.hash, row.hash),
          columns: { facts: true },
        });
        if (rest.inOut.out >= source!.facts.frames)
          throw new NotInFootage(`${row.name}’s file has frames 0 to ${source!.facts.frames - 1}`);
      }
      if (rest.encoding !== undefined || rest.sampling !== undefined || rest.inOut !== undefined)
        reread.push({ hash: row.hash, ...row.decided, ...rest });
      await tx
        .update(clips)
        .set({
          decided: { ...row.decided, ...rest },
          ...(name !== undefined && { name }),
          ...(version !== undefined && { lookVersionId: version }),
        })
        .where(eq(clips.id, clip));
    }
    await tx.update(projects).set({ touched: new Date() }).where(eq(projects.id, projectId));
  });
  await queueMeasure(reread);
  await notify({ project: projectId, what: 'clips' });
  return edits.length;
}

/** Distance from a clip's rank to the next clip's; 1 after the last. */
async function roomBehind(
  on: Pick<ReturnType<typeof db>, 'select'>,
  { projectId, place }: Pick<typeof clips.$inferSelect, 'projectId' | 'place'>,
): Promise<number> {
  const [next] = await on
    .select({ place: clips.place })
    .from(clips)
    .where(and(eq(clips.projectId, projectId), gt(clips.place, place)))
    .orderBy(asc(clips.place))
    .limit(1);
  return (next?.place ?? place + 1) - place;
}

/** There is nothing to split at the given frames. */
export class NothingToSplit extends Error {}

/**
 * Splits a clip before frames of its footage. It ends before the first of them, and a new clip
 * starts at each, with the same look, trims and pins. Returns the new ids; undefined if there is no
 * such clip. Throws `NothingToSplit` if none of the frames lies inside it.
 */
export async function splitClip(
  clipId: string,
  before: readonly number[],
): Promise<string[] | undefined> {
  const made = await db().transaction(async (tx) => {
    const [clip] = await tx.select().from(clips).where(eq(clips.id, clipId)).for('update');
    if (!clip) return undefined;
    const source = await tx.query.footage.findFirst({
      where: eq(tables.footage.hash, clip.hash),
      columns: { facts: true },
    });
    const ends = inOutOf({ frames: source!.facts.frames, inOut: clip.decided.inOut });
    const begins = [...new Set(before)]
      .filter((f) => f > ends.in && f <= ends.out)
      .sort((a, b) => a - b);
    if (begins.length === 0)
      throw new NothingToSplit(
        `${clip.name} begins with frame ${ends.in} of its footage and ends with ${ends.out}`,
      );
    const stretches = [ends.in, ...begins].map((first, i): InOut => ({
      in: first,
      out: (begins[i] ?? ends.out + 1) - 1,
    }));
    const step = (await roomBehind(tx, clip)) / stretches.length;
    const whole = { frames: source!.facts.frames, rate: source!.facts.rate, ...clip.decided };
    /** A part counts chance on from where it lies in the whole, so that it keeps its dust. */
    const partOf = (inOut: InOut): Pick<ClipDecisions, 'inOut' | 'chance'> => {
      const { chance, retime } = clip.decided;
      const begins = reachedAt(whole, retime?.backwards ? inOut.out : inOut.in);
      return { inOut, chance: { ...chance, from: chance.from + begins } };
    };
    const [first, ...rest] = stretches;
    const { decided } = clip;
    await tx
      .update(clips)
      .set({ decided: { ...decided, ...partOf(first!) } })
      .where(eq(clips.id, clipId));
    const { id: _, created: __, ...same } = clip;
    const values = rest.map((inOut, i) => ({
      ...same,
      name: `${clip.name.slice(0, 70)} ${i + 2}`,
      place: clip.place + step * (i + 1),
      decided: { ...decided, ...partOf(inOut), accepted: {} },
    }));
    const ids = await tx.insert(clips).values(values).returning({ id: clips.id });
    await tx.update(projects).set({ touched: new Date() }).where(eq(projects.id, clip.projectId));
    return { clip, ids: ids.map((r) => r.id), stretches };
  });
  if (!made) return undefined;
  const { clip, ids, stretches } = made;
  await queueMeasure(stretches.map((inOut) => ({ hash: clip.hash, ...clip.decided, inOut })));
  await notify({ project: clip.projectId, what: 'clips' });
  return ids;
}

/**
 * Adds a second clip with the same stretch of footage and a chance of its own; undefined if there is
 * no such clip.
 */
export async function doubleClip(clipId: string): Promise<string | undefined> {
  const [clip] = await db().select().from(clips).where(eq(clips.id, clipId));
  if (!clip) return undefined;
  const place = clip.place + (await roomBehind(db(), clip)) / 2;
  const { id: _, created: __, ...same } = clip;
  const alike = await db()
    .select({ decided: clips.decided })
    .from(clips)
    .where(and(eq(clips.projectId, clip.projectId), eq(clips.hash, clip.hash)));
  const number = 1 + Math.max(...alike.map((c) => c.decided.chance.number));
  const chance = { ...clip.decided.chance, number: Math.min(number, MOST_CHANCE) };
  const [made] = await db()
    .insert(clips)
    .values({
      ...same,
      name: `${clip.name.slice(0, 70)} again`,
      place,
      decided: { ...clip.decided, chance },
    })
    .returning({ id: clips.id });
  await notify({ project: clip.projectId, what: 'clips' });
  return made!.id;
}
