/** `render`: renders a look over one piece of footage to a video file or a folder of pictures. */
import { randomUUID } from 'node:crypto';
import { mkdir, readdir, rename, rm, stat } from 'node:fs/promises';
import { basename, dirname, extname, join, resolve } from 'node:path';
import {
  cannotHold,
  cannotMeasure,
  DELIVERY_FORMATS,
  type DeliveryFormat,
  deliveryFormat,
  type Effort,
  EFFORTS,
  type Fit,
  lengthOf,
  soundMapOf,
  MOST_CHANCE,
  samplesFor,
  soundLeftOut,
  underLook,
  inOutOf,
  type Track,
} from '../core';
import { startOf } from '../core/time';
import { FootageReader, type Other } from '../server/media/footage-reader';
import { type Footage, tracksOf } from '../server/media/footage';
import { leave, type Place, placeOf } from '../server/media/place';
import { probe } from '../server/media/probe';
import { cutsOf } from '../server/media/cuts';
import { COMPUTED, writeRetimedSound } from '../server/media/retimed-sound';
import { input, numberedIn, output, Sink } from '../server/media/run';
import {
  picturesOutput,
  rawInput,
  renderFrame,
  type RenderSpec,
  soundOutput,
  startEngine,
  videoOutput,
} from '../server/render';
import { needed, one, Usage, type Words } from './args';
import { lookFrom } from './look';
import { refuseReplacing } from './outputs';
import { pinsFrom, wholeFor } from './pins';
import {
  balanceFrom,
  cutsFrom,
  encodingNamed,
  inOutFrom,
  rangeOf,
  rateFrom,
  reframeOf,
  retimeFrom,
  sequenceFrom,
  sizeOf,
  whole,
} from './render-options';

/** The format of an output: of a file by its ending, otherwise pictures in a folder. */
const formatOf = (out: string) =>
  DELIVERY_FORMATS.find(
    (f) => f.makes === 'video' && `.${f.ending}` === extname(out).toLowerCase(),
  ) ?? deliveryFormat('png');

/**
 * Renders and returns a line about the result. `say`: remarks about what is doubtful or left out.
 * Throws `Usage` and `NotFootage`.
 */
export async function render(w: Words, say: (text: string) => void): Promise<string> {
  const { look, dials } = await lookFrom(w);
  const from = needed(w, 'in'),
    out = resolve(needed(w, 'out'));
  const format = formatOf(out),
    asPictures = format.makes === 'pictures';
  const encoding = encodingNamed(w, 'encoding'),
    outEncoding = encodingNamed(w, 'out-encoding');
  const fit = (one(w, 'fit') ?? 'fit') as Fit;
  if (fit !== 'fit' && fit !== 'fill') throw new Usage('--fit must be fit or fill');
  const depth = one(w, 'depth') ?? '16';
  if (!['8', '16'].includes(depth))
    throw new Usage("--depth must be 8 or 16 (bits of a picture frame's samples)");
  const coverage = w.flags.has('coverage');
  const effort = EFFORTS.find((e) => e === (one(w, 'effort') ?? 'usual'));
  if (!effort) throw new Usage(`--effort must be one of ${EFFORTS.join(', ')} (of H.264)`);
  const threads = whole('threads', one(w, 'threads'), 1, 64);
  const rate = rateFrom(one(w, 'rate'));
  await refuseReplacing(out, [from], asPictures);
  const place = await placeOf(from, { rate, sequence: sequenceFrom(w) });
  try {
    const footage = await probe(from, { place, ...(rate && { rate }) });
    for (const warning of footage.warnings ?? []) say(`look at this file: ${warning}\n`);
    const [width, height] = sizeOf(one(w, 'size'), footage, format.even);
    const retime = retimeFrom(one(w, 'retime'), one(w, 'between')),
      inOut = inOutFrom(one(w, 'in-out'), footage.frames);

    const odd = cannotMeasure(format.id, { width, height });
    if (odd !== undefined) throw new Usage(`${odd}: give --size, or write .mkv or pictures`);
    const clipEncoding = encoding ?? footage.guess;
    const refused = cannotHold(format.id, outEncoding ?? clipEncoding, coverage);
    if (refused) throw new Usage(refused);
    const { pins, others, tracks, files } = await pinsFrom(w, look);
    await refuseReplacing(out, files, asPictures);
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
      cuts: cutsFrom(one(w, 'cuts'), footage.frames) ?? (await cutsOf(place, footage)),
      retime,
      pins,
      rate: footage.rate,
      frames: footage.frames,
      balance: balanceFrom(w),
      chance: { number: whole('chance', one(w, 'chance'), 0, MOST_CHANCE) ?? 0, from: 0 },
      width,
      height,
      samples: samplesFor(
        format.id,
        outEncoding ?? clipEncoding,
        coverage,
        asPictures && depth === '8' ? 8 : 16,
      ),
      content: footage.hash,
    };
    const silent = asPictures ? undefined : soundLeftOut(tracksOf(footage));
    if (silent) say(`${silent}\n`);
    await writeAll({
      place,
      footage,
      spec,
      others,
      tracks,
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
  readonly tracks: Readonly<Record<string, Track>>;
  readonly format: DeliveryFormat;
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
  tracks,
  format,
  effort,
  out,
  range: [first, last],
  threads,
  quiet,
}: Writing): Promise<void> {
  const asPictures = format.makes === 'pictures';
  const there = await stat(out).catch(() => undefined);
  if (!asPictures && there?.isDirectory())
    throw new Usage(`"${out}" is a folder: give a file's name`);
  if (asPictures && there && !there.isDirectory())
    throw new Usage(
      `"${out}" is a file: give a folder for pictures, or a name ending in .mkv, .mp4 or .webm`,
    );
  await mkdir(dirname(out), { recursive: true });
  // Written to a temporary name and moved when complete.
  const partial = join(
    dirname(out),
    `.${basename(out)}.${randomUUID().slice(0, 8)}${asPictures ? '' : extname(out)}`,
  );
  if (asPictures) await mkdir(partial);
  const map =
    footage.sound && !asPictures
      ? soundMapOf(underLook(asked, asked.look, asked.dials))
      : undefined;
  const retimed = map && `${partial}.wav`;
  if (map && retimed)
    await writeRetimedSound(place, footage, { map, first, frames: last - first + 1 }, retimed);
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
    ...outputs(place, footage, spec, format, effort, partial, first, last, retimed),
  ]);
  const reader = new FootageReader(
    spec.look,
    place,
    footage,
    { ...spec, tracks },
    others,
    spec.dials,
  );
  let done = false;
  try {
    for (let frame = first; frame <= last; frame++) {
      await sink.write(renderFrame(engine, await reader.at(frame), frame, spec));
      if (!quiet && process.stderr.isTTY)
        process.stderr.write(`\rframe ${frame - first + 1} of ${last - first + 1}`);
    }
    if (!quiet && process.stderr.isTTY) process.stderr.write('\r\x1b[K');
    await sink.end();
    if (asPictures) await intoFolder(partial, out);
    else await rename(partial, out);
    done = true;
  } finally {
    if (!done) {
      sink.kill();
      await rm(partial, { recursive: true, force: true });
    }
    if (retimed) await rm(retimed, { force: true });
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
  format: DeliveryFormat,
  effort: Effort,
  partial: string,
  first: number,
  last: number,
  retimed: string | undefined,
): string[] {
  if (format.makes === 'pictures')
    return picturesOutput(format, numberedIn(partial, `%06d.${format.id}`), first, spec.samples);
  const video = videoOutput(format, {
    samples: spec.samples,
    encoding: spec.outEncoding,
    size: spec,
    effort,
  });
  if (!footage.sound) return [...video, output(partial)];
  if (retimed !== undefined)
    return [
      ...input(retimed),
      ...['-map', '0:v', '-map', '1:a:0'],
      ...soundOutput(format, COMPUTED, false),
      ...video,
      output(partial),
    ];
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
    output(partial),
  ];
}
