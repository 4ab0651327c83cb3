/**
 * `npm run pixels [-- look …]`: hashes of every shipped look's pixels on every demo clip, at the
 * first, middle and last frame and at two sizes, on one thread and on all. Compares them with those
 * kept in `bench/pixels.json` and fails where one differs; `--write` keeps the new ones. Run it
 * before and after a change that must not move a pixel.
 */
import { createHash } from 'node:crypto';
import { existsSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { basename, join } from 'node:path';
import {
  type ClipPins,
  lengthOf,
  type LookDocument,
  needsStatistics,
  type PinValue,
  SHIPPED,
  SHIPPED_PIECES,
  underLook,
  type WholeClip,
} from '../core';
import { FootageReader, type Other } from '../server/media/footage-reader';
import type { Footage } from '../server/media/footage';
import { measure } from '../server/media/measure';
import { partsIn } from '../server/media/parts';
import { leave, type Place, placeOf } from '../server/media/place';
import { probe } from '../server/media/probe';
import { renderFrame, type RenderSpec, startEngine, type Threads } from '../server/render';

const KEPT = 'bench/pixels.json';
const FOLDER = 'demo/footage';
const SIZES = [
  [480, 270],
  [214, 120],
] as const;

/** By look and clip: a hash for each frame and size. */
type Hashes = Record<string, Record<string, readonly string[]>>;

interface Opened {
  readonly name: string;
  readonly place: Place;
  readonly facts: Footage;
  readonly whole: WholeClip;
}

const names = readdirSync(FOLDER)
  .filter((f) => f.endsWith('.mp4'))
  .map((f) => basename(f, '.mp4'));
const words = process.argv.slice(2);
const only = words.filter((w) => !w.startsWith('--'));
const looks: { id: string; look: LookDocument }[] = [
  ...SHIPPED.map(({ id, look }) => ({ id, look })),
  ...SHIPPED_PIECES.map((look) => ({ id: `piece ${look.name.toLowerCase()}`, look })),
].filter(({ id }) => only.length === 0 || only.includes(id));

const threads: Threads[] = [startEngine(1), startEngine(2)];
const opened = new Map<string, Opened>();
for (const name of names) {
  const file = join(FOLDER, `${name}.mp4`);
  const place = await placeOf(file, {});
  const facts = await probe(file, { place });
  opened.set(name, {
    name,
    place,
    facts,
    whole: await measure(threads[0]!.engine, place, facts, facts.guess),
  });
}

/** A value for every pin that a look asks for, the same whatever the clip. */
function pinsOf(
  look: LookDocument,
  clip: Footage,
): { pins: ClipPins; others: Record<string, Other> } {
  const beside = opened.get('skyline')!,
    pins: Record<string, PinValue[]> = {},
    others: Record<string, Other> = {};
  for (const { key, kind } of look.pins ?? []) {
    if (kind === 'cue') pins[key] = [{ frame: Math.floor(clip.frames / 3) }];
    if (kind === 'point' || kind === 'oval') pins[key] = [{ x: 0.4, y: 0.35 }];
    if (kind === 'line') pins[key] = [{ x: 0.2, y: 0.3, x2: 0.8, y2: 0.6 }];
    if (kind !== 'footage' && kind !== 'matte') continue;
    pins[key] = [{ hash: beside.facts.hash, start: 10, speed: 1 }];
    others[key] = {
      place: beside.place,
      facts: beside.facts,
      clip: { encoding: beside.facts.guess, fit: 'fill', balance: null },
    };
  }
  return { pins, others };
}

async function hashesOf(
  look: LookDocument,
  { name, place, facts, whole }: Opened,
): Promise<string[]> {
  const { pins, others } = pinsOf(look, facts);
  const reader = new FootageReader(
    look,
    place,
    facts,
    { ...facts, content: facts.hash, pins },
    others,
    {},
    partsIn(join(tmpdir(), 'wabisabi-motion', facts.hash), 'motion'),
  );
  const found: string[] = [];
  // A look may make a clip shorter.
  const length = Math.min(facts.frames, lengthOf(underLook({ ...facts, pins }, look)));
  for (const frame of [0, Math.floor(length / 2), length - 1])
    for (const [width, height] of SIZES) {
      const spec: RenderSpec = {
        look,
        encoding: facts.guess,
        outEncoding: 'srgb',
        pixelAspect: facts.pixelAspect,
        fit: 'fit',
        reframe: null,
        pins,
        rate: facts.rate,
        frames: facts.frames,
        balance: null,
        width,
        height,
        samples: 'gbrp16le',
        content: facts.hash,
        whole: needsStatistics(look) ? whole : null,
      };
      const sources = await reader.at(frame);
      const [one, all] = threads.map(({ engine }) =>
        createHash('sha256')
          .update(renderFrame(engine, sources, frame, spec))
          .digest('hex')
          .slice(0, 12),
      );
      if (one !== all)
        throw new Error(
          `${look.name} on ${name}, frame ${frame}, ${width}x${height}: two threads give other pixels than one`,
        );
      found.push(one!);
    }
  await reader.close();
  return found;
}

const kept: Hashes = existsSync(KEPT) ? (JSON.parse(readFileSync(KEPT, 'utf8')) as Hashes) : {};
const now: Record<string, Record<string, readonly string[]>> = {};
let differing = 0,
  compared = 0;
for (const { id, look } of looks) {
  now[id] = {};
  for (const clip of opened.values()) {
    const own = await hashesOf(look, clip),
      before = kept[id]?.[clip.name];
    now[id][clip.name] = own;
    own.forEach((h, i) => {
      if (before?.[i] !== undefined) compared++;
      if (before?.[i] === undefined || before[i] === h) return;
      differing++;
      const size = SIZES[i % 2]!.join('x');
      console.log(
        `${id} on ${clip.name}, ${['first', 'middle', 'last'][i >> 1]} frame, ${size}: differs`,
      );
    });
  }
}
for (const { place } of opened.values()) await leave(place);
for (const t of threads) await t.close();
console.log(`${compared} pictures compared, ${differing} differ`);
if (words.includes('--write')) {
  // One line a clip.
  const text = Object.entries({ ...kept, ...now })
    .map(
      ([id, clips]) =>
        `  ${JSON.stringify(id)}: {\n${Object.entries(clips)
          .map(([c, h]) => `    ${JSON.stringify(c)}: ${JSON.stringify(h)}`)
          .join(',\n')}\n  }`,
    )
    .join(',\n');
  writeFileSync(KEPT, `{\n${text}\n}\n`);
} else if (differing > 0) process.exitCode = 1;
