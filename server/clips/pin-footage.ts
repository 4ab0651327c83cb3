/** The footage that a clip's pins name: its current settings and its files. */
import { and, eq, inArray, asc } from 'drizzle-orm';
import { type ClipPins, footagePins, type LookDocument, pictureOf, pinned } from '../../core';
import type { Engine } from '../../core/engine';
import { db, tables } from '../database';
import type { PinFootage } from '../database/columns';
import type { Other } from '../media/footage-reader';
import { readAs } from '../media/footage';
import { openOriginal, originalOf } from '../footage/original';
import { statisticsFor } from '../footage/statistics';

const { clips } = tables;

/**
 * Settings of the footage of a clip's pins, by the pin's key. Footage that has left the project is
 * missing.
 */
export async function pinFootageOf(
  projectId: string,
  look: LookDocument | null | undefined,
  pins: ClipPins,
): Promise<Record<string, PinFootage>> {
  const wanted = footagePins(look, pins);
  if (wanted.length === 0) return {};
  const hashes = wanted.map(([, p]) => p.hash);
  const rows = await db().query.clips.findMany({
    where: and(eq(clips.projectId, projectId), inArray(clips.hash, hashes)),
    columns: { hash: true, decided: true },
    orderBy: [asc(clips.place)],
  });
  const settings = rows.map((r): PinFootage => ({ hash: r.hash, ...pictureOf(r.decided) }));
  return Object.fromEntries(
    wanted.flatMap(([key, p]) => {
      const found = pinned(p.hash, settings);
      return found ? [[key, found]] : [];
    }),
  );
}

/**
 * The footage of pins, ready to be read. Plates without set points are measured with their settings
 * then or now.
 */
export async function openPinFootage(
  readings: Readonly<Record<string, PinFootage>>,
  engine: Engine,
): Promise<Record<string, Other>> {
  const found: Record<string, Other> = {};
  for (const [key, { hash, role, plate, sampling, ...clip }] of Object.entries(readings)) {
    if (!(await originalOf(hash))) continue;
    const { facts, place } = await openOriginal(hash);
    const points =
      role === 'plate'
        ? (plate ??
          (
            await statisticsFor(engine, place, facts, {
              encoding: clip.encoding,
              sampling,
            })
          ).plate)
        : null;
    found[key] = { clip: { ...clip, plate: points }, facts: readAs(facts, sampling), place };
  }
  return found;
}
