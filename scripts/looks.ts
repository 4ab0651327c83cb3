/**
 * `npm run looks -- [name or file.json …]`: of each look a contact sheet over the demo's clips, and of three clips a strip of
 * eight frames in a row, as pictures in the work folder (`--out`, by default .data/looks). `--step '…'` is tried like a look.
 */
import { existsSync, mkdirSync, readdirSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { basename, join } from 'node:path';
import sharp from 'sharp';
import { lookFrom } from '../cli/look';
import { readWords } from '../cli/args';
import { type ClipPins, needsStatistics, type DialValues, type LookDocument, type PinValue, SHIPPED, shippedLook } from '../core';
import { type Footage } from '../server/media/footage';
import { FootageReader, type Other } from '../server/media/footage-reader';
import { measure } from '../server/media/measure';
import { pairsIn } from '../server/media/motion';
import { leave, placeOf, probe } from '../server/media/probe';
import { renderFrame, startEngine } from '../server/render';

const FAMILY = SHIPPED.map((s) => s.id);
const STRIPS = ['pier-walk', 'singer-close', 'skyline'];
/** The contact sheet shows a frame a little after the first cue. */
const SHEET_AFTER = 6;
const FIRST = 30,
  COUNT = 8;

const words = readWords(process.argv.slice(2), {
  values: ['out', 'look', 'step', 'dial', 'size', 'strip', 'plate', 'seed', 'at', 'name'],
  switches: ['single'],
});
const value = (name: string): string | undefined => words.flags.get(name)?.at(-1);
const out = value('out') ?? '.data/looks';
const [width, height] = (value('size') ?? '960x540').split('x').map(Number) as [number, number];
const tile = 400;
mkdirSync(out, { recursive: true });

const asked: { id: string; look: LookDocument; dials: DialValues }[] = [];
if (words.flags.has('step') || words.flags.has('look')) {
  const { look, dials } = await lookFrom(words);
  asked.push({ id: value('name') ?? (value('look') ? basename(value('look')!, '.json') : 'steps'), look, dials });
} else
  for (const id of FAMILY) {
    const look = shippedLook(id);
    if (look) asked.push({ id, look, dials: {} });
  }
if (asked.length === 0) throw new Error(`none of these looks ships: there are ${SHIPPED.map((s) => s.id).join(', ')}`);

const { engine, close } = startEngine();
const clips = readdirSync('demo/footage').filter((f) => f.endsWith('.mp4'));

/** The truth of a clip's subject, where the demo has one. */
const truthOf = (file: string): string => file.replace('demo/footage/', 'demo/truth/').replace(/\.mp4$/, '.matte.mp4');

/** What a look asks for: cues at the third of the pictures shown (a second one a second later), points in the middle, true mattes. */
async function pinsOf(look: LookDocument, file: string, first: number): Promise<{ pins: ClipPins; others: Record<string, Other> }> {
  const pins: Record<string, PinValue[]> = {},
    others: Record<string, Other> = {};
  let cues = 0;
  for (const { key, kind, many } of look.pins ?? []) {
    if (kind === 'cue') pins[key] = many ? [0, 3, 6].map((f) => ({ frame: first + f })) : [{ frame: first + 2 + 25 * cues++ }];
    if (kind === 'point')
      pins[key] = many
        ? [
            { x: 0.45, y: 0.4 },
            { x: 0.56, y: 0.4 },
          ]
        : [{ x: 0.5, y: 0.45 }];
    const plate = key === 'paper' ? 'demo/plates/torn-paper.png' : truthOf(file);
    if ((kind !== 'matte' && kind !== 'footage') || !existsSync(plate)) continue;
    const place = await placeOf(plate, {});
    const facts = await probe(plate, { place });
    pins[key] = [{ hash: facts.hash, start: 0, speed: 1, beyond: 'hold' }];
    others[key] = { place, facts, leave: () => leave(place), clip: { encoding: facts.guess, fit: 'fill', balance: null } };
  }
  return { pins, others };
}

/** A frame as 8-bit RGB. */
async function* shown(file: string, look: LookDocument, dials: DialValues, first: number, count: number, pinned = first): AsyncGenerator<Buffer> {
  const place = await placeOf(file, {});
  try {
    const footage: Footage = await probe(file, { place });
    const { pins, others } = await pinsOf(look, file, pinned);
    const spec = {
      look,
      dials,
      encoding: footage.guess,
      outEncoding: 'srgb' as const,
      pixelAspect: footage.pixelAspect,
      fit: 'fit' as const,
      reframe: null,
      pins,
      rate: footage.rate,
      frames: footage.frames,
      balance: null,
      width,
      height,
      samples: 'gbrp' as const,
      content: footage.hash,
      whole: needsStatistics(look) ? await measure(engine, place, footage, footage.guess) : null,
    };
    const reader = new FootageReader(look, place, footage, spec, others, dials, pairsIn(join(tmpdir(), 'wabisabi-motion', footage.hash)));
    for (let frame = first; frame <= Math.min(footage.frames - 1, first + count - 1); frame++) {
      const planes = renderFrame(engine, await reader.at(frame), frame, spec);
      const n = width * height,
        rgb = Buffer.alloc(n * 3);
      for (let i = 0; i < n; i++) {
        rgb[i * 3] = planes[2 * n + i]!;
        rgb[i * 3 + 1] = planes[i]!;
        rgb[i * 3 + 2] = planes[n + i]!;
      }
      yield rgb;
    }
    await reader.close();
  } finally {
    await leave(place);
  }
}
const small = (rgb: Buffer, to: number): Promise<Buffer> =>
  sharp(rgb, { raw: { width, height, channels: 3 } })
    .resize({ width: to })
    .png()
    .toBuffer();

async function sheet(parts: readonly Buffer[], across: number, to: number, path: string): Promise<void> {
  const high = Math.round((to * height) / width);
  await sharp({ create: { width: across * (to + 4), height: Math.ceil(parts.length / across) * (high + 4), channels: 3, background: '#202020' } })
    .composite(parts.map((input, i) => ({ input, left: (i % across) * (to + 4), top: Math.floor(i / across) * (high + 4) })))
    .png()
    .toFile(path);
  console.log(path);
}

const at = Number(value('at') ?? FIRST);
for (const { id, look, dials } of asked) {
  const parts: Buffer[] = [];
  for (const clip of clips) {
    for await (const rgb of shown(join('demo/footage', clip), look, dials, at + SHEET_AFTER, 1, at)) {
      parts.push(await small(rgb, tile));
      if (words.flags.has('single'))
        await sharp(rgb, { raw: { width, height, channels: 3 } }).toFile(join(out, `${id}-${basename(clip, '.mp4')}.png`));
    }
  }
  await sheet(parts, 4, tile, join(out, `${id}.png`));
  for (const clip of value('strip') === 'none' ? [] : (value('strip')?.split(',') ?? STRIPS)) {
    const row: Buffer[] = [];
    for await (const rgb of shown(join('demo/footage', `${clip}.mp4`), look, dials, at, COUNT)) row.push(await small(rgb, tile));
    await sheet(row, 4, tile, join(out, `${id}-strip-${clip}.png`));
  }
}
await close();
