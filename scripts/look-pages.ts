/**
 * `npm run look-pages [-- id …]`: a page in docs/looks for each look that ships: before and after,
 * what its dials do from end to end, the pins it asks for, its steps, and what a frame of it costs.
 * Made from the looks and the demo's clips.
 */
import { mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import sharp from 'sharp';
import { allLayers, type DialValues, type LookDocument, SHIPPED, stepOf } from '../core';
import { startEngine } from '../server/render';
import { shown, small } from './demo-looks';

const TO = 'docs/looks';
const SIZE = { width: 640, height: 360 },
  LARGE = { width: 960, height: 540 };
const TILE = 320,
  GAP = 6;
/** A frame a little after the first cue. */
const CUE = 30,
  FRAME = 38;
/** Frames of looks under which clips are shorter, or which have passed by then. */
const FRAMES: Readonly<Record<string, number>> = { 'spool-back': 5 };
const frameOf = (id: string): number => FRAMES[id] ?? FRAME;
/** So many frames are timed. */
const TIMED = 6;

/** The clip that shows what a look is for: with a figure where it asks for a matte. */
const CLIPS: Readonly<Record<string, string>> = {
  'two-shores': 'white-room',
  'last-blue': 'singer-close',
  'late-gold': 'pier-walk',
  'contour-lamp': 'kelp',
  brine: 'singer-close',
  'stone-skin': 'singer-close',
  'attic-reel': 'coast-van',
  'third-dub': 'floor-tom',
  'folded-harbour': 'skyline',
  'torn-paper-run': 'gulls',
  'soft-lens': 'rain-window',
  ferrous: 'radio-dial',
  silt: 'coast-van',
  'spool-back': 'kelp',
};
const clipOf = (id: string): string => CLIPS[id] ?? 'deck-dancer';

const wanted = process.argv.slice(2);
mkdirSync(TO, { recursive: true });
const { engine, close } = startEngine();

async function one(
  look: LookDocument | null,
  clip: string,
  dials: DialValues,
  frame: number,
): Promise<Buffer> {
  for await (const rgb of shown(
    { engine, ...SIZE },
    `demo/footage/${clip}.mp4`,
    look,
    dials,
    frame,
    1,
    CUE,
  ))
    return small(rgb, TILE, SIZE);
  throw new Error(`${clip} has no frame ${frame}`);
}

/** Milliseconds a frame of 960×540, in the middle of several in a row; reading included. */
async function cost(look: LookDocument, clip: string, frame: number): Promise<number> {
  const times: number[] = [];
  let last = performance.now();
  for await (const _ of shown(
    { engine, ...LARGE },
    `demo/footage/${clip}.mp4`,
    look,
    {},
    frame,
    TIMED,
    CUE,
  )) {
    times.push(performance.now() - last);
    last = performance.now();
  }
  return times.slice(1).sort((a, b) => a - b)[Math.floor((times.length - 1) / 2)]!;
}

async function grid(rows: readonly (readonly Buffer[])[], path: string): Promise<void> {
  const high = (TILE * SIZE.height) / SIZE.width;
  await sharp({
    create: {
      width: 2 * TILE + GAP,
      height: rows.length * (high + GAP) - GAP,
      channels: 3,
      background: '#202020',
    },
  })
    .composite(
      rows.flatMap((row, y) =>
        row.map((input, x) => ({ input, left: x * (TILE + GAP), top: y * (high + GAP) })),
      ),
    )
    .webp({ quality: 82 })
    .toFile(path);
}

for (const { id, help, look } of SHIPPED) {
  if (wanted.length > 0 && !wanted.includes(id)) continue;
  const clip = clipOf(id),
    frame = frameOf(id);
  const dials = look.dials.filter((d) => d.kind === 'number' && d.key !== 'strength');
  const rows: Buffer[][] = [[await one(null, clip, {}, frame), await one(look, clip, {}, frame)]];
  for (const d of dials)
    rows.push([
      await one(look, clip, { [d.key]: d.min! }, frame),
      await one(look, clip, { [d.key]: d.max! }, frame),
    ]);
  await grid(rows, join(TO, `${id}.webp`));
  const milliseconds = await cost(look, clip, frame);
  const steps = [...new Set(allLayers(look).flatMap((l) => l.steps.map((s) => s.step)))].map((s) =>
    stepOf(s)!,
  );
  const pins = (look.pins ?? []).map((p) => `${p.label} (${p.kind}${p.many ? ', several' : ''})`);
  const page = [
    `# ${look.name}`,
    '',
    help,
    '',
    `![${look.name}: before and after, then each dial at its two ends](${id}.webp)`,
    '',
    `On *${clip}*: before and after in the first row, then a row for each dial, at its two ends: ${dials.map((d) => `*${d.label.toLowerCase()}* ${d.min}${d.unit ? ` ${d.unit}` : ''} and ${d.max}${d.unit ? ` ${d.unit}` : ''}`).join(', ') || 'none'}.`,
    '',
    `- Pins: ${pins.join(', ') || 'none'}`,
    `- Steps: ${steps.map((s) => `[${s.label}](../steps.md#${s.label.toLowerCase().replace(/[^a-z0-9]+/g, '-')}-${s.id})`).join(', ') || 'none'}`,
    `- A frame of 960×540: about ${milliseconds < 100 ? Math.round(milliseconds) : Math.round(milliseconds / 10) * 10} ms on two cores, reading included`,
    '',
  ];
  writeFileSync(join(TO, `${id}.md`), page.join('\n'));
  console.log(id, `${Math.round(milliseconds)} ms`);
}
await close();
const written = new Set(readdirSync(TO));
const index = SHIPPED.filter(({ id }) => written.has(`${id}.md`)).map(({ id, help, look }) => {
  const at = /about (\d+) ms/.exec(readFileSync(join(TO, `${id}.md`), 'utf8'))?.[1];
  return `| [${look.name}](${id}.md) | ${help} | ${at} ms |`;
});
writeFileSync(
  join(TO, 'README.md'),
  [
    '# The looks that ship',
    '',
    'Made by `npm run look-pages`.',
    '',
    '| look | what it does | a frame of 960×540 |',
    '| --- | --- | --- |',
    ...index,
    '',
  ].join('\n'),
);
