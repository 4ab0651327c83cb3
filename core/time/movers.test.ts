import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type Values, withDefaults } from '../parameters';
import {
  countedFrom,
  type ClipTime,
  EASE_KINDS,
  eased,
  frameOf,
  framesOf,
  inFrames,
  type Instant,
  keyedValue,
  LAYER_TIME,
  levelAt,
  moverOf,
  MOVERS,
  type Rate,
  sourceFrame,
  sourceMoment,
} from '.';

const clip = (rate: Rate, more: Partial<ClipTime> = {}): ClipTime => ({
  frames: 120,
  rate,
  cues: {},
  ...more,
});
const PAL = clip([25, 1]);
const START: Instant = { from: 'start', offset: 0, unit: 'clip-frames' };

/** A mover's value over frames, its instants all on one frame. */
function over(
  kind: string,
  v: Values,
  frames: readonly number[],
  time = PAL,
  from = 0,
  seed = 5,
): number[] {
  const m = moverOf(kind)!;
  const events = Object.fromEntries(m.instants.map((i) => [i.id, [from]]));
  return frames.map((frame) =>
    m.at(withDefaults(m, v), {
      ...time,
      frame,
      seed,
      events,
      axis: 0,
      isPlace: false,
      part: m.parts?.[0]!.id ?? '',
    }),
  );
}
const upTo = (n: number): number[] => Array.from({ length: n }, (_, i) => i);

describe('movers', () => {
  it('blink counts frames, and seconds on any rate', () => {
    expect(over('blink', { on: 2, off: 3 }, upTo(10))).toEqual([1, 1, 0, 0, 0, 1, 1, 0, 0, 0]);
    expect(over('blink', { on: 2, off: 3 }, upTo(5), PAL, 3)).toEqual([0, 0, 0, 1, 1]);
    // Half a second on, half off: twelve frames each at 24 a second, despite the decimals of
    // 24000/1001.
    expect(over('blink', { on: 0.5, off: 0.5, unit: 'seconds' }, upTo(48), clip([24, 1]))).toEqual(
      upTo(48).map((f) => (f % 24 < 12 ? 1 : 0)),
    );
    const ntsc = over(
      'blink',
      { on: 0.5, off: 0.5, unit: 'seconds' },
      upTo(96),
      clip([24000, 1001]),
    );
    expect(ntsc).toEqual(
      upTo(96).map((f) => ((f * 1001) / 24000 - Math.floor((f * 1001) / 24000) < 0.5 ? 1 : 0)),
    );
  });

  it('strobe lights whole frames, and faster than every other one the share of each that is lit', () => {
    expect(over('strobe', { period: 4, lit: 1 }, upTo(9))).toEqual([1, 0, 0, 0, 1, 0, 0, 0, 1]);
    // Thirty flashes a second at 25 frames a second: no beat, and the same mean light.
    const fast = over('strobe', { period: 1 / 30, lit: 1 / 60, unit: 'seconds' }, upTo(100));
    expect(fast.reduce((a, b) => a + b) / 100).toBeCloseTo(0.5, 6);
    expect(Math.max(...fast) - Math.min(...fast)).toBeLessThan(0.5);
  });

  it('a pulse strikes on the frame itself and not before, and dies away without rising', () => {
    for (const rate of [
      [24000, 1001],
      [24, 1],
      [50, 1],
      [60, 1],
    ] as const) {
      const v = over('pulse', { release: 0.5 }, upTo(90), clip(rate), 30);
      expect(v.slice(0, 30)).toEqual(upTo(30).map(() => 0));
      expect(v[30]).toBe(1);
      for (let f = 31; f < 90; f++) expect(v[f]!).toBeLessThanOrEqual(v[f - 1]!);
      expect(v[30 + Math.ceil((0.5 * rate[0]) / rate[1]) + 1]).toBe(0);
    }
  });

  it('a ramp is nothing until its instant and all after its time', () => {
    expect(over('ramp', { over: 4, unit: 'clip-frames', ease: 'linear' }, upTo(9), PAL, 2)).toEqual(
      [0, 0, 0, 0.25, 0.5, 0.75, 1, 1, 1],
    );
    expect(over('ramp', { over: 0 }, upTo(4), PAL, 2)).toEqual([0, 0, 1, 1]);
    const staged = {
      ...PAL,
      seed: 1,
      events: { from: [1, 3] },
      axis: 0 as const,
      isPlace: false,
      part: '',
    };
    const ramp = moverOf('ramp')!;
    expect(
      upTo(5).map((frame) => ramp.at(withDefaults(ramp, { over: 0 }), { ...staged, frame })),
    ).toEqual([0, 0.5, 0.5, 1, 1]);
  });

  it('waves come round after their period', () => {
    const quarter = (shape: string) =>
      over('wave', { shape, period: 8, unit: 'clip-frames' }, [0, 2, 4, 6, 8]);
    const near = (a: number[], b: number[]) => a.forEach((v, i) => expect(v).toBeCloseTo(b[i]!, 9));
    near(quarter('sine'), [0, 1, 0, -1, 0]);
    near(quarter('triangle'), [0, 1, 0, -1, 0]);
    near(quarter('saw'), [-1, -0.5, 0, 0.5, -1]);
  });

  it('a jump comes as often as it is told, stays and returns', () => {
    const v = over('jump', { often: 60, stay: 3 }, upTo(2500));
    const moved = v.filter((x) => x !== 0).length;
    expect(moved).toBe(100 * 3);
  });

  it('a shake dies away after a blow and is nothing before it', () => {
    const v = over('shake', { decay: 1 }, upTo(100), PAL, 40);
    expect(v.slice(0, 40).every((x) => x === 0)).toBe(true);
    const most = (from: number, to: number) => Math.max(...v.slice(from, to).map(Math.abs));
    expect(most(40, 50)).toBeGreaterThan(4 * most(75, 100));
  });

  it('each stays within its bounds, and is the same for the same frame and seed', () => {
    for (const m of MOVERS)
      fc.assert(
        fc.property(fc.integer({ min: -50, max: 5000 }), fc.integer(), (frame, seed) => {
          const [a, b] = [
            over(m.id, {}, [frame], PAL, 7, seed),
            over(m.id, {}, [frame], PAL, 7, seed),
          ];
          expect(a).toEqual(b);
          expect(a[0]).toBeLessThanOrEqual(1);
          expect(a[0]).toBeGreaterThanOrEqual(m.signed ? -1 : 0);
        }),
        { numRuns: 200 },
      );
  });
});

describe('instants', () => {
  const time = clip([25, 1], { frames: 101, projectRate: [24, 1], cues: { hit: [60, 20] } });
  const at = (more: Partial<Instant>): Instant => ({ ...START, ...more });
  it('count from what they say and snap by halves up', () => {
    expect(frameOf(at({ offset: 0.5, unit: 'seconds' }), time)).toBe(13);
    expect(frameOf(at({ offset: -0.5, unit: 'seconds', from: 'end' }), time)).toBe(88);
    expect(frameOf(at({ from: 'share', share: 50 }), time)).toBe(50);
    expect(frameOf(at({ offset: 24, unit: 'project-frames' }), time)).toBe(25);
    expect(framesOf(at({ from: 'cue', cue: 'hit', which: 'each', offset: 2 }), time)).toEqual([
      22, 62,
    ]);
    expect(frameOf(at({ from: 'cue', cue: 'hit', which: 'last' }), time)).toBe(60);
    expect(frameOf(at({ from: 'cue', cue: 'unset' }), time)).toBe(50);
    expect(frameOf(at({ from: 'span-end', offset: -1 }), time, { first: 10, last: 30 })).toBe(29);
  });
  it('stay on their frame whatever they count from', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: -30, max: 200 }),
        fc.constantFrom('start', 'end', 'cue', 'share', 'span-start', 'span-end'),
        fc.constantFrom('seconds', 'clip-frames', 'project-frames'),
        fc.constantFrom<Rate>([24000, 1001], [24, 1], [50, 1], [60, 1]),
        (frame, from, unit, rate) => {
          const own = { ...time, rate };
          expect(
            frameOf(
              countedFrom(frame, { from, unit, cue: 'hit', share: 33 }, own, {
                first: 4,
                last: 70,
              }),
              own,
              { first: 4, last: 70 },
            ),
          ).toBe(frame);
        },
      ),
    );
  });
});

describe('eases and keys', () => {
  it('begin at the one value and end at the other, exactly', () => {
    for (const kind of EASE_KINDS)
      for (const by of [0, 50, 100])
        expect([eased({ kind, by }, 0), eased({ kind, by }, 1)]).toEqual([0, 1]);
  });
  it('never go back but where they are to', () => {
    for (const kind of ['linear', 'soft', 'fast-first', 'slow-first', 'cubic'] as const)
      for (let i = 1; i <= 100; i++)
        expect(eased({ kind, by: 80 }, i / 100)).toBeGreaterThanOrEqual(
          eased({ kind, by: 80 }, (i - 1) / 100) - 1e-12,
        );
    expect(
      Math.max(...upTo(100).map((i) => eased({ kind: 'overshoot' }, i / 100))),
    ).toBeGreaterThan(1.05);
    expect(eased({ kind: 'bounce', by: 50 }, 0.6)).toBeCloseTo(1, 9);
    expect(eased({ kind: 'bounce', by: 50 }, 0.8)).toBeCloseTo(0.5, 9);
  });
  it('a cubic with even handles is a straight line', () => {
    for (const x of [0.1, 0.37, 0.5, 0.9])
      expect(eased({ kind: 'cubic', handles: [1 / 3, 1 / 3, 2 / 3, 2 / 3] }, x)).toBeCloseTo(x, 9);
  });
  const linear = { kind: 'linear' } as const;
  it('hold before the first and after the last, and mix every kind of value between', () => {
    const keys = [
      { frame: 20, value: 3, ease: linear },
      { frame: 10, value: 1, ease: linear },
    ];
    expect([0, 10, 15, 20, 99].map((f) => keyedValue({ kind: 'number' }, keys, f))).toEqual([
      1, 1, 2, 3, 3,
    ]);
    const flags = [
      { frame: 0, value: false, ease: linear },
      { frame: 4, value: true, ease: linear },
    ];
    expect([0, 3, 4].map((f) => keyedValue({ kind: 'switch' }, flags, f))).toEqual([
      false,
      false,
      true,
    ]);
    const turns = [
      { frame: 0, value: [0.5, 0.5, 10, 10, 350] as const, ease: linear },
      { frame: 2, value: [0.5, 0.5, 10, 10, 370] as const, ease: linear },
    ];
    expect(keyedValue({ kind: 'ellipse' }, turns, 1)).toEqual([0.5, 0.5, 10, 10, 360]);
  });
  it('mix colours as light or evenly to the eye', () => {
    const keys = [
      { frame: 0, value: [0, 0, 0] as const, ease: linear },
      { frame: 2, value: [1, 1, 1] as const, ease: linear },
    ];
    // Half the light of white is 0.7354 encoded (IEC 61966-2-1); half of Oklab's lightness an
    // eighth of it, 0.3885.
    const light = keyedValue({ kind: 'colour' }, keys, 1, 'light') as readonly number[],
      even = keyedValue({ kind: 'colour' }, keys, 1, 'even') as readonly number[];
    light.forEach((v) => expect(v).toBeCloseTo(0.7354, 3));
    even.forEach((v) => expect(v).toBeCloseTo(0.3885, 3));
  });
});

describe('spans and layer time', () => {
  const span = { first: 10, last: 20, coming: 0, going: 0, ease: { kind: 'linear' } as const };
  it('act on their frames and on no other', () => {
    expect([9, 10, 20, 21].map((f) => levelAt(span, f))).toEqual([0, 1, 1, 0]);
    const slow = { ...span, coming: 3, going: 1 };
    expect([9, 10, 11, 12, 13, 19, 20, 21].map((f) => levelAt(slow, f))).toEqual([
      0, 0.25, 0.5, 0.75, 1, 1, 0.5, 0,
    ]);
  });
  const at = (v: Values, frame: number, time = PAL, from = 0): number =>
    sourceFrame(withDefaults({ parameters: LAYER_TIME }, v), frame, time, from, 3);
  it('shifts, turns round and changes speed by whole frames', () => {
    expect(at({ offset: -4 }, 10)).toBe(6);
    expect(at({ reverse: true }, 0)).toBe(119);
    expect(at({ speed: 50 }, 5)).toBe(3);
    expect(at({ speed: 0 }, 77, PAL, 12)).toBe(12);
    expect(at({ offset: 0.4, unit: 'seconds' }, 10)).toBe(20);
    expect([119, 120, 121].map((f) => at({ beyond: 'again', offset: 0 }, f))).toEqual([119, 0, 1]);
    expect([119, 120, 121].map((f) => at({ beyond: 'to-and-fro' }, f))).toEqual([119, 118, 117]);
    expect(at({ beyond: 'hold', offset: -9 }, 3)).toBe(0);
    expect(at({ speed: 300, reverse: true, beyond: 'again' }, 50)).toBe(89);
  });
  it('holds eighteen pictures in 25 frames, each as long as the others to a frame, and no frame of the future', () => {
    const shown = upTo(100).map((f) => at({ cadence: 'rate', held: 18 }, f));
    expect(new Set(shown).size).toBe(72);
    shown.forEach((s, f) => {
      expect(s).toBeLessThanOrEqual(f);
      expect(f - s).toBeLessThan(2);
    });
    expect(upTo(7).map((f) => at({ cadence: 'every', held: 3 }, f))).toEqual([0, 0, 0, 3, 3, 3, 6]);
    expect(at({ cadence: 'every', held: 3 }, 8, PAL, 1)).toBe(7);
  });
  it('made between frames it shows the moment at which each hold begins, not the frame after it', () => {
    const v = withDefaults(
      { parameters: LAYER_TIME },
      { cadence: 'rate', held: 18, between: 'motion' },
    );
    const moments = upTo(100).map((f) => sourceMoment(v, f, PAL, 0, 1));
    const apart = [...new Set(moments)];
    expect(apart).toHaveLength(72);
    apart.forEach((m, k) => expect(m).toBeCloseTo((k * 25) / 18, 9));
    moments.forEach((m, f) => expect(m <= f && f - m < 25 / 18).toBe(true));
  });
  it('held unevenly never goes back', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 100 }),
        fc.double({ min: 2, max: 12, noNaN: true }),
        fc.integer(),
        (jitter, held, seed) => {
          const v = withDefaults({ parameters: LAYER_TIME }, { cadence: 'every', held, jitter });
          const shown = upTo(80).map((f) => sourceFrame(v, f, PAL, 0, seed));
          shown.forEach((s, f) => {
            expect(s).toBeLessThanOrEqual(f);
            expect(s).toBeGreaterThanOrEqual(0);
            if (f > 0) expect(s).toBeGreaterThanOrEqual(shown[f - 1]!);
          });
        },
      ),
    );
  });
  it('counts project frames by both rates', () => {
    expect(inFrames(1, 'project-frames', { rate: [50, 1], projectRate: [25, 1] })).toBe(2);
  });
});
