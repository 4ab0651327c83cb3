/** Projects, and the copying of their clips. */
import { randomUUID } from 'node:crypto';
import { and, count, desc, eq, isNull, sql } from 'drizzle-orm';
import type { ClipPins, CutDocument } from '../../core';
import { db, tables } from '../database';

const { projects, clips, cuts, sounds, traces } = tables;

/** A cut with the clips and sounds of a copy in place of those it was made from. */
const withCopies = (cut: CutDocument, copies: ReadonlyMap<string, string>): CutDocument => ({
  ...cut,
  rows: cut.rows.map((row) => ({
    ...row,
    places: row.places.map((p) => ({ ...p, clip: copies.get(p.clip) ?? p.clip })),
  })),
  sounds: cut.sounds.map((s) => ({ ...s, sound: copies.get(s.sound) ?? s.sound })),
});

/** Pins with the traces of a copy in place of those it was made from. */
const withTraces = (pins: ClipPins, names: ReadonlyMap<string, string>): ClipPins =>
  Object.fromEntries(
    Object.entries(pins).map(([key, all]) => [
      key,
      all.map((p) => ('trace' in p ? { trace: names.get(p.trace) ?? p.trace } : p)),
    ]),
  );

/** Creates a project; returns its id. */
export async function makeProject(
  name: string,
  width: number,
  height: number,
  rate: readonly [number, number],
): Promise<string> {
  const [made] = await db()
    .insert(projects)
    .values({ name, width, height, rateNum: rate[0], rateDen: rate[1] })
    .returning({ id: projects.id });
  return made!.id;
}

/** Marks a project as changed now. */
export const touchProject = (id: string, on: Pick<ReturnType<typeof db>, 'update'> = db()) =>
  on.update(projects).set({ touched: new Date() }).where(eq(projects.id, id));

/** All projects, latest change first, with their numbers of clips. */
export const projectList = () =>
  db()
    .select({
      id: projects.id,
      name: projects.name,
      width: projects.width,
      height: projects.height,
      rateNum: projects.rateNum,
      rateDen: projects.rateDen,
      touched: projects.touched,
      removed: projects.removed,
      clips: count(clips.id),
    })
    .from(projects)
    .leftJoin(
      clips,
      and(eq(clips.projectId, projects.id), sql`${clips.decided} @> '{"role":"clip"}'`),
    )
    .groupBy(projects.id)
    .orderBy(desc(projects.touched))
    .limit(200);

/** Renames a project, removes it or restores it; false if there is none. */
export async function changeProject(
  id: string,
  { name, removed }: { readonly name?: string | undefined; readonly removed?: boolean | undefined },
): Promise<boolean> {
  const changed = await db()
    .update(projects)
    .set({
      ...(name !== undefined && { name }),
      ...(removed !== undefined && { removed: removed ? new Date() : null }),
      touched: new Date(),
    })
    .where(eq(projects.id, id))
    .returning({ id: projects.id });
  return changed.length > 0;
}

/** Copies a project with its clips and all decisions about them; undefined if there is none. */
export async function copyProject(id: string): Promise<string | undefined> {
  return db().transaction(async (tx) => {
    const project = await tx.query.projects.findFirst({ where: eq(projects.id, id) });
    if (!project) return undefined;
    const { name, width, height, rateNum, rateDen } = project;
    const [made] = await tx
      .insert(projects)
      .values({ name: `${name.slice(0, 75)} copy`, width, height, rateNum, rateDen })
      .returning({ id: projects.id });
    const own = await tx.select().from(clips).where(eq(clips.projectId, id));
    const traced = await tx.select().from(traces).where(eq(traces.projectId, id));
    const names = new Map(traced.map((t) => [t.id, randomUUID()]));
    if (traced.length > 0)
      await tx
        .insert(traces)
        .values(traced.map((t) => ({ ...t, id: names.get(t.id)!, projectId: made!.id })));
    const heard = await tx
      .select({
        ...{ id: sounds.id, hash: sounds.hash, name: sounds.name },
        ...{ beats: sounds.beats, created: sounds.created },
      })
      .from(sounds)
      .where(and(eq(sounds.projectId, id), isNull(sounds.removed)));
    const copies = new Map([...own, ...heard].map((x) => [x.id, randomUUID()]));
    if (heard.length > 0)
      await tx
        .insert(sounds)
        .values(heard.map((s) => ({ ...s, id: copies.get(s.id)!, projectId: made!.id })));
    const cut = await tx.query.cuts.findFirst({ where: eq(cuts.projectId, id) });
    if (cut)
      await tx
        .insert(cuts)
        .values({ projectId: made!.id, document: withCopies(cut.document, copies) });
    if (own.length > 0)
      await tx.insert(clips).values(
        own.map(({ id, created: __, decided, ...c }) => ({
          ...c,
          id: copies.get(id)!,
          decided: { ...decided, pins: withTraces(decided.pins, names) },
          projectId: made!.id,
        })),
      );
    return made!.id;
  });
}
