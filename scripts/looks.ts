/**
 * `npm run looks`: of each shipped look (or of `--look name` alone) a contact sheet over the demo's
 * clips, and of three clips a strip of eight frames in a row, as pictures in the work folder
 * (`--out`, by default .data/looks). `--step '…'` is tried like a look.
 */
import { mkdirSync, readdirSync } from 'node:fs';
import { basename, join } from 'node:path';
import sharp from 'sharp';
import { Command } from 'commander';
import { flag, value as option, wordsOf } from '../cli/args';
import { LOOK_OPTIONS, lookFrom } from '../cli/look';
import { type DialValues, type LookDocument, SHIPPED, shippedLook } from '../core';
import { startEngine } from '../server/render';
import { shown, small } from './demo-looks';

const FAMILY = SHIPPED.map((s) => s.id);
const STRIPS = ['pier-walk', 'singer-close', 'skyline'];
/** The contact sheet shows a frame a little after the first cue. */
const SHEET_AFTER = 6;
const FIRST = 30,
  COUNT = 8;

const command = new Command('looks').description(
  'contact sheets and strips of looks over the demo’s clips',
);

for (const o of [
  ...LOOK_OPTIONS,
  option('out', 'folder', 'where the pictures go'),
  option('size', 'WxH', 'of the frames; 960x540 without'),
  option('strip', 'clip', 'the clip of the strip'),
  option('plate', 'name=file', 'a plate as the footage of a pin'),
  option('at', 'frame', 'the first frame of a strip'),
  option('name', 'name', 'of the pictures'),
  flag('single', 'each picture by itself'),
])
  command.addOption(o);
const words = wordsOf(command.parse());
const value = (name: string): string | undefined => words.flags.get(name)?.at(-1);
const out = value('out') ?? '.data/looks';
const [width, height] = (value('size') ?? '960x540').split('x').map(Number) as [number, number];
const tile = 400;
mkdirSync(out, { recursive: true });

const asked: { id: string; look: LookDocument; dials: DialValues }[] = [];
if (words.flags.has('step') || words.flags.has('look')) {
  const { look, dials } = await lookFrom(words);
  asked.push({
    id: value('name') ?? (value('look') ? basename(value('look')!, '.json') : 'steps'),
    look,
    dials,
  });
} else
  for (const id of FAMILY) {
    const look = shippedLook(id);
    if (look) asked.push({ id, look, dials: {} });
  }
if (asked.length === 0)
  throw new Error(`none of these looks ships: there are ${SHIPPED.map((s) => s.id).join(', ')}`);

const { engine, close } = startEngine();
const showing = { engine, width, height };
const clips = readdirSync('demo/footage').filter((f) => f.endsWith('.mp4'));

async function sheet(
  parts: readonly Buffer[],
  across: number,
  to: number,
  path: string,
): Promise<void> {
  const high = Math.round((to * height) / width);
  await sharp({
    create: {
      width: across * (to + 4),
      height: Math.ceil(parts.length / across) * (high + 4),
      channels: 3,
      background: '#202020',
    },
  })
    .composite(
      parts.map((input, i) => ({
        input,
        left: (i % across) * (to + 4),
        top: Math.floor(i / across) * (high + 4),
      })),
    )
    .png()
    .toFile(path);
  console.log(path);
}

const at = Number(value('at') ?? FIRST);
for (const { id, look, dials } of asked) {
  const parts: Buffer[] = [];
  for (const clip of clips) {
    for await (const rgb of shown(
      showing,
      join('demo/footage', clip),
      look,
      dials,
      at + SHEET_AFTER,
      1,
      at,
    )) {
      parts.push(await small(rgb, tile, showing));
      if (words.flags.has('single'))
        await sharp(rgb, { raw: { width, height, channels: 3 } }).toFile(
          join(out, `${id}-${basename(clip, '.mp4')}.png`),
        );
    }
  }
  await sheet(parts, 4, tile, join(out, `${id}.png`));
  for (const clip of value('strip') === 'none' ? [] : (value('strip')?.split(',') ?? STRIPS)) {
    const row: Buffer[] = [];
    for await (const rgb of shown(
      showing,
      join('demo/footage', `${clip}.mp4`),
      look,
      dials,
      at,
      COUNT,
    ))
      row.push(await small(rgb, tile, showing));
    await sheet(row, 4, tile, join(out, `${id}-strip-${clip}.png`));
  }
}
await close();
