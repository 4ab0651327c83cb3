/**
 * The inspection job: checks a clip under its look frame by frame. Ends early if it is stopped or
 * the clip changes.
 */
import { and, eq, inArray } from 'drizzle-orm';
import {
  needsStatistics,
  inspectedFrame,
  Inspection,
  clipFrame,
  plan,
  withTrims,
  lengthOf,
  underLook,
  cutsDecided,
  shownOf,
  tracesNamed,
} from '../../core';
import { openTracks, tracksMade } from '../traces/traces';
import { db, tables } from '../database';
import { notify } from '../events';
import { inspectedAs, pinFootageReads } from './inspections';
import { myTurn } from '../jobs/turns';
import { FootageReader } from '../media/footage-reader';
import { readAs } from '../media/footage';
import { storedParts } from '../media/parts';
import { openPinFootage, pinFootageOf } from '../clips/pin-footage';
import type { Threads } from '../render';
import { statisticsFor } from '../footage/statistics';
import type { Jobs } from '../jobs/queue';
import { openOriginal } from '../footage/original';

const { clips, inspections } = tables;
type Wanted = Jobs['inspect'];

/** Most lines of inspected pictures. Lengths in looks are in lines, so shares do not change. */
const LINES = 540;
/** Interval between progress reports, ms. */
const TOLD_EVERY = 700;

const still = ({ clipId, of }: Wanted) =>
  and(
    eq(inspections.clipId, clipId),
    eq(inspections.of, of),
    inArray(inspections.state, ['waiting', 'running']),
  );
/** Reports progress; false if it is no longer wanted. */
async function note(
  wanted: Wanted,
  set: Partial<typeof inspections.$inferInsert>,
): Promise<boolean> {
  const rows = await db()
    .update(inspections)
    .set(set)
    .where(still(wanted))
    .returning({ clipId: inspections.clipId });
  return rows.length > 0;
}

/** Runs an inspection job. */
export async function runInspect(wanted: Wanted, { engine }: Threads): Promise<void> {
  const clip = await db().query.clips.findFirst({
    where: eq(clips.id, wanted.clipId),
    with: { project: true, footage: { columns: { index: false } }, version: true },
  });
  if (
    !clip ||
    inspectedAs(clip, await pinFootageReads([clip])) !== wanted.of ||
    !(await note(wanted, { state: 'running', progress: 0 }))
  )
    return;
  const { project, version } = clip;
  const { facts: stored, place } = await openOriginal(clip.hash);
  const facts = readAs(stored, clip.decided.sampling);
  const said = () => notify({ project: project.id, what: 'clips' });
  const look = version && withTrims(version.document, clip.decided.trims[version.lookId]);
  const height = Math.min(LINES, project.height),
    width = Math.round((project.width * height) / project.height);
  const inspection = new Inspection(0, facts.rate[0] / facts.rate[1]);
  const whole =
    look && needsStatistics(look) ? await statisticsFor(engine, place, facts, clip.decided) : null;
  const cuts = cutsDecided(clip.footage.cuts, clip.decided.cutsSaid);
  const shown = {
    ...shownOf(clip.decided),
    cuts,
    pixelAspect: facts.pixelAspect,
    content: clip.hash,
    rate: facts.rate,
    frames: facts.frames,
    whole,
  };
  const names = await tracksMade(tracesNamed(shown.pins, Object.keys(shown.pins)));
  const beside = new FootageReader(
    look,
    place,
    facts,
    { ...shown, tracks: await openTracks(clip.hash, names) },
    await openPinFootage(await pinFootageOf(project.id, look, clip.decided.pins), engine),
    {},
    storedParts(facts.hash, 'motion'),
  );
  const length = lengthOf(underLook(shown, look));
  let frame = 0,
    told = performance.now();
  try {
    while (frame < length) {
      await myTurn('background');
      const at = clipFrame(await beside.at(frame), shown, frame, { width, height, look });
      const { bedrock, result } = look
        ? plan(look, at)
        : { bedrock: at.bedrock, result: at.bedrock };
      inspection.add(inspectedFrame(engine, { bedrock, result, frame }, 'bt709', look?.fills));
      frame++;
      if (performance.now() - told < TOLD_EVERY) continue;
      told = performance.now();
      if (!(await note(wanted, { progress: frame / length }))) return;
      await said();
    }
  } finally {
    await beside.close();
  }
  await note(wanted, { state: 'done', progress: 1, flags: inspection.flags() });
  await said();
}

/** Stores why an inspection failed. */
export async function failInspection(wanted: Wanted, error: string): Promise<void> {
  if (!(await note(wanted, { state: 'failed', error }))) return;
  const clip = await db().query.clips.findFirst({
    where: eq(clips.id, wanted.clipId),
    columns: { projectId: true },
  });
  if (clip) await notify({ project: clip.projectId, what: 'clips' });
}
