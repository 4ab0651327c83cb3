/**
 * `npm run step-pictures [-- id …]`: a picture of each step for docs/steps.md, alone on one of the
 * demo's clips at the values that it is added with (neutral ones at such as show what it does), as
 * on the Bench.
 */
import { mkdirSync } from 'node:fs';
import sharp from 'sharp';
import { edit, emptyLook, STEPS } from '../core';
import { startEngine } from '../server/render';
import { shown } from './demo-looks';

const TO = 'docs/steps';
const SIZE = { width: 960, height: 540 },
  WIDTH = 320;
const FRAME = 38;
/** What moves needs something that does; what lights needs lamps. */
const CLIPS: Readonly<Record<string, string>> = {
  trail: 'deck-dancer',
  'motion-blur': 'coast-van',
  contour: 'deck-dancer',
  flare: 'deck-dancer',
  'star-rays': 'skyline',
  bloom: 'skyline',
  glow: 'skyline',
  halation: 'skyline',
};

const wanted = process.argv.slice(2);
const unknown = wanted.find((id) => !STEPS.some((s) => s.id === id));
if (unknown !== undefined)
  throw new Error(`no step is called ${unknown}: there are ${STEPS.map((s) => s.id).join(', ')}`);
mkdirSync(TO, { recursive: true });
const { engine, close } = startEngine();
for (const step of STEPS) {
  if (wanted.length > 0 && !wanted.includes(step.id)) continue;
  const look = edit.addLayer(
    emptyLook(step.id, 7),
    edit.newLayer('step', 'below', [], edit.shownSteps(step)),
  );
  const clip = `demo/footage/${CLIPS[step.id] ?? 'singer-close'}.mp4`;
  for await (const rgb of shown({ engine, ...SIZE }, clip, look, {}, FRAME, 1)) {
    const picture = sharp(rgb, { raw: { ...SIZE, channels: 3 } }).resize({ width: WIDTH });
    await picture.jpeg({ quality: 78, mozjpeg: true }).toFile(`${TO}/${step.id}.jpg`);
  }
}
close();
process.exit(0);
