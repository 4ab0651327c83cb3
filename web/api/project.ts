/** A project as its pages see it. */
import { and, asc, desc, eq, gt, inArray, isNull, sql, type SQL } from 'drizzle-orm';
import { cutsDecided, deliveryFormat, type FormatId, isRetimed, soundLeftOut } from '../../core';
import type { Retime } from '../../core/time';
import { assetStates } from '../../server/assets/assets';
import { tracedIn, tracesOf } from '../../server/traces/traces';
import { db, tables } from '../../server/database';
import { inspectedAs, pinFootageReads } from '../../server/inspections/inspections';
import { formOf } from '../../server/deliveries/frames';
import { soundsOf } from '../../server/sounds/sounds';
import { statisticsOf } from '../../server/footage/statistics';
import { type FootageFacts, readAs, tracksOf } from '../../server/media/footage';
import { PROXIES, proxySize, stripFrames } from '../../server/media/proxies';
import type { APIContext } from 'astro';
import { id, notFound } from './answer';
import type { ClipView, ItemView, KilnView, ProjectView } from '../data/views';

const { projects, clips, lookVersions, imports, deliveries, deliveryItems, workers } = tables;

/** Clips as pages see them, in the project's order. */
export async function clipViews(which: SQL): Promise<ClipView[]> {
  const rows = await db().query.clips.findMany({
    where: which,
    orderBy: [asc(clips.place), asc(clips.created)],
    with: {
      footage: { columns: { index: false } },
      project: true,
      inspection: true,
      version: {
        columns: { id: true, lookId: true, number: true },
        extras: {
          means: sql<string[] | null>`${lookVersions.document} -> 'means'`.as('means'),
          retimes: sql<boolean>`${lookVersions.document} -> 'retime' is not null`.as('retimes'),
        },
        with: { look: { columns: { name: true } } },
      },
    },
  });
  const statistics = await statisticsOf(
    rows.map(({ id, hash, decided }) => ({ id, hash, ...decided })),
  );
  const assets = await assetStates(which);
  const traces = await tracesOf([...new Set(rows.map((r) => r.project.id))]);
  const reads = await pinFootageReads(rows);
  return rows.map(({ footage, version, project, inspection, decided, ...c }) => {
    const { facts, cuts } = footage;
    return {
      ...decided,
      id: c.id,
      name: c.name,
      hash: c.hash,
      kind: facts.kind,
      format: readAs(facts, decided.sampling).format,
      tagged: facts.format,
      proxyMatrix: facts.proxyMatrix ?? null,
      pixelAspect: facts.pixelAspect,
      rate: facts.rate,
      frames: facts.frames,
      slots: facts.slots ?? null,
      codec: facts.codec,
      tracks: tracksOf(facts),
      guess: facts.guess,
      untagged: facts.untagged ?? false,
      cuts: cutsDecided(cuts, decided.cutsSaid),
      cutsFound: cuts ?? [],
      inspection: inspection && {
        state: inspection.state,
        progress: inspection.progress,
        current: inspection.of === inspectedAs({ ...c, decided, footage, project, version }, reads),
        flags: inspection.flags,
        error: inspection.error,
      },
      statistics: statistics.get(c.id) ?? null,
      assets: assets.get(c.hash) ?? {},
      traces: traces.get(tracedIn(project.id, c.hash)) ?? [],
      warnings: facts.warnings ?? [],
      missing: facts.missing ?? 0,
      gaps: facts.gaps && facts.sequence ? facts.sequence.gaps : null,
      bytes: facts.bytes,
      look: version && {
        lookId: version.lookId,
        versionId: version.id,
        name: version.look.name,
        number: version.number,
        means: version.means ?? [],
        retimes: version.retimes,
      },
      proxies: Object.fromEntries(
        PROXIES.map((l) => [String(l), proxySize(facts, l)]),
      ) as unknown as ClipView['proxies'],
      strip: stripFrames(facts),
    };
  });
}

const retimedIn = (
  format: FormatId,
  facts: Pick<FootageFacts, 'sound'> | undefined,
  retime: Retime | null,
  byLook: boolean,
): Pick<ItemView, 'retimed' | 'leftOut'> => {
  const retimed = byLook || isRetimed({ retime });
  return {
    retimed,
    leftOut:
      !facts || deliveryFormat(format).makes === 'pictures'
        ? null
        : (soundLeftOut(tracksOf(facts)) ?? null),
  };
};

/** The id of the project in the path. Throws `Problem` if there is none. */
export async function projectIn(c: APIContext): Promise<string> {
  const key = id(c, 'project', 'project');
  if ((await db().$count(projects, eq(projects.id, key))) === 0) throw notFound('project');
  return key;
}

/** A project with its clips and imports. Throws `Problem` if there is none. */
export async function projectView(id: string): Promise<ProjectView> {
  const project = await db().query.projects.findFirst({ where: eq(projects.id, id) });
  if (!project) throw notFound('project');
  const running = await db()
    .select()
    .from(imports)
    .where(and(eq(imports.projectId, id), inArray(imports.state, ['waiting', 'running', 'failed'])))
    .orderBy(asc(imports.created));
  const repeated = await db()
    .select()
    .from(imports)
    .where(
      and(
        eq(imports.projectId, id),
        eq(imports.state, 'done'),
        sql`${imports.error} is not null`,
        gt(imports.created, sql`now() - interval '10 minutes'`),
      ),
    );
  const all = await clipViews(eq(clips.projectId, id));
  return {
    id,
    name: project.name,
    width: project.width,
    height: project.height,
    rate: [project.rateNum, project.rateDen],
    clips: all.filter((c) => c.role === 'clip'),
    plates: all.filter((c) => c.role === 'plate'),
    sounds: await soundsOf(id),
    imports: [...running, ...repeated].map(
      ({ id: i, name, state, progress, doing, error, clipId }) => ({
        id: i,
        name,
        state,
        progress,
        doing,
        error,
        clipId,
      }),
    ),
  };
}

/** The deliveries of a project. */
export async function kilnView(project: string): Promise<KilnView> {
  const rows = await db().query.deliveries.findMany({
    where: and(eq(deliveries.projectId, project), isNull(deliveries.keeps)),
    orderBy: [desc(deliveries.created)],
    limit: 50,
    with: {
      items: {
        columns: { look: false },
        // Of the look only one fact is sent: whether it retimes the clip.
        extras: {
          retimes: sql<boolean>`${deliveryItems.look} -> 'retime' is not null`.as('retimes'),
        },
        with: {
          footage: { columns: { facts: true } },
          chunks: { columns: { attempt: true, rendered: true, done: true, count: true } },
        },
      },
    },
  });
  const [alive] = await db()
    .select({ n: sql<number>`count(*)::int` })
    .from(workers)
    .where(gt(workers.seen, sql`now() - interval '12 seconds'`));
  return {
    workers: alive!.n,
    deliveries: rows.map((d) => ({
      coverage: d.coverage,
      id: d.id,
      format: d.format,
      width: d.width,
      height: d.height,
      created: d.created.toISOString(),
      items: d.items
        .map((i) => {
          const now = i.chunks.filter((c) => c.attempt === i.attempt);
          const rendered = now.reduce((n, c) => n + c.rendered, 0);
          return {
            id: i.id,
            hash: i.hash,
            started: i.started?.toISOString() ?? null,
            clipName: i.clipName,
            lookName: i.lookName,
            state: i.state,
            frames: i.frames,
            rendered: i.state === 'done' ? i.frames : rendered,
            error: i.error,
            bytes: i.bytes,
            loudness: i.loudness,
            ...retimedIn(d.format, i.footage?.facts, i.subject?.retime ?? null, i.retimes),
            first: i.subject?.inOut?.in ?? 0,
            rate: formOf(i).rate,
            joining: i.state === 'running' && now.length > 0 && now.every((c) => c.done),
          };
        })
        .sort((a, b) => a.clipName.localeCompare(b.clipName)),
    })),
  };
}
