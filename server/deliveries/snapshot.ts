/** Clips and cuts as they are at one moment: what deliveries are rendered from, whatever follows. */
import { and, asc, eq, inArray } from 'drizzle-orm';
import {
  allPlaces,
  type ClipPins,
  type CutDocument,
  cutsDecided,
  type LookDocument,
  shownOf,
  tracesNamed,
  transitionNamed,
  withTrims,
} from '../../core';
import { pinFootageOf } from '../clips/pin-footage';
import { db, tables } from '../database';
import type { CutSnapshot, SnapshotClip } from '../database/columns';
import { openTracks, tracksNow } from '../traces/traces';

const { clips, lookVersions, projects, sounds } = tables;

/** A trace that a clip's pins name is not followed yet. */
export class NotFollowed extends Error {}

/**
 * The tracks of the traces that a look's pins on a clip name, as they stand: later marks do not
 * change a delivery. Throws `NotFollowed`, unless those that are not there may be missing.
 */
async function tracksFor(
  { name, hash, decided }: { name: string; hash: string; decided: { pins: ClipPins } },
  look: LookDocument | null | undefined,
  mayMiss: boolean,
): Promise<Record<string, string>> {
  const keys = (look?.pins ?? []).map((p) => p.key);
  const names = await tracksNow(tracesNamed(decided.pins, keys));
  const there = (await openTracks(hash, names)) ?? {};
  const missing = Object.keys(names).filter((id) => !there[id]);
  if (missing.length > 0 && !mayMiss)
    throw new NotFollowed(
      `${name}: a trace that its pins take is not followed to its end. Wait until it is, or begin it again on the Bench.`,
    );
  return Object.fromEntries(Object.entries(names).filter(([id]) => !missing.includes(id)));
}

/** Clips of a project in its order, with their looks' versions and the facts of their footage. */
export const clipRows = (projectId: string, ids: readonly string[]) =>
  db().query.clips.findMany({
    where: and(eq(clips.projectId, projectId), inArray(clips.id, [...ids])),
    orderBy: [asc(clips.place)],
    with: { footage: { columns: { index: false } }, version: { with: { look: true } } },
  });
type ClipRow = Awaited<ReturnType<typeof clipRows>>[number];

/**
 * A clip as it is now. Throws `NotFollowed`, unless what is not followed yet may be missing
 * (`mayMiss`).
 */
export async function snapshotOf(row: ClipRow, mayMiss = false): Promise<SnapshotClip> {
  const { version, decided, footage, projectId } = row;
  const look = version && withTrims(version.document, decided.trims[version.lookId]);
  return {
    name: row.name,
    hash: row.hash,
    subject: {
      ...shownOf(decided),
      cuts: cutsDecided(footage.cuts, decided.cutsSaid),
      beside: await pinFootageOf(projectId, look, decided.pins),
      tracks: await tracksFor(row, look, mayMiss),
    },
    look: look ?? null,
    lookName: version ? `${version.look.name} v${version.number}` : null,
  };
}

/** The looks that a cut names: shipped transitions, and versions. */
async function looksOf(document: CutDocument): Promise<Record<string, LookDocument>> {
  const names = new Set(
    [document.whole, ...allPlaces(document).map((p) => p.enters)].flatMap((l) =>
      l ? [l.look] : [],
    ),
  );
  const shipped = [...names].flatMap((name) => {
    const found = transitionNamed(name);
    return found ? [[name, found.look] as const] : [];
  });
  const others = [...names].filter((n) => !transitionNamed(n) && UUID.test(n));
  const rows =
    others.length > 0
      ? await db().query.lookVersions.findMany({ where: inArray(lookVersions.id, others) })
      : [];
  return Object.fromEntries([...shipped, ...rows.map((r) => [r.id, r.document] as const)]);
}
const UUID = /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/;

/** A cut of a project as it is now; undefined if there is no such project. Throws `NotFollowed`. */
export async function cutSnapshotOf(
  projectId: string,
  document: CutDocument,
  mayMiss = false,
): Promise<CutSnapshot | undefined> {
  const project = await db().query.projects.findFirst({ where: eq(projects.id, projectId) });
  if (!project) return undefined;
  const ids = [...new Set(allPlaces(document).map((p) => p.clip))];
  const rows = ids.length > 0 ? await clipRows(projectId, ids) : [];
  const heard = await db()
    .select({ id: sounds.id, hash: sounds.hash })
    .from(sounds)
    .where(eq(sounds.projectId, projectId));
  const made: Record<string, SnapshotClip> = {};
  for (const row of rows) made[row.id] = await snapshotOf(row, mayMiss);
  return {
    document,
    rate: [project.rateNum, project.rateDen],
    clips: made,
    looks: await looksOf(document),
    sounds: Object.fromEntries(heard.map((s) => [s.id, s.hash])),
  };
}
