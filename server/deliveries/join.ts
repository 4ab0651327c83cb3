/** Joins an item's chunks into one file with sound, checking every frame. */
import { mkdir, readdir, rename, rm, stat, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import {
  deliveryFormat,
  type FormatId,
  keptLoudness,
  samplesFor,
  samplesOf,
  soundMapOf,
  underLook,
  type VideoFormat,
} from '../../core';
import { startOf } from '../../core/time';
import { inData } from '../config/settings';
import { openMix } from '../cuts/mixing';
import { openCut } from '../cuts/open';
import { input, isDiskFull, joined, listed, output, run } from '../media/run';
import { COMPUTED, writeRetimedSound } from '../media/retimed-sound';
import { writeMix } from '../media/cut-mix';
import { loudnessOfFile } from '../media/sound-samples';
import { storedPlace } from '../media/store';
import { copiedOutput, soundOutput, videoOutput } from '../render';
import { type ClipItem, formOf, isClip, type Item, live, loadItem } from './frames';
import { endItem, waitForRoom } from './item-state';
import { chunkFile, workFolder } from './work-folder';
import { zipFolder } from './zip';

/** Longest name of a file, bytes; file systems take 255. */
const LONGEST_NAME = 160;
/** A clip's name as a file's: letters and digits of any script stay. */
export function fileName(name: string): string {
  let plain = name.normalize('NFC').replace(/[^\p{L}\p{M}\p{N}._-]+/gu, '-');
  while (Buffer.byteLength(plain) > LONGEST_NAME) plain = [...plain].slice(0, -1).join('');
  return plain.replace(/^[.-]+/, '') || 'clip';
}

/** Runs the join of an attempt. */
export async function runJoin(itemId: string, attempt: number): Promise<void> {
  const item = await loadItem(itemId);
  if (!item || !live(item, attempt)) return;
  const format = deliveryFormat(item.delivery.format);
  const parts = item.chunks.filter((c) => c.attempt === attempt).sort((a, b) => a.first - b.first);
  const partial = join(workFolder(item), `.joined-${process.pid}-${Date.now()}.${format.ending}`);
  try {
    if (format.makes === 'pictures') await zipPictures(item, partial);
    else
      await joinVideo(
        item,
        parts.flatMap((p) => p.hashes ?? []),
        parts.map((p) => p.first),
        partial,
        { ...format, id: item.delivery.format },
      );
  } catch (e) {
    await rm(partial, { force: true });
    if (isDiskFull(e)) return waitForRoom(item, 'join', { itemId, attempt });
    throw e;
  }
  const heard = format.makes === 'pictures' ? undefined : await loudnessOfFile(partial),
    loudness = heard ? keptLoudness(heard) : null;
  const file = join(
    'deliveries',
    item.deliveryId,
    `${fileName(item.clipName)}-${item.id.slice(0, 4)}.${format.ending}`,
  );
  await mkdir(join(inData(file), '..'), { recursive: true });
  await rename(partial, inData(file));
  const { size } = await stat(inData(file));
  await endItem(item, attempt, { file, bytes: size, loudness });
  await rm(inData(join('work', item.id)), { recursive: true, force: true });
}

async function zipPictures(item: Item, to: string): Promise<void> {
  const pictures = workFolder(item, 'pictures');
  const names = (await readdir(pictures)).sort();
  if (names.length !== item.frames)
    throw new Error(`${names.length} pictures instead of ${item.frames}`);
  await zipFolder(pictures, names, to);
}

/**
 * Longest silence, ms. After its last frame an encoder finishes its look-ahead, and MP4's index is
 * moved to the front; nothing is written meanwhile.
 */
const ENDING = 15 * 60_000;

/** Sound that is joined to pictures. */
interface Joined {
  /** Arguments that open it. */
  readonly opened: readonly string[];
  readonly codec: string;
  /** It is a file's as it stands. */
  readonly untouched: boolean;
  /** A file that was made for it and goes afterwards. */
  readonly made?: string;
}
const wave = (item: Item): string => join(workFolder(item), `.sound-${process.pid}.wav`);

/** A clip's own sound, along its retime; undefined if it has none. */
async function soundOfClip(item: ClipItem): Promise<Joined | undefined> {
  const { facts, file } = item.footage,
    { sound, rate } = facts,
    { inOut } = item.subject;
  if (!sound) return undefined;
  const place = await storedPlace(file, facts);
  const map = soundMapOf(underLook({ ...facts, ...item.subject }, item.look));
  if (map) {
    const made = wave(item);
    await writeRetimedSound(place, facts, { map, first: 0, frames: item.frames }, made);
    return { opened: input(made), codec: COMPUTED, untouched: false, made };
  }
  const heard = inOut
    ? [
        ...['-ss', String(startOf(inOut.in, rate))],
        ...['-t', String(startOf(inOut.out - inOut.in + 1, rate))],
      ]
    : [];
  return { opened: [...heard, ...place.open], codec: sound.codec, untouched: !inOut };
}

/** The mix of a cut; undefined if nothing is heard in it. */
async function soundOfCut(item: Item): Promise<Joined | undefined> {
  const snapshot = item.cut!;
  const mix = await openMix(await openCut(snapshot), snapshot);
  if (!mix.any) return undefined;
  const made = wave(item);
  await writeMix(mix, 0, samplesOf(item.frames, snapshot.rate), made);
  return { opened: input(made), codec: COMPUTED, untouched: false, made };
}

/**
 * Joins the chunks. While encoding, every frame is compared with its earlier hash, so that none is
 * lost or doubled. Throws if the file differs from what was rendered.
 */
async function joinVideo(
  item: Item,
  hashes: readonly string[],
  firsts: readonly number[],
  to: string,
  format: VideoFormat & { readonly id: FormatId },
): Promise<void> {
  const { rate, encoding } = formOf(item);
  const list = join(workFolder(item), `.list-${process.pid}.txt`);
  await writeFile(list, firsts.map((f) => listed(chunkFile(item, f))).join(''));
  const { width, height, effort, coverage } = item.delivery;
  const samples = samplesFor(format.id, encoding, coverage);
  const sound = isClip(item) ? await soundOfClip(item) : await soundOfCut(item);
  const seen: string[] = [];
  try {
    await run(
      'ffmpeg',
      [
        ...joined(list, '-r', rate.join('/')),
        ...(sound?.opened ?? []),
        '-map',
        '0:v',
        ...(sound ? ['-map', '1:a:0', ...soundOutput(format, sound.codec, sound.untouched)] : []),
        // Lossless chunks are delivered as they are: packets are copied, not encoded again.
        ...(format.lossless
          ? copiedOutput(rate)
          : [
              '-r',
              rate.join('/'),
              '-fps_mode',
              'cfr',
              ...videoOutput(format, { samples, encoding, size: { width, height }, effort }),
            ]),
        output(to),
        ...(format.lossless
          ? PACKETS
          : ['-map', '0:v', '-fps_mode', 'passthrough', '-pix_fmt', samples, ...HASHES]),
      ],
      (line) => seen.push(...hashIn(line)),
      undefined,
      ENDING,
    );
  } finally {
    if (sound?.made) await rm(sound.made, { force: true });
  }
  // For copies the packets are compared; FFV1's own checksums cover their contents.
  const expected = format.lossless ? await packetsOf(to) : hashes;
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
        output(to),
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
/** The hash in a line of `framehash`, if it has one. */
const hashIn = (line: string): string[] =>
  !line.startsWith('#') && line.includes(',') ? [line.split(',')[5]!.trim()] : [];
/** Hashes of a file's video packets. */
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
