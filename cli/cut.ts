/** `cut`: renders a whole cut to one file, from a file that says what it is made of. */
import { randomUUID } from 'node:crypto';
import { mkdir, mkdtemp, readFile, rename, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { basename, dirname, extname, join, resolve } from 'node:path';
import type { Option } from 'commander';
import {
  allPlaces,
  cannotMeasure,
  type Cut,
  type CutClip,
  type CutDocument,
  decided,
  DELIVERY_FORMATS,
  EFFORTS,
  inWords,
  isEncoding,
  lengthOfCut,
  type LookDocument,
  readCut,
  samplesFor,
  samplesOf,
  shownOf,
  standingFacts,
  transitionNamed,
  type VideoFormat,
} from '../core';
import type { Engine } from '../core/engine';
import type { Rate } from '../core/time';
import { cutMix, writeMix } from '../server/media/cut-mix';
import { cutsOf } from '../server/media/cuts';
import type { Footage } from '../server/media/footage';
import { FootageReader } from '../server/media/footage-reader';
import { leave, type Place, placeOf } from '../server/media/place';
import { probe } from '../server/media/probe';
import { COMPUTED } from '../server/media/retimed-sound';
import { input, output, Sink } from '../server/media/run';
import { makeSamples, type SampleFile } from '../server/media/sound-reader';
import { channelsIn } from '../server/media/sound-samples';
import {
  cutPictures,
  type FrameSpec,
  rawInput,
  renderPicture,
  soundOutput,
  startEngine,
  videoOutput,
} from '../server/render';
import { flag, needed, one, Usage, value, type Words } from './args';
import { lookNamed } from './look';
import { refuseReplacing } from './outputs';
import { wholeFor } from './pins';
import { rangeOf, rateFrom, sizeNamed, whole } from './render-options';

/** Options of `cut`. */
export const CUT_OPTIONS: readonly Option[] = [
  value('in', 'file', 'a cut: its clips and sounds as files, its looks, and its document'),
  value('out', 'place', 'a .mkv, .mp4 or .webm file'),
  value('frames', 'first-last', 'of the project, from 0; all without'),
  value('size', 'WxH', 'of the frame; the file’s own without'),
  value('effort', 'how', `of H.264: ${EFFORTS.join(', ')}`),
  value('threads', 'n', 'as many as there are cores without'),
  flag('quiet', 'without counting frames'),
];

/** What the file says of a clip. */
interface FileClip {
  readonly file: string;
  /** A shipped look, or a file of one. */
  readonly look?: string;
  readonly encoding?: string;
}
/** The file, once read. Paths in it count from where it lies. */
interface CutFile {
  readonly rate: Rate;
  readonly width: number;
  readonly height: number;
  readonly clips: Readonly<Record<string, FileClip>>;
  readonly sounds: Readonly<Record<string, string>>;
  readonly document: CutDocument;
}
interface FileOpened extends CutClip {
  readonly place: Place;
  readonly footage: Footage;
}

const isRecord = (v: unknown): v is Record<string, unknown> =>
  typeof v === 'object' && v !== null && !Array.isArray(v);

/** Reads the file of a cut. Throws `Usage` with what is wrong where. */
async function readCutFile(path: string): Promise<CutFile> {
  let json: unknown;
  try {
    json = JSON.parse(await readFile(path, 'utf8'));
  } catch (e) {
    throw new Usage(`"${path}" is not a file of a cut: ${(e as Error).message}`);
  }
  if (!isRecord(json)) throw new Usage(`"${path}" must hold an object with rate, clips and cut`);
  const { rate, width = 1920, height = 1080, clips = {}, sounds = {}, cut } = json;
  const perSecond = rateFrom(rate === undefined ? undefined : String(rate));
  if (!perSecond) throw new Usage(`"${path}": rate must be frames a second, such as 25`);
  const isSize = (v: unknown): v is number => Number.isInteger(v) && (v as number) >= 2;
  if (!isSize(width) || !isSize(height))
    throw new Usage(`"${path}": width and height must be whole numbers of pixels`);
  if (!isRecord(clips) || !isRecord(sounds))
    throw new Usage(`"${path}": clips and sounds must be objects, by the ids that the cut names`);
  for (const [id, clip] of Object.entries(clips))
    if (!isRecord(clip) || typeof clip['file'] !== 'string')
      throw new Usage(`"${path}": clips.${id} must have a file`);
  for (const [id, sound] of Object.entries(sounds))
    if (typeof sound !== 'string') throw new Usage(`"${path}": sounds.${id} must be a file`);
  const read = readCut(cut);
  if ('faults' in read) throw new Usage(`"${path}": cut.${inWords(read.faults)}`);
  for (const { clip, key } of allPlaces(read.cut))
    if (!(clip in clips))
      throw new Usage(`"${path}": ${key} names the clip ${clip}, which is not there`);
  return {
    ...{ rate: perSecond, width, height, document: read.cut },
    clips: clips as unknown as CutFile['clips'],
    sounds: sounds as unknown as CutFile['sounds'],
  };
}

async function openClip(id: string, said: FileClip, folder: string): Promise<FileOpened> {
  const from = resolve(folder, said.file);
  const place = await placeOf(from, {}),
    footage = await probe(from, { place });
  const { encoding = footage.guess } = said;
  if (!isEncoding(encoding))
    throw new Usage(`there is no encoding "${encoding}" (of ${said.file})`);
  return {
    ...shownOf(decided({ encoding })),
    ...{ id, name: basename(from), hash: footage.hash, rate: footage.rate },
    ...{ frames: footage.frames, cuts: await cutsOf(place, footage), place, footage },
    look: said.look === undefined ? null : await lookNamed(said.look, folder),
  };
}

/** The looks of transitions and of the whole. */
async function looksOf(
  document: CutDocument,
  folder: string,
): Promise<Record<string, LookDocument>> {
  const found: Record<string, LookDocument> = {};
  for (const use of [document.whole, ...allPlaces(document).map((p) => p.enters)])
    if (use && !found[use.look])
      found[use.look] = transitionNamed(use.look)?.look ?? (await lookNamed(use.look, folder));
  return found;
}

/** Renders a cut and returns a line about the result. Throws `Usage` and `NotFootage`. */
export async function renderCut(w: Words): Promise<string> {
  const from = resolve(needed(w, 'in')),
    out = resolve(needed(w, 'out')),
    folder = dirname(from);
  const format = DELIVERY_FORMATS.find(
    (f) => f.makes === 'video' && `.${f.ending}` === extname(out).toLowerCase(),
  );
  if (format?.makes !== 'video') throw new Usage('--out must end in .mkv, .mp4 or .webm');
  const effort = EFFORTS.find((e) => e === (one(w, 'effort') ?? 'usual'));
  if (!effort) throw new Usage(`--effort must be one of ${EFFORTS.join(', ')} (of H.264)`);
  const threads = whole('threads', one(w, 'threads'), 1, 64);
  const file = await readCutFile(from),
    { rate, document } = file;
  const asked = one(w, 'size');
  const [width, height] = asked === undefined ? [file.width, file.height] : sizeNamed(asked);
  const odd = cannotMeasure(format.id, { width, height });
  if (odd !== undefined) throw new Usage(`${odd}: give --size, or write .mkv`);
  const files = [
    ...Object.values(file.clips).map((c) => c.file),
    ...Object.values(file.sounds),
  ].map((f) => resolve(folder, f));
  await refuseReplacing(out, [from, ...files], false);
  const frames = lengthOfCut(document, rate);
  if (frames === 0) throw new Usage(`"${from}": nothing stands in the cut`);
  const [first, last] = rangeOf(one(w, 'frames'), frames);
  const clips: Record<string, FileOpened> = {};
  const work = await mkdtemp(join(tmpdir(), 'cut-'));
  try {
    for (const id of new Set(allPlaces(document).map((p) => p.clip)))
      clips[id] = await openClip(id, file.clips[id]!, folder);
    const cut: Cut<FileOpened> = { document, rate, clips, looks: await looksOf(document, folder) };
    const sound = await mixInto(cut, file, folder, work, first, last);
    const written = { cut, format, effort, out, sound, threads, quiet: w.flags.has('quiet') };
    await writeCut({ ...written, size: { width, height }, range: [first, last] });
    return `${last - first + 1} frames of ${width}x${height} written to ${out}`;
  } finally {
    for (const { place } of Object.values(clips)) await leave(place);
    await rm(work, { recursive: true, force: true });
  }
}

/** Writes the mix of the frames that are rendered; undefined where nothing is heard. */
async function mixInto(
  cut: Cut<FileOpened>,
  { sounds }: CutFile,
  folder: string,
  work: string,
  first: number,
  last: number,
): Promise<string | undefined> {
  const samples = async (opened: readonly string[], channels: number): Promise<SampleFile> => {
    const file = { file: join(work, `${randomUUID()}.f32`), channels };
    await makeSamples(opened, file);
    return file;
  };
  const mix = await cutMix(cut, {
    async sound(id) {
      const file = sounds[id];
      if (file === undefined) return undefined;
      const path = resolve(folder, file),
        channels = await channelsIn(path);
      if (channels === 0) throw new Usage(`"${path}" has no sound that can be read`);
      return samples(input(path), channels);
    },
    own: async ({ footage: { sound }, place }) =>
      sound ? samples(place.open, sound.channels) : undefined,
  });
  if (!mix.any) return undefined;
  const from = samplesOf(first, cut.rate),
    to = join(work, 'mix.wav');
  await writeMix(mix, from, samplesOf(last + 1, cut.rate) - from, to);
  return to;
}

interface Writing {
  readonly cut: Cut<FileOpened>;
  readonly format: VideoFormat & { readonly id: (typeof DELIVERY_FORMATS)[number]['id'] };
  readonly effort: (typeof EFFORTS)[number];
  readonly out: string;
  readonly size: { readonly width: number; readonly height: number };
  readonly range: readonly [number, number];
  readonly sound: string | undefined;
  readonly threads: number | undefined;
  readonly quiet: boolean;
}

async function writeCut({
  cut,
  format,
  effort,
  out,
  size,
  range,
  sound,
  ...how
}: Writing): Promise<void> {
  const [first, last] = range,
    encoding = 'bt709' as const;
  const samples = samplesFor(format.id, encoding, false);
  await mkdir(dirname(out), { recursive: true });
  const partial = join(
    dirname(out),
    `.${basename(out)}.${randomUUID().slice(0, 8)}${extname(out)}`,
  );
  const { engine, close } = startEngine(how.threads);
  const pictures = cutPictures(cut, size, ({ standing }) =>
    openShots(standing.clip, standingFacts(standing, cut.rate), size, engine),
  );
  const sink = new Sink([
    ...rawInput(samples, size.width, size.height, cut.rate),
    ...(sound
      ? [...input(sound), '-map', '0:v', '-map', '1:a:0', ...soundOutput(format, COMPUTED, false)]
      : []),
    ...videoOutput(format, { samples, encoding, size, effort }),
    output(partial),
  ]);
  let done = false;
  try {
    for (let frame = first; frame <= last; frame++) {
      const { picture, counts } = await pictures.at(frame);
      const form = { ...size, samples, outEncoding: encoding };
      await sink.write(renderPicture(engine, picture, counts, form));
      if (!how.quiet && process.stderr.isTTY)
        process.stderr.write(`\rframe ${frame - first + 1} of ${last - first + 1}`);
    }
    if (!how.quiet && process.stderr.isTTY) process.stderr.write('\r\x1b[K');
    await sink.end();
    await rename(partial, out);
    done = true;
  } finally {
    if (!done) {
      sink.kill();
      await rm(partial, { force: true });
    }
    await pictures.close();
    await close();
  }
}

async function openShots(
  { footage, place, look, encoding }: FileOpened,
  facts: ReturnType<typeof standingFacts>,
  size: Writing['size'],
  engine: Engine,
) {
  const spec: Omit<FrameSpec, 'samples' | 'outEncoding'> = {
    ...facts,
    ...(look && { look }),
    ...size,
    pixelAspect: footage.pixelAspect,
    whole: look && (await wholeFor(look, engine, place, footage, encoding, undefined)),
  };
  return { spec, reader: new FootageReader(look, place, footage, spec, {}) };
}
