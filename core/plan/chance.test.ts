/** Chance on clips: other stretches of one take are unlike, parts of a whole keep what it had. */
import { afterAll, describe, expect, it } from 'vitest';
import { type ClipFacts, lengthOf, reachedAt } from '../clip';
import { Engine } from '../engine';
import { inDomain, type RawFrame } from '../image';
import { edit, emptyLook, type LookDocument } from '../look';
import { stepOf } from '../steps';
import { grayFrame } from '../testing';
import type { Retime } from '../time';
import { clipFrame, plan, requirements, type SourceFrame } from '.';

const size = { width: 64, height: 36 },
  FRAMES = 60;
const rawOf = (f: number): RawFrame =>
  grayFrame(`footage:${f}`, size, new Uint8Array(size.width * size.height).fill(40 + 2 * f));
const clip: ClipFacts = {
  encoding: 'srgb',
  fit: 'fit',
  lines: size.height,
  balance: null,
  pixelAspect: 1,
  content: 'footage',
  rate: [25, 1],
  frames: FRAMES,
  pins: {},
};
const step = (id: string, values: object) => {
  const made = edit.newStep(stepOf(id)!, []);
  const set = Object.entries(values).map(([k, value]) => [k, { value }]);
  return { ...made, key: id, parameters: { ...made.parameters, ...Object.fromEntries(set) } };
};
/** Dust, grain, a weaving gate, flicker and noise of a tape. */
const worn: LookDocument = edit.addLayer(
  emptyLook('Worn', 5),
  edit.newLayer('Film', 'clip', [], [
    step('grain', { amount: 300 }),
    step('dust-and-scratches', { dust: 40 }),
    step('gate-weave', { across: 12, along: 12 }),
    step('density-flicker', { hand: 1, frame: 1, mottle: 1 }),
    step('tape-noise', { luma: 20 }),
  ] as never),
);

const engine = new Engine({ limit: 1 << 28, helpers: 0 });
afterAll(() => engine.close());
function seen(facts: ClipFacts, frame: number): readonly number[] {
  const sources = new Map(
    requirements(worn, facts, frame).map((f): [number, SourceFrame] => [
      f,
      { own: rawOf(f), others: {} },
    ]),
  );
  const made = plan(worn, clipFrame(sources, facts, frame, { ...size, look: worn })).result;
  return [...engine.memory.plane(engine.compute(inDomain(made, 'encoded')), 0)];
}

describe('chance', () => {
  it('as it is on a new clip is that of a clip without one', () => {
    expect(seen({ ...clip, chance: { number: 0, from: 0 } }, 7)).toEqual(seen(clip, 7));
  });

  it('of another number is other dust, the same in every render', () => {
    const other = { ...clip, chance: { number: 4, from: 0 } };
    const [plain, one] = [seen(clip, 7), seen(other, 7)];
    expect(one).not.toEqual(plain);
    expect(seen(other, 7)).toEqual(one);
    expect(seen({ ...clip, chance: { number: 5, from: 0 } }, 7)).not.toEqual(one);
  });

  it('of a part that counts on is that of the whole, frame by frame', () => {
    const part = { ...clip, inOut: { in: 20, out: 49 }, chance: { number: 0, from: 20 } };
    for (const frame of [0, 1, 13, 29]) expect(seen(part, frame)).toEqual(seen(clip, 20 + frame));
    const anew = { ...part, chance: { number: 0, from: 0 } };
    expect(seen(anew, 3)).not.toEqual(seen(clip, 23));
  });

  it.each([false, true])('of a retimed part counts by the whole’s frames, backwards %s', (back) => {
    const retime: Retime = {
      places: [{ frame: 0, speed: 50, to: 'smooth' }],
      backwards: back,
      between: 'nearest',
    };
    const whole = { ...clip, retime },
      inOut = { in: 20, out: 49 };
    const from = reachedAt(whole, back ? inOut.out : inOut.in);
    const part = { ...whole, inOut, chance: { number: 0, from } };
    expect(from).toBeGreaterThan(0);
    expect(from + lengthOf(part)).toBeLessThanOrEqual(lengthOf(whole));
    for (const frame of [0, 9, 40]) expect(seen(part, frame)).toEqual(seen(whole, from + frame));
  });
});
