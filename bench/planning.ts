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

/** Twelve places, each the middle of a gradient of its own. */
const PLACES = Array.from({ length: 12 }, (_, i) => `p${i + 1}`);
const placed = PLACES.reduce(
  (look, pin) => {
    const step = edit.newStep(stepOf('radial-gradient')!, []);
    const parameters = { centre: { pin }, radius: { value: 80 } };
    return edit.addLayer(
      edit.addPin(look, { key: pin, label: pin, kind: 'point', many: false }),
      edit.newLayer(pin, 'clip', [], [{ ...step, parameters }]),
    );
  },
  emptyLook('Places', 1),
);
/** Where they lie on a frame: they move, or all stay where they are on frame 0. */
const places = (frame: number) =>
  Object.fromEntries(
    PLACES.map((pin, i) => [
      pin,
      [[0.05 * (i + 1), 0.5 + 0.3 * (((frame + i) % 50) / 50)] as const],
    ]),
  );
const fixed = (frame: number): ClipFrame => ({ ...at(frame), places: places(0), at: fixed });
const followed = (frame: number): ClipFrame => ({
  ...at(frame),
  places: places(frame),
  followed: {
    pins: new Set(PLACES),
    fading: new Set(),
    after: (n) => ({ places: places(frame + n) }),
  },
  at: followed,
});

const { engine, close } = startEngine(1);
console.log('look            plan, ms   of rendering');
for (const [name, look, clip] of [
  ['soft-lens', shippedLook('soft-lens')!, at],
  ['ferrous', shippedLook('ferrous')!, at],
  ['third-dub', shippedLook('third-dub')!, at],
  ['trail of 60', trail(60), at],
  ['12 places', placed, fixed],
  ['12 followed', placed, followed],
] as const) {
  const planned = (frame: number): ImageNode => inDomain(plan(look, clip(frame)).result, 'encoded');
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

/** Milliseconds a frame, planned in turns so that what else the machine does falls on both. */
const each: Record<'fixed' | 'followed', number[]> = { fixed: [], followed: [] };
const TURNS = 60,
  A_TURN = 50;
for (let turn = 0; turn < TURNS; turn++)
  for (const [how, clip] of [
    ['fixed', fixed],
    ['followed', followed],
  ] as const) {
    const began = performance.now();
    for (let i = 0; i < A_TURN; i++) plan(placed, clip(10_000 + turn * A_TURN + i));
    each[how].push((performance.now() - began) / A_TURN);
  }
const median = (numbers: number[]): number => numbers.sort((a, b) => a - b)[numbers.length >> 1]!;
console.log(
  `twelve places followed, as times of fixed ones: ${(median(each.followed) / median(each.fixed)).toFixed(2)}`,
);
