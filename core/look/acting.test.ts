/**
 * When parts of a look act: single events, the next frame for what is idle, and the frame where a
 * look first acts.
 */
import { describe, expect, it } from 'vitest';
import { firstStrike, moverEvents, nextActing, type OnClip, stepEvents } from '.';
import { stepOf } from '../steps';
import {
  edit,
  emptyLook,
  evaluationAt,
  type InstantUse,
  type LookDocument,
  OPACITY,
  SHIPPED,
} from '.';

const CLIP: OnClip = {
  frames: 120,
  rate: [25, 1],
  cues: { hit: [40] },
  cuts: [77],
  content: 'abc',
  aspect: 16 / 9,
};
const frame = (n: number): InstantUse => ({
  from: 'start',
  offset: { value: n },
  unit: 'clip-frames',
});
const jumpy = (parameters: Record<string, number | boolean>): LookDocument =>
  edit.addLayer(
    { ...emptyLook('Jumpy', 9), pins: [{ key: 'hit', label: 'Hit', kind: 'cue', many: false }] },
    edit.newLayer(
      'film',
      'clip',
      [],
      [
        {
          ...edit.newStep(stepOf('jump-registration')!, []),
          parameters: Object.fromEntries(
            Object.entries(parameters).map(([k, value]) => [k, { value }]),
          ),
        },
      ],
    ),
  );

describe('single events', () => {
  it('of lost perforations are about as many as is said, the same each time; splices stand at cuts and cues', () => {
    const [events] = stepEvents(jumpy({ size: 20, every: 10 }), CLIP);
    expect(events).toMatchObject({
      layer: 'film',
      step: 'jump-registration',
      name: 'film: Jump registration',
    });
    expect(events!.frames.length).toBeGreaterThan(4);
    expect(events!.frames.length).toBeLessThan(24);
    expect(stepEvents(jumpy({ size: 20, every: 10 }), CLIP)[0]!.frames).toEqual(events!.frames);
    expect(
      stepEvents(jumpy({ size: 20, every: 10 }), { ...CLIP, content: 'other' })[0]!.frames,
    ).not.toEqual(events!.frames);
    const spliced = stepEvents(
      jumpy({ size: 20, every: 10_000, splice: true, 'splice-cues': true }),
      CLIP,
    )[0]!.frames;
    expect(spliced).toEqual(expect.arrayContaining([0, 40, 77]));
    expect(stepEvents(jumpy({ size: 0, every: 2 }), CLIP)[0]!.frames).toEqual([]);
    expect(stepEvents(edit.changeLayer(jumpy({ size: 20 }), 'film', { on: false }), CLIP)).toEqual(
      [],
    );
  });
  it('of a mover that jumps are the frames on which it leaves its place', () => {
    const look = edit.addMover(jumpy({}), 'jump', 'film/opacity');
    const often = edit.setMoverParameter(look, look.movers![0]!.key, 'often', { value: 120 });
    const events = moverEvents(often, often.movers![0]!, CLIP);
    expect(events.length).toBeGreaterThan(3);
    const value = (f: number) =>
      evaluationAt(often, {}, { ...CLIP, frame: f }).moved('film/opacity', OPACITY, 100);
    for (const f of events)
      expect([value(f) === 100, f === 0 || value(f - 1) === 100]).toEqual([false, true]);
    expect(moverEvents(often, { ...often.movers![0]!, kind: 'wave' }, CLIP)).toEqual([]);
  });
});

describe('what does nothing on a frame', () => {
  const spanned = edit.setSpan(
    jumpy({ size: 20 }),
    { layer: 'film' },
    { from: frame(30), to: frame(50) },
  );
  it('acts next where its span begins, or began before if there is none after; what acts has no next', () => {
    expect(nextActing(spanned, 'film', 5, CLIP)).toBe(30);
    expect(nextActing(spanned, 'film/jump-registration', 5, CLIP)).toBe(30);
    expect(nextActing(spanned, 'film', 35, CLIP)).toBeUndefined();
    expect(nextActing(spanned, 'film', 80, CLIP)).toBe(30);
    const never = edit.changeLayer(spanned, 'film', { opacity: { value: 0 } });
    expect(nextActing(never, 'film', 5, CLIP)).toBeUndefined();
  });
  it('is told by keys as well', () => {
    const keyed = edit.setKey(
      edit.addMover(jumpy({ size: 20 }), 'keys', 'film/opacity', { at: frame(60), value: 0 }),
      'keys',
      64,
      CLIP,
      100,
    );
    expect(nextActing(keyed, 'film', 10, CLIP)).toBe(61);
  });
});

describe('where a look first strikes', () => {
  it('is its cue where the clip has set it, else the first event after the first frame, else nowhere', () => {
    expect(firstStrike(jumpy({ size: 20, every: 5 }), CLIP)).toBe(40);
    const { pins: _, ...plain } = edit.setSpan(
      jumpy({ size: 0 }),
      { layer: 'film' },
      { from: frame(30), to: frame(50) },
    );
    expect(firstStrike(plain, CLIP)).toBe(30);
    expect(firstStrike(emptyLook('Nothing'), CLIP)).toBeUndefined();
    for (const { look } of SHIPPED) {
      const strike = firstStrike(look, CLIP);
      if (strike !== undefined) expect(strike).toBeLessThan(CLIP.frames);
    }
  });
});
