/** `render`: renders a look over one piece of footage to a video file or a folder of pictures. */
import { randomUUID } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { mkdir, readdir, rename, rm, stat } from 'node:fs/promises';
import { basename, dirname, extname, join, resolve } from 'node:path';
import {
  type Balance,
  CDL_SPACES,
  type CdlSpace,
  type EncodingId,
  ENCODINGS,
  type Fit,
  isEncoding,
  lengthOf,
  type Reframe,
  isRetimed,
  underLook,
  type InOut,
  inOutOf,
} from '../core';
import { inOneLine, parseCdl } from '../core/formats';
import { BETWEEN, FASTEST, LONGEST_HOLD, type Retime, SLOWEST, startOf } from '../core/time';
import { FootageReader, type Other } from '../server/media/footage-reader';
import { type Footage } from '../server/media/footage';
import { leave, type Place, placeOf } from '../server/media/place';
import { probe } from '../server/media/probe';
import { Sink } from '../server/media/run';
import {
  COVERED_FORMATS,
  type Effort,
  EFFORTS,
  type FormatId,
  picturesOutput,
  rawInput,
  renderFrame,
  type RenderSpec,
  samplesFor,
  soundOutput,
  startEngine,
  videoOutput,
} from '../server/render';
import type { Option } from 'commander';
import { flag, needed, one, Usage, value, type Words } from './args';
import { LOOK_OPTIONS, lookFrom, PIN_OPTIONS } from './look';
import { pinsFrom, wholeFor } from './pins';

/** Options of `render`. */
export const RENDER_OPTIONS: readonly Option[] = [
  ...LOOK_OPTIONS,
  ...PIN_OPTIONS,
  value('in', 'footage', 'a video, a picture or a folder of pictures'),
  value('out', 'place', 'a .mkv, .mp4 or .webm file, or a folder for pictures'),
  value('frames', 'first-last', 'of what comes out, from 0; all without'),
  value('size', 'WxH', 'of the frame; the footage’s own without'),
  value('fit', 'way', 'fit (whole, with bars) or fill (cropped)'),
  value(
    'reframe',
    'x,y,closer',
    'what lies in the middle, per cent across and down, and how much larger',
  ),
  value('in-out', 'first-last', 'the frames of the footage that are the clip'),
  value('cuts', 'frames', 'those with which another shot begins, such as 31,47'),
  value('retime', 'places', 'frame:speed[:seconds],… in per cent, and “backwards”'),
  value('between', 'way', `what stands between frames: ${BETWEEN.join(', ')}`),
  value('encoding', 'name', 'of the footage’s code values, where the guess is wrong'),
  value('out-encoding', 'name', 'of what is written; the footage’s own without'),
  value('balance', 'file', 'a correction: .cc, .ccc or .cdl'),
  value('balance-on', 'values', `what it acts on: ${Object.keys(CDL_SPACES).join(', ')}`),
  value('balance-hold', 'on|off', 'whether it holds values to 0…1'),
  value('rate', 'n', 'frames a second of a folder of pictures'),
  value('depth', '8|16', 'bits of a picture frame’s samples'),
  value('effort', 'how', `of H.264: ${EFFORTS.join(', ')}`),
  value('threads', 'n', 'as many as there are cores without'),
  flag('coverage', 'with what the look covers, as alpha'),
  flag('quiet', 'without counting frames'),
];

/**
 * The first correction of a decision list file. Default: on the clip's code values, clamped to 0…1.
 */
function balanceFrom(w: Words): Balance | null {
  const path = one(w, 'balance'),
    on = one(w, 'balance-on') ?? 'clip',
    hold = one(w, 'balance-hold') ?? 'on';
  if (!(on in CDL_SPACES))
    throw new Usage(`--balance-on must be one of ${Object.keys(CDL_SPACES).join(', ')}`);
  if (hold !== 'on' && hold !== 'off') throw new Usage('--balance-hold must be on or off');
  if (path === undefined) return null;
  let text: string;
  try {
    text = readFileSync(path, 'utf8');
  } catch {
    throw new Usage(`--balance ${path} cannot be read: give a .cc, .ccc or .cdl file`);
  }
  const read = parseCdl(text);
  if ('fault' in read) throw new Usage(inOneLine(path, read.fault));
  const { slope, offset, power, saturation } = read.value[0]!;
  return { slope, offset, power, saturation, on: on as CdlSpace, hold: hold === 'on' };
}

function encodingNamed(w: Words, name: string): EncodingId | undefined {
  const id = one(w, name);
  if (id !== undefined && !isEncoding(id))
    throw new Usage(`there is no encoding "${id}"; there are ${ENCODINGS.join(', ')}`);
  return id as EncodingId | undefined;
}
function sizeOf(text: string | undefined, footage: Footage): [number, number] {
  if (text === undefined) return [footage.format.width, footage.format.height];
  const m = /^(\d+)x(\d+)$/.exec(text);
  const [width, height] = [Number(m?.[1]), Number(m?.[2])];
  if (!m || width < 1 || height < 1 || width > 8192 || height > 8192)
    throw new Usage('--size must be like 960x540, each side from 1 to 8192');
  return [width, height];
}
/** A reframe from `x,y` or `x,y,closer`, in per cent. */
function reframeOf(text: string | undefined): Reframe | null {
  if (text === undefined) return null;
  const [x, y, closer = 100, ...more] = text.split(',').map(Number);
  const inside = (v: number | undefined, least: number, most: number) =>
    v !== undefined && v >= least && v <= most;
  if (
    more.length > 0 ||
    !inside(x, -100, 200) ||
    !inside(y, -100, 200) ||
    !inside(closer, 10, 1000)
  )
    throw new Usage(
      '--reframe must be like 40,50 (what lies in the middle of the frame, per cent across and down) or 40,50,120 (and how much larger, per cent)',
    );
  return { x: x! / 100, y: y! / 100, closer };
}
/**
 * A retime from `frame:speed` and `frame:speed:hold` (frames of the footage, per cent, seconds),
 * several separated by commas; `backwards` reverses it.
 */
function retimeFrom(text: string | undefined, between: string | undefined): Retime | null {
  if (text === undefined) return null;
  const how = BETWEEN.find((b) => b === (between ?? 'motion'));
  if (!how) throw new Usage(`--between must be one of ${BETWEEN.join(', ')}`);
  const words = text.split(','),
    backwards = words.includes('backwards');
  const places = words
    .filter((w) => w !== 'backwards')
    .map((w) => {
      const [frame, speed, hold = 0, ...more] = w.split(':').map(Number);
      const good =
        more.length === 0 &&
        Number.isInteger(frame) &&
        frame! >= 0 &&
        speed! >= SLOWEST &&
        speed! <= FASTEST &&
        hold >= 0 &&
        hold <= LONGEST_HOLD;
      if (!good)
        throw new Usage(
          `--retime must be like 0:100,48:25 (frame of the clip, per cent of its speed: ${SLOWEST} to ${FASTEST}), not "${w}"`,
        );
      return { frame: frame!, speed: speed!, to: 'smooth' as const, hold };
    });
  if (places.length === 0) places.push({ frame: 0, speed: 100, to: 'smooth', hold: 0 });
  if (places.some((p, i) => i > 0 && p.frame <= places[i - 1]!.frame))
    throw new Usage('--retime names its frames in order');
  return { places, backwards, between: how };
}
function rangeOf(
  text: string | undefined,
  count: number,
  name: 'frames' | 'in-out' = 'frames',
): [number, number] {
  if (text === undefined) return [0, count - 1];
  const m = /^(\d+)(?:-(\d+))?$/.exec(text);
  const first = Number(m?.[1]),
    last = Number(m?.[2] ?? m?.[1]);
  if (!m || last < first) throw new Usage(`--${name} must be like 0-23`);
  if (last >= count)
    throw new Usage(`--${name} ends at ${last}, but the footage has frames 0-${count - 1}`);
  return [first, last];
}
/** In and out of the clip; null for all of the footage. */
function inOutFrom(text: string | undefined, count: number): InOut | null {
  if (text === undefined) return null;
  const [first, out] = rangeOf(text, count, 'in-out');
  return { in: first, out };
}
/** Frames of the footage at which another shot begins. */
function cutsFrom(text: string | undefined, count: number): number[] {
  const cuts = text?.split(',').map(Number) ?? [];
  if (cuts.some((c) => !Number.isInteger(c) || c < 1 || c >= count))
    throw new Usage(`--cuts must be frames like 40,95, from 1 to ${count - 1}`);
  return cuts.sort((a, b) => a - b);
}
const FORMAT_OF: Record<string, FormatId> = { '.mp4': 'mp4', '.mkv': 'mkv', '.webm': 'webm' };

function whole(
  name: string,
  text: string | undefined,
  least: number,
  most: number,
): number | undefined {
  if (text === undefined) return undefined;
  const n = Number(text);
  if (!Number.isInteger(n) || n < least || n > most)
    throw new Usage(`--${name} must be a whole number from ${least} to ${most}`);
  return n;
}

/** Renders and returns a line about the result. Throws `Usage` and `NotFootage`. */
export async function render(w: Words): Promise<string> {
  const { look, dials } = await lookFrom(w);
  const from = needed(w, 'in'),
    out = resolve(needed(w, 'out'));
  const format = FORMAT_OF[extname(out).toLowerCase()] ?? 'png';
  const encoding = encodingNamed(w, 'encoding'),
    outEncoding = encodingNamed(w, 'out-encoding');
  const fit = (one(w, 'fit') ?? 'fit') as Fit;
  if (fit !== 'fit' && fit !== 'fill') throw new Usage('--fit must be fit or fill');
  const depth = one(w, 'depth') ?? '16';
  if (!['8', '16'].includes(depth))
    throw new Usage("--depth must be 8 or 16 (bits of a picture frame's samples)");
  const coverage = w.flags.has('coverage');
  if (coverage && !COVERED_FORMATS.includes(format))
    throw new Usage(`${format} cannot carry coverage: write .mkv, .webm or pictures`);
  const effort = EFFORTS.find((e) => e === (one(w, 'effort') ?? 'usual'));
  if (!effort) throw new Usage(`--effort must be one of ${EFFORTS.join(', ')} (of H.264)`);
  const threads = whole('threads', one(w, 'threads'), 1, 64);
  const rate = whole('rate', one(w, 'rate'), 1, 240);
  const place = await placeOf(from, rate ? { rate: [rate, 1] } : {});
  try {
    const footage = await probe(from, { place, ...(rate && { rate: [rate, 1] as const }) });
    const [width, height] = sizeOf(one(w, 'size'), footage);
    const retime = retimeFrom(one(w, 'retime'), one(w, 'between')),
      inOut = inOutFrom(one(w, 'in-out'), footage.frames);

    if (format !== 'mkv' && format !== 'png' && (width % 2 || height % 2))
      throw new Usage(
        `${format} needs an even width and height, not ${width}x${height}: give --size, or write .mkv or pictures`,
      );
    const clipEncoding = encoding ?? footage.guess;
    const { pins, others } = await pinsFrom(w, look);
    const range = rangeOf(
      one(w, 'frames'),
      lengthOf(underLook({ ...footage, inOut, retime, pins }, look, dials)),
    );
    const spec: RenderSpec = {
      look,
      dials,
      encoding: clipEncoding,
      outEncoding: outEncoding ?? clipEncoding,
      pixelAspect: footage.pixelAspect,
      fit,
      reframe: reframeOf(one(w, 'reframe')),
      inOut,
      cuts: cutsFrom(one(w, 'cuts'), footage.frames),
      retime,
      pins,
      rate: footage.rate,
      frames: footage.frames,
      balance: balanceFrom(w),
      width,
      height,
      samples: samplesFor(format, coverage, format === 'png' && depth === '8' ? 8 : 16),
      content: footage.hash,
    };
    await writeAll({
      place,
      footage,
      spec,
      others,
      format,
      effort,
      out,
      range,
      threads,
      quiet: w.flags.has('quiet'),
    });
    return `${range[1] - range[0] + 1} frames of ${width}x${height} written to ${out}`;
  } finally {
    await leave(place);
  }
}

interface Writing {
  readonly place: Place;
  readonly footage: Footage;
  readonly spec: RenderSpec;
  readonly others: Readonly<Record<string, Other>>;
  readonly format: FormatId;
  readonly effort: Effort;
  readonly out: string;
  readonly range: readonly [number, number];
  readonly threads: number | undefined;
  readonly quiet: boolean;
}

async function writeAll({
  place,
  footage,
  spec: asked,
  others,
  format,
  effort,
  out,
  range: [first, last],
  threads,
  quiet,
}: Writing): Promise<void> {
  const there = await stat(out).catch(() => undefined);
  if (format !== 'png' && there?.isDirectory())
    throw new Usage(`"${out}" is a folder: give a file's name`);
  if (format === 'png' && there && !there.isDirectory())
    throw new Usage(
      `"${out}" is a file: give a folder for pictures, or a name ending in .mkv, .mp4 or .webm`,
    );
  await mkdir(dirname(out), { recursive: true });
  // Written to a temporary name and moved when complete.
  const partial = join(
    dirname(out),
    `.${basename(out)}.${randomUUID().slice(0, 8)}${format === 'png' ? '' : extname(out)}`,
  );
  if (format === 'png') await mkdir(partial);
  const { engine, close } = startEngine(threads);
  const spec = {
    ...asked,
    whole:
      asked.look &&
      (await wholeFor(
        asked.look,
        engine,
        place,
        footage,
        asked.encoding,
        asked.inOut ?? undefined,
      )),
  };
  const sink = new Sink([
    ...rawInput(spec.samples, spec.width, spec.height, footage.rate),
    ...outputs(place, footage, spec, format, effort, partial, first, last),
  ]);
  const reader = new FootageReader(spec.look, place, footage, spec, others, spec.dials);
  let done = false;
  try {
    for (let frame = first; frame <= last; frame++) {
      await sink.write(renderFrame(engine, await reader.at(frame), frame, spec));
      if (!quiet && process.stderr.isTTY)
        process.stderr.write(`\rframe ${frame - first + 1} of ${last - first + 1}`);
    }
    if (!quiet && process.stderr.isTTY) process.stderr.write('\r\x1b[K');
    await sink.end();
    if (format === 'png') await intoFolder(partial, out);
    else await rename(partial, out);
    done = true;
  } finally {
    if (!done) {
      sink.kill();
      await rm(partial, { recursive: true, force: true });
    }
    await reader.close();
    await close();
  }
}

async function intoFolder(from: string, to: string): Promise<void> {
  await mkdir(to, { recursive: true });
  for (const name of await readdir(from)) await rename(join(from, name), join(to, name));
  await rm(from, { recursive: true });
}

function outputs(
  place: Place,
  footage: Footage,
  spec: RenderSpec,
  format: FormatId,
  effort: Effort,
  partial: string,
  first: number,
  last: number,
): string[] {
  if (format === 'png') return picturesOutput(join(partial, '%06d.png'), first, spec.samples);
  const video = videoOutput(format, spec.samples, spec.outEncoding, spec, effort);
  // Sound of retimed clips is not supported yet.
  if (!footage.sound || isRetimed(underLook(spec, spec.look, spec.dials)))
    return [...video, partial];
  const from = inOutOf(spec).in + first;
  const isWhole = from === 0 && last === footage.frames - 1;
  const cut = isWhole
    ? []
    : [
        '-ss',
        startOf(from, footage.rate).toFixed(6),
        '-t',
        startOf(last - first + 1, footage.rate).toFixed(6),
      ];
  return [
    ...cut,
    ...place.open,
    '-map',
    '0:v',
    '-map',
    '1:a:0',
    ...soundOutput(format, footage.sound.codec, isWhole),
    ...video,
    partial,
  ];
}
