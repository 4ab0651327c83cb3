/** The import job: turns uploaded files into footage and a clip, or reports why it cannot. */
import { access, mkdir, rename, rm } from 'node:fs/promises';
import { basename, join } from 'node:path';
import { and, eq, inArray, ne, asc, sql } from 'drizzle-orm';
import type { SequenceChoice } from '../../core';
import type { Rate } from '../../core/time';
import { db, tables } from '../database';
import { keptDecisions } from '../database/columns';
import { notify } from '../events';
import { type Footage, NotFootage, stored } from '../media/footage';
import { contentHash, leave, placeOf } from '../media/place';
import { probe } from '../media/probe';
import { cutsInFootage } from '../media/cuts';
import { isDiskFull } from '../media/run';
import { positionsOf } from '../media/sequence';
import type { Again } from '../media/again';
import { makeProgressive } from '../media/progressive';
import { makeProxies } from '../media/proxies';
import { storedPlace, storeOriginal } from '../media/store';
import { drawVector } from '../media/vector';
import { folder, inData } from '../config/settings';
import { uploadName } from './imports';
import { originalOf } from './original';
import { queueMeasure } from './statistics';
import { isSoundFile } from '../media/sound-file';
import { takeSound } from '../sounds/sounds';
import { DISK_FULL, ROOM_AGAIN, send } from '../jobs/queue';

const { imports, footage, clips, projects } = tables;
type Import = typeof imports.$inferSelect;

class Cancelled extends Error {}

/** Runs one import. Failures are stored with it; nothing incomplete remains. */
export async function runImport(importId: string): Promise<void> {
  const job = await db().query.imports.findFirst({ where: eq(imports.id, importId) });
  if (job?.state === 'cancelled') return sweepIncoming(importId);
  if (!job || job.state === 'done' || job.state === 'failed') return;
  const say = reporter(job);
  try {
    await say.now(0, 'reading', 'running');
    const clipId = await take(job, say);
    await db()
      .update(imports)
      .set({ state: 'done', progress: 1, doing: '', clipId })
      .where(and(eq(imports.id, job.id), ne(imports.state, 'cancelled')));
  } catch (e) {
    if (isDiskFull(e)) return waitForRoom(job);
    if (!(e instanceof NotFootage || e instanceof Cancelled)) throw e;
    await db()
      .update(imports)
      .set({ state: e instanceof Cancelled ? 'cancelled' : 'failed', error: e.message })
      .where(eq(imports.id, job.id));
  }
  await sweepIncoming(job.id);
  await notify({ project: job.projectId, what: 'clips' });
  await notify({ project: job.projectId, what: 'imports' });
}

/** Marks an import as failed after the queue has given it up; nothing incomplete remains. */
export async function failImport(importId: string, reason: string): Promise<void> {
  const [job] = await db()
    .update(imports)
    .set({ state: 'failed', error: `it could not be brought in (${reason}): try it again` })
    .where(and(eq(imports.id, importId), inArray(imports.state, ['waiting', 'running'])))
    .returning();
  if (!job) return;
  await sweepIncoming(job.id);
  await notify({ project: job.projectId, what: 'imports' });
}
const sweepIncoming = (id: string): Promise<void> =>
  rm(inData(join('incoming', id)), { recursive: true, force: true });

/**
 * Reports that the disk is full and queues the import again for later; it continues once there is
 * space.
 */
async function waitForRoom(job: Import): Promise<void> {
  await rm(making(job), { recursive: true, force: true });
  await db()
    .update(imports)
    .set({ doing: DISK_FULL })
    .where(and(eq(imports.id, job.id), eq(imports.state, 'running')));
  await send('import', [{ importId: job.id }], { startAfter: ROOM_AGAIN });
  await notify({ project: job.projectId, what: 'imports' });
}
const making = (job: Import): string => inData(join('footage', `.making-${job.id}`));

interface Reporter {
  now(progress: number, doing: string, state?: 'running'): Promise<void>;
  at(progress: number, doing: string): void;
  readonly signal: AbortSignal;
}

/** Stores progress at most four times a second, and checks for cancellation. */
function reporter(job: Import): Reporter {
  const stop = new AbortController();
  const began = Date.now();
  let last = 0;
  const now = async (progress: number, doing: string, state?: 'running') => {
    const [row] = await db()
      .update(imports)
      .set({ progress, doing, ...(state && { state }) })
      .where(eq(imports.id, job.id))
      .returning({ state: imports.state });
    if (row?.state === 'cancelled') stop.abort();
    await notify({ project: job.projectId, what: 'imports' });
  };
  return {
    now,
    signal: stop.signal,
    at(progress, doing) {
      if (Date.now() - last < 250) return;
      last = Date.now();
      now(progress, `${doing}${toGo(last - began, progress)}`).catch(() => {});
    },
  };
}

/** The estimated remaining time as text; empty while there is no reliable estimate. */
function toGo(elapsed: number, progress: number): string {
  if (progress < 0.05 || elapsed < 1500) return '';
  const seconds = Math.ceil(((elapsed / progress) * (1 - progress)) / 1000);
  return seconds >= 90
    ? `, about ${Math.round(seconds / 60)} min to go`
    : `, about ${seconds} s to go`;
}

/** Brings a file with sound alone in, beside the clips. */
async function takeSoundOnly(job: Import, path: string, say: Reporter): Promise<null> {
  const { there } = await takeSound(path, {
    project: job.projectId,
    name: job.name,
    report: (share) => say.at(share, 'reading every sample'),
    signal: say.signal,
  }).catch((e: unknown) => {
    if (say.signal.aborted) throw new Cancelled('cancelled');
    throw e;
  });
  if (there) await sayIsHere(job, there);
  return null;
}
const sayIsHere = (job: Import, name: string) =>
  db()
    .update(imports)
    .set({ error: `the same file is here already, as "${name}"` })
    .where(eq(imports.id, job.id));

/** Brings an import's files in; the id of their clip, null for a sound. */
async function take(job: Import, say: Reporter): Promise<string | null> {
  const [project] = await db().select().from(projects).where(eq(projects.id, job.projectId));
  const {
    path,
    rate = [project!.rateNum, project!.rateDen] as const,
    sequence,
  } = job.again ? await again(job, job.again, say) : { path: await gathered(job, say) };
  if (!job.again && job.files.length === 1 && (await isSoundFile(path)))
    return takeSoundOnly(job, path, say);
  const place = await placeOf(path, { rate, sequence, name: job.name });
  let facts: Footage;
  try {
    // Footage imported before, under any name, is reused.
    const hash = await contentHash(path, place);
    const known = await originalOf(hash);
    facts =
      known?.facts ??
      (await probe(path, {
        place,
        rate,
        hash,
        signal: say.signal,
        onProgress: (p) =>
          say.at(0.4 * Math.min(1, p.of > 0 ? p.frames / p.of : 0), 'reading every frame'),
      }));
    if (!known && !(await originalOf(hash))) await keepFootage(job, path, facts, say);
  } catch (e) {
    if (say.signal.aborted) throw new Cancelled('cancelled');
    throw e;
  } finally {
    await leave(place);
  }
  return clipOf(job, facts);
}

const natural = new Intl.Collator('en', { numeric: true });
/**
 * File names of a picture sequence, numbered in natural order by the numbers that they had, so that
 * missing ones show.
 */
function inOrder(files: readonly string[]): string[] {
  const names: string[] = [];
  const order = [...files.keys()].sort((a, b) => natural.compare(files[a]!, files[b]!));
  const places = positionsOf(order.map((i) => files[i]!));
  order.forEach((i, rank) => (names[i] = uploadName(files[i]!, places?.[rank] ?? rank)));
  return names;
}

/** The uploaded file (a vector picture is drawn first), or a folder of the uploaded pictures. */
async function gathered(job: Import, say: Reporter): Promise<string> {
  const at = (name: string) => inData(join('incoming', job.id, name));
  const stored = job.files.map(uploadName);
  const pictures = at('pictures');
  // An earlier attempt may have assembled them already.
  const ordered = inOrder(job.files);
  for (const [i, name] of stored.entries())
    await access(at(name))
      .catch(() => access(join(pictures, ordered[i]!)))
      .catch(() => {
        throw new NotFootage(`${job.files[i]} is not there: bring it again`);
      });
  const [first] = stored;
  if (stored.length === 1 && first!.endsWith('.svg')) {
    await drawVector(at(first!), at('drawn.png'), job.name, say.signal);
    return at('drawn.png');
  }
  if (stored.length === 1) return at(first!);
  await mkdir(pictures, { recursive: true });
  for (const [i, name] of stored.entries())
    await rename(at(name), join(pictures, ordered[i]!)).catch(() => {});
  return pictures;
}

/** What is read: a path, and for a sequence how. */
interface Read {
  readonly path: string;
  readonly rate?: Rate;
  readonly sequence?: SequenceChoice;
}
/** Existing footage, made progressive, or its pictures with another choice. */
async function again(job: Import, wanted: Again, say: Reporter): Promise<Read> {
  const source = await originalOf(wanted.hash);
  if (!source) throw new NotFootage('the footage it was to be made from has gone: bring it again');
  if (wanted.made === 'sequence') {
    const { gaps, sizes } = wanted;
    return { path: inData(source.file), rate: source.facts.rate, sequence: { gaps, sizes } };
  }
  const to = inData(join('incoming', job.id, 'progressive.mkv'));
  const place = await storedPlace(source.file, source.facts);
  await makeProgressive(
    place,
    source.facts,
    wanted,
    to,
    (share) => say.at(0.3 * share, 'parting the fields'),
    say.signal,
  );
  return { path: to };
}

async function keepFootage(
  job: Import,
  path: string,
  facts: Footage,
  say: Reporter,
): Promise<void> {
  const made = folder('footage', basename(making(job)));
  try {
    const place = await placeOf(path, { rate: facts.rate, sequence: facts.sequence });
    try {
      await makeProxies(
        place,
        facts,
        made,
        (share) => say.at(0.4 + 0.6 * share, 'making proxies'),
        say.signal,
      );
    } finally {
      await leave(place);
    }
    const file = await storeOriginal(path, facts);
    for (const name of ['proxy-540.webm', 'proxy-270.webm', 'strip.jpg'])
      await rename(join(made, name), inData(join('footage', facts.hash, name)));
    if (facts.kind === 'sequence') await storedPlace(file, facts);
    const cuts = await cutsInFootage(facts, say.signal);
    await db()
      .insert(footage)
      .values({
        hash: facts.hash,
        name: job.name,
        bytes: facts.bytes,
        file,
        ...stored(facts),
        cuts,
      })
      .onConflictDoNothing();
  } finally {
    await rm(made, { recursive: true, force: true });
  }
}

/** Clips older than the numbering of imports come first. */
const FIRST_PLACE = 1_000_000;

/** The project's clip of this footage; a file imported twice gives one clip. */
async function clipOf(job: Import, facts: Footage): Promise<string> {
  const [there, made] = await db().transaction(async (tx) => {
    // Serialises imports of the same file.
    await tx.execute(sql`select pg_advisory_xact_lock(hashtext(${job.projectId + facts.hash}))`);
    const known = await tx.query.clips.findFirst({
      where: and(eq(clips.projectId, job.projectId), eq(clips.hash, facts.hash)),
      orderBy: [asc(clips.place)],
    });
    if (known) return [known];
    const name = job.name.replace(/\.[^.]+$/, '');
    const values = {
      projectId: job.projectId,
      hash: facts.hash,
      name,
      place: FIRST_PLACE + job.number,
      decided: keptDecisions({ role: job.role, encoding: facts.guess }),
    };
    const [row] = await tx.insert(clips).values(values).returning({ id: clips.id });
    return [undefined, row];
  });
  await queueMeasure([{ hash: facts.hash, encoding: facts.guess }]);
  if (made) return made.id;
  await sayIsHere(job, there!.name);
  return there!.id;
}
