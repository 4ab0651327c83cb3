/**
 * `npm run bench -- planning`: milliseconds to plan one frame of a look after another, as a long
 * render does, and the share of the frame's rendering time on one thread at 960×540.
 */
import {
  type ClipFrame,
  edit,
  emptyLook,
  type LookDocument,
  plan,
  shippedLook,
  stepOf,
} from '../core';
import { type ImageNode } from '../core/graph';
import { inDomain, leaf } from '../core/image';
import { startEngine } from '../server/render/threads';

const W = 960,
  H = 540,
  WARM = 1500,
  PLANNED = 1500,
  RENDERED = 12;
const planes = [0, 1, 2].map((p) => {
  const plane = new Float32Array(W * H);
  for (let i = 0; i < plane.length; i++) plane[i] = ((i * 7 + p) % 97) / 97;
  return plane;
});
const at = (frame: number): ClipFrame => ({
  bedrock: leaf(planes, W, H, 'light', `planning ${frame}`),
  content: 'bench',
  frame,
  time: { frames: 100_000, rate: [25, 1], cues: {} },
  at,
});
const trail = (count: number): LookDocument => {
  const step = edit.newStep(stepOf('trail')!, []);
  const parameters = { count: { value: count }, fade: { value: 90 } };
  return edit.addLayer(
    emptyLook('Trail', 1),
    edit.newLayer('Trail', 'clip', [], [{ ...step, parameters }]),
  );
};

const { engine, close } = startEngine(1);
console.log('look            plan, ms   of rendering');
for (const [name, look] of [
  ['soft-lens', shippedLook('soft-lens')!],
  ['ferrous', shippedLook('ferrous')!],
  ['third-dub', shippedLook('third-dub')!],
  ['trail of 60', trail(60)],
] as const) {
  const planned = (frame: number): ImageNode => inDomain(plan(look, at(frame)).result, 'encoded');
  let frame = 100;
  for (const end = frame + WARM; frame < end; frame++) planned(frame);
  let began = performance.now();
  for (const end = frame + PLANNED; frame < end; frame++) planned(frame);
  const each = (performance.now() - began) / PLANNED;
  const compute = (): unknown => engine.compute(planned(frame), { frame: frame++ });
  for (let i = 0; i < RENDERED; i++) compute();
  began = performance.now();
  for (let i = 0; i < RENDERED; i++) compute();
  const whole = (performance.now() - began) / RENDERED;
  console.log(
    `${name.padEnd(14)} ${each.toFixed(2).padStart(8)} ${((100 * each) / whole).toFixed(1).padStart(12)} %`,
  );
}
await close();
