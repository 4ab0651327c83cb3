/**
 * Deliveries: an item's frames in small lossless chunks by any workers, then one encoding that
 * joins them with sound.
 */
import { createHash } from 'node:crypto';

import { mkdir, readdir, rename, rm, stat, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { and, eq, inArray, sql } from 'drizzle-orm';
import { reachOf, isRetimed, underLook } from '../../core';
import { startOf } from '../../core/time';
import { db, tables, type Transaction } from '../database';
import { notify } from '../events';
import { WrongFrame } from '../media/decode';
import { input, isDiskFull, joined, run, Sink } from '../media/run';
import { storedPlace } from '../media/store';
import {
  CHUNK_ENDING,
  chunkOutput,
  copiedOutput,
  type FormatId,
  picturesOutput,
  rawInput,
  samplesFor,
  type Size,
  soundOutput,
  type Threads,
  videoOutput,
} from '../render';
import { folder, inData } from '../config/settings';
import { bakeChunk } from './bake-chunk';
import {
  type Chunk,
  chunksLeft,
  eachFrame,
  type Item,
  itemFrames,
  live,
  loadChunk,
  loadItem,
} from './frames';
import { DISK_FULL, type Jobs, ROOM_AGAIN, send } from '../jobs/queue';
import { zipFolder } from './zip';

const { deliveryItems, chunks } = tables;

/**
 * Frames to a chunk: a second or so of 1080 lines, fewer of larger pictures; at least four times as
 * many as the look looks back (a trail's past is made anew in every chunk).
 */
export const chunkLength = (width: number, height: number, lookedBack = 0): number =>
  Math.max(4, Math.min(24, Math.round((24 * 1920 * 1080) / (width * height) / 2)), 4 * lookedBack);

type Started = Pick<
  typeof deliveryItems.$inferSelect,
  'id' | 'attempt' | 'first' | 'frames' | 'look' | 'pins' | 'hash' | 'inOut' | 'cuts' | 'retime'
>;
/**
 * How many frames before and behind each of its own an item's look looks at, at most, over a few of
 * them.
 */
async function lookedBack(
  tx: Transaction,
  { look, pins, hash, first, frames, inOut, cuts, retime }: Started,
): Promise<number> {
  if (!look) return 0;
  const [row] = await tx
    .select({ facts: tables.footage.facts })
    .from(tables.footage)
    .where(eq(tables.footage.hash, hash));
  const some = [0.25, 0.5, 0.75, 1].map((share) => first + Math.round((frames - 1) * share));
  const clip = {
    content: hash,
    frames: row!.facts.frames,
    rate: row!.facts.rate,
    pins,
    inOut,
    cuts,
    retime,
  };
  const { before, behind } = reachOf(look, clip, some);
  return before + behind;
}

/** What is made ahead waits for what people wait for. */
const AHEAD = { priority: -1 };

/**
 * Cuts an item into chunks for an attempt and queues them, all inside a transaction. `ahead`:
 * nobody waits for it.
 */
export async function startItem(
  tx: Transaction,
  item: Started,
  size: Size,
  ahead = false,
): Promise<void> {
  const length = chunkLength(size.width, size.height, await lookedBack(tx, item)),
    itemId = item.id;
  const rows = Array.from({ length: Math.ceil(item.frames / length) }, (_, i) => ({
    itemId,
    attempt: item.attempt,
    first: item.first + i * length,
    count: Math.min(length, item.frames - i * length),
  }));
  const made = await tx
    .insert(chunks)
    .values(rows)
    .onConflictDoNothing()
    .returning({ id: chunks.id });
  await send(
    'chunk',
    made.map((c) => ({ chunkId: c.id, attempt: item.attempt })),
    ahead ? AHEAD : {},
    tx,
  );
}

const CHUNK = `chunk.${CHUNK_ENDING}`;
const chunkFile = (item: Item, first: number): string =>
  join(workFolder(item), `${String(first).padStart(8, '0')}.${CHUNK_ENDING}`);
const workFolder = (item: Item, ...more: string[]): string =>
  folder('work', item.id, String(item.attempt), ...more);

/**
 * Notes that an attempt at an item is under way; false where it was cancelled since its chunk was
 * read.
 */
export async function begun(itemId: string, attempt: number): Promise<boolean> {
  const rows = await db()
    .update(deliveryItems)
    .set({ state: 'running', started: sql`coalesce(${deliveryItems.started}, now())` })
    .where(
      and(
        eq(deliveryItems.id, itemId),
        eq(deliveryItems.attempt, attempt),
        inArray(deliveryItems.state, ['waiting', 'running']),
      ),
    )
    .returning({ id: deliveryItems.id });
  return rows.length > 0;
}

export async function runChunk(chunkId: string, attempt: number, threads: Threads): Promise<void> {
  const chunk = await loadChunk(chunkId);
  if (!chunk || !live(chunk.item, attempt)) return;
  const { item } = chunk;
  if (!chunk.done) {
    if (!(await begun(item.id, attempt))) return;
    try {
      const hashes = item.delivery.keeps
        ? (await bakeChunk(item, chunk, threads)) && []
        : await renderChunk(item, chunk, threads);
      if (!hashes) return;
      if (item.error)
        await db().update(deliveryItems).set({ error: null }).where(eq(deliveryItems.id, item.id));
      await db()
        .update(chunks)
        .set({ done: true, rendered: chunk.count, hashes })
        .where(eq(chunks.id, chunkId));
    } catch (e) {
      // What will fail again is told at once; the queue tries the rest again.
      if (e instanceof WrongFrame) return failItem(item, attempt, e.message);
      if (isDiskFull(e)) return waitForRoom(item, 'chunk', { chunkId, attempt });
      throw e;
    }
  }
  await notify({ project: item.delivery.projectId, what: 'deliveries' });
  if ((await chunksLeft(item.id, attempt)) > 0) return;
  if (item.delivery.keeps) await endItem(item, attempt, {});
  else
    await send('join', [{ itemId: item.id, attempt }], { singletonKey: `${item.id}:${attempt}` });
}

/**
 * Says that the disk is full, and does the job again a little later: it goes on by itself once
 * there is room.
 */
async function waitForRoom<N extends 'chunk' | 'join'>(
  item: Item,
  name: N,
  job: Jobs[N],
): Promise<void> {
  await db()
    .update(deliveryItems)
    .set({ error: DISK_FULL })
    .where(
      and(eq(deliveryItems.id, item.id), inArray(deliveryItems.state, ['waiting', 'running'])),
    );
  await send(name, [job], { startAfter: ROOM_AGAIN });
  await notify({ project: item.delivery.projectId, what: 'deliveries' });
}

/**
 * Renders to a folder of this try alone and moves the result in place. Undefined when the item was
 * cancelled meanwhile.
 */
async function renderChunk(
  item: Item,
  chunk: Chunk,
  { engine }: Threads,
): Promise<string[] | undefined> {
  const { format } = item.delivery;
  const frames = await itemFrames(item, engine),
    { spec } = frames;
  const samples = samplesFor(format, item.delivery.coverage);
  const tryFolder = workFolder(item, `.try-${chunk.id}-${process.pid}-${Date.now()}`);
  const sink = new Sink([
    ...rawInput(samples, spec.width, spec.height, spec.rate),
    ...(format === 'png'
      ? picturesOutput(join(tryFolder, '%06d.png'), chunk.first, samples)
      : chunkOutput(format, join(tryFolder, CHUNK), samples, spec.outEncoding, spec)),
  ]);
  const hashes: string[] = [];
  try {
    const wanted = await eachFrame(item, chunk, async (frame) => {
      const made = await frames.at(frame);
      hashes.push(createHash('md5').update(made).digest('hex'));
      await sink.write(made);
    });
    if (!wanted) {
      sink.kill();
      return undefined;
    }
    await sink.end();
    await settle(item, chunk.first, tryFolder, format);
    return hashes;
  } finally {
    await frames.close();
    await rm(tryFolder, { recursive: true, force: true });
  }
}

async function settle(
  item: Item,
  first: number,
  tryFolder: string,
  format: FormatId,
): Promise<void> {
  if (format !== 'png') return rename(join(tryFolder, CHUNK), chunkFile(item, first));
  const pictures = workFolder(item, 'pictures');
  for (const name of await readdir(tryFolder))
    await rename(join(tryFolder, name), join(pictures, name));
}

async function failItem(item: Item, attempt: number, message: string): Promise<void> {
  await db()
    .update(deliveryItems)
    .set({ state: 'failed', error: message, ended: new Date() })
    .where(
      and(
        eq(deliveryItems.id, item.id),
        eq(deliveryItems.attempt, attempt),
        inArray(deliveryItems.state, ['waiting', 'running']),
      ),
    );
  await notify({ project: item.delivery.projectId, what: 'deliveries' });
}

const FINAL: Record<FormatId, string> = { mp4: 'mp4', mkv: 'mkv', webm: 'webm', png: 'zip' };

export async function runJoin(itemId: string, attempt: number): Promise<void> {
  const item = await loadItem(itemId);
  if (!item || !live(item, attempt)) return;
  const { format } = item.delivery;
  const parts = item.chunks.filter((c) => c.attempt === attempt).sort((a, b) => a.first - b.first);
  const partial = join(workFolder(item), `.joined-${process.pid}-${Date.now()}.${FINAL[format]}`);
  try {
    if (format === 'png') await zipPictures(item, partial);
    else
      await joinVideo(
        item,
        parts.flatMap((p) => p.hashes ?? []),
        parts.map((p) => p.first),
        partial,
        format,
      );
  } catch (e) {
    await rm(partial, { force: true });
    if (isDiskFull(e)) return waitForRoom(item, 'join', { itemId, attempt });
    throw e;
  }
  const file = join(
    'deliveries',
    item.deliveryId,
    `${item.clipName.replace(/[^\w.-]+/g, '-')}-${item.id.slice(0, 4)}.${FINAL[format]}`,
  );
  await mkdir(join(inData(file), '..'), { recursive: true });
  await rename(partial, inData(file));
  const { size } = await stat(inData(file));
  await endItem(item, attempt, { file, bytes: size });
  await rm(inData(join('work', item.id)), { recursive: true, force: true });
}

async function endItem(
  item: Item,
  attempt: number,
  made: { readonly file?: string; readonly bytes?: number },
): Promise<void> {
  await db()
    .update(deliveryItems)
    .set({ state: 'done', ...made, error: null, ended: new Date() })
    .where(
      and(
        eq(deliveryItems.id, item.id),
        eq(deliveryItems.attempt, attempt),
        inArray(deliveryItems.state, ['waiting', 'running']),
      ),
    );
  await notify({ project: item.delivery.projectId, what: 'deliveries' });
}

async function zipPictures(item: Item, to: string): Promise<void> {
  const pictures = workFolder(item, 'pictures');
  const names = (await readdir(pictures)).sort();
  if (names.length !== item.frames)
    throw new Error(`${names.length} pictures instead of ${item.frames}`);
  await zipFolder(pictures, names, to);
}

/**
 * Joins the chunks; while encoding, every frame is checked against its hash from before, so that
 * none is lost or doubled.
 */
/**
 * After its last frame an encoder ends what it looked ahead at, and MP4's index is moved to the
 * front: it is quiet meanwhile (ms).
 */
const ENDING = 15 * 60_000;

async function joinVideo(
  item: Item,
  hashes: readonly string[],
  firsts: readonly number[],
  to: string,
  format: Exclude<FormatId, 'png'>,
): Promise<void> {
  const { facts } = item.footage;
  const list = join(workFolder(item), `.list-${process.pid}.txt`);
  await writeFile(list, firsts.map((f) => `file '${chunkFile(item, f)}'\n`).join(''));
  const { width, height, effort, coverage } = item.delivery;
  const samples = samplesFor(format, coverage);
  const place = await storedPlace(item.footage.file, facts);
  // What the sound of a retimed clip does is not decided yet.
  const { inOut, retime, pins } = item;
  const sounds =
    facts.sound && !isRetimed(underLook({ ...facts, inOut, retime, pins }, item.look))
      ? facts.sound
      : null;
  const heard = inOut
    ? [
        '-ss',
        String(startOf(inOut.in, facts.rate)),
        '-t',
        String(startOf(inOut.out - inOut.in + 1, facts.rate)),
      ]
    : [];
  const seen: string[] = [];
  await run(
    'ffmpeg',
    [
      ...joined(list, '-r', facts.rate.join('/')),
      ...(sounds ? [...heard, ...place.open] : []),
      '-map',
      '0:v',
      ...(sounds ? ['-map', '1:a:0', ...soundOutput(format, sounds.codec, !inOut)] : []),
      // Lossless chunks are what is delivered: their packets are copied, not coded once more.
      ...(format === 'mkv'
        ? copiedOutput(facts.rate)
        : [
            '-r',
            facts.rate.join('/'),
            '-fps_mode',
            'cfr',
            ...videoOutput(format, samples, item.encoding, { width, height }, effort),
          ]),
      to,
      ...(format === 'mkv'
        ? PACKETS
        : ['-map', '0:v', '-fps_mode', 'passthrough', '-pix_fmt', samples, ...HASHES]),
    ],
    (line) => seen.push(...hashIn(line)),
    undefined,
    ENDING,
  );
  // Of what is only copied the packets are compared: that each holds its samples is FFV1's own
  // affair, and its checksum's.
  const expected = format === 'mkv' ? await packetsOf(to) : hashes;
  const changed = seen.findIndex((h, i) => h !== expected[i]);
  const wrong =
    seen.length !== item.frames || expected.length !== item.frames
      ? `${seen.length} frames instead of ${item.frames}`
      : changed >= 0
        ? `frame ${changed} changed on its way`
        : undefined;
  if (wrong) throw new Error(`the joined file is not what was rendered: ${wrong}`);
  const counted = Number(
    (
      await run('ffprobe', [
        '-count_packets',
        '-select_streams',
        'v:0',
        '-show_entries',
        'stream=nb_read_packets',
        '-of',
        'csv=p=0',
        to,
      ])
    ).out
      .toString()
      .trim()
      .replace(/,$/, ''),
  );
  if (counted !== item.frames)
    throw new Error(`the encoded file has ${counted} frames instead of ${item.frames}`);
}

const HASHES = ['-f', 'framehash', '-hash', 'md5', 'pipe:1'],
  PACKETS = ['-map', '0:v', '-c', 'copy', ...HASHES];
/** The hash that a line of `framehash` tells, if it tells one. */
const hashIn = (line: string): string[] =>
  !line.startsWith('#') && line.includes(',') ? [line.split(',')[5]!.trim()] : [];
/** The hashes of a file's packets of pictures. */
async function packetsOf(file: string): Promise<string[]> {
  const found: string[] = [];
  await run(
    'ffmpeg',
    [...input(file), ...PACKETS],
    (line) => found.push(...hashIn(line)),
    undefined,
    ENDING,
  );
  return found;
}

/** A job that was given up for good, as the queue says. */
export async function giveUp(itemId: string, attempt: number, message: string): Promise<void> {
  const item = await loadItem(itemId);
  if (item) await failItem(item, attempt, message);
}
export const itemOfChunk = async (chunkId: string): Promise<string | undefined> =>
  (await loadChunk(chunkId))?.itemId;
