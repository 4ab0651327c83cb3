/**
 * A look that retimes clips: lengths, cues, parts kept as shot, a clip's own speed, and what
 * validation refuses.
 */
import { describe, expect, it } from 'vitest';
import {
  type ClipFacts,
  footageAt,
  lengthOf,
  momentAt,
  reachedAt,
  retimeOf,
  timeOf,
} from '../clip';
import { frameOf, type Retime } from '../time';
import { emptyLook, type LookDocument, type RetimeUse } from './document';
import { changeRetimePlace, setRetime } from './edit-time';
import { changesBetween } from './changes';
import * as edit from './edit';
import { SHIPPED } from './shipped';
import { resolve } from './resolve';
import { underLook } from './retime';
import { readLook } from './validate';

const RATE = [25, 1] as const;
type Clip = Pick<ClipFacts, 'frames' | 'rate' | 'retime' | 'lookRetime'> & {
  pins: NonNullable<ClipFacts['pins']>;
};
const clip = (frames: number, cue?: number, retime: Retime | null = null): Clip => ({
  frames,
  rate: RATE,
  retime,
  pins: cue === undefined ? {} : { hit: [{ frame: cue }] },
});
const steady = (speed: number, backwards = false): Retime => ({
  places: [{ frame: 0, speed, to: 'smooth' }],
  backwards,
  between: 'mix',
});

const use: RetimeUse = {
  places: [
    { at: { from: 'cue', cue: 'hit' }, speed: { value: 100 }, to: 'at-once' },
    {
      at: { from: 'cue', cue: 'hit', offset: { value: 5 }, unit: 'clip-frames' },
      speed: { dial: 'slow', from: 100, to: 20 },
      to: 'at-once',
    },
    {
      at: { from: 'cue', cue: 'hit', offset: { value: 1 }, unit: 'seconds' },
      speed: { value: 100 },
      to: 'at-once',
    },
  ],
  backwards: false,
  between: 'motion',
};
const looking = (retime: RetimeUse = use): LookDocument => ({
  ...emptyLook('slow'),
  dials: [
    ...emptyLook('slow').dials,
    { key: 'slow', label: 'Slow', kind: 'number', min: 0, max: 100, unit: '%', value: 100 },
  ],
  pins: [{ key: 'hit', label: 'Hit', kind: 'cue', many: false }],
  retime,
});

describe('a look that retimes clips', () => {
  it('makes each as long as its own cue, its rate and the dial say', () => {
    // 20 frames at a fifth of the speed.
    expect(lengthOf(underLook(clip(100, 30), looking()))).toBe(100 - 20 + 100);
    expect(lengthOf(underLook(clip(100, 30), looking(), { slow: 50 }))).toBe(
      100 - 20 + Math.round(20 / 0.6),
    );
    // Ten frames of the ramp lie after the clip's end.
    expect(lengthOf(underLook(clip(100, 85), looking()))).toBe(90 + 50);
    // Without a cue it is the clip's middle.
    expect(lengthOf(underLook(clip(60), looking()))).toBe(60 - 20 + 100);
    expect(lengthOf(underLook({ ...clip(100, 30), rate: [50, 1] }, looking()))).toBe(
      100 - 45 + 225,
    );
  });
  it('gives the clip itself where it changes nothing, and the same retime for the same places', () => {
    const plain = clip(100, 30);
    expect(underLook(plain, looking(), { slow: 0 })).toBe(plain);
    expect(underLook(plain, emptyLook('none'))).toBe(plain);
    expect(underLook(plain, null)).toBe(plain);
    expect(underLook(plain, looking()).lookRetime).toBe(
      underLook({ ...plain }, looking()).lookRetime,
    );
    // A length asked for under one look does not carry over to another.
    expect(lengthOf(underLook(underLook(plain, looking()), null))).toBe(100);
  });
  it('leaves cues on their frames of the footage', () => {
    const retimed = underLook(clip(100, 30), looking());
    expect(timeOf(retimed).cues).toEqual({ hit: [30] });
    expect(reachedAt(retimed, 40)).toBe(35 + 25);
    expect(footageAt(retimed, 60)).toBe(40);
  });
  it('counts seconds as shot along the clip’s own time, and back', () => {
    const look = looking(),
      time = timeOf(underLook(clip(100, 30), look));
    const asShot = { from: 'cue', cue: 'hit', offset: 1, unit: 'shot-seconds' } as const;
    expect(frameOf(asShot, time)).toBe(35 + 100);
    expect(frameOf({ ...asShot, unit: 'seconds' }, time)).toBe(55);
    const back = edit.instantAt(look, 35 + 100, time, {
      from: 'cue',
      cue: 'hit',
      unit: 'shot-seconds',
    });
    expect(back).toEqual({ from: 'cue', cue: 'hit', offset: { value: 1 }, unit: 'shot-seconds' });
    // Without retiming they are plain seconds.
    expect(frameOf(asShot, timeOf(clip(100, 30)))).toBe(55);
  });
  it('lies over the clip’s own speed: its places count in what that leaves, and all is rounded once', () => {
    const retimed = underLook(clip(100, 30, steady(50)), looking());
    // The cue is on frame 60 of 200; 20 of its frames run at a fifth.
    expect(lengthOf(retimed)).toBe(200 - 20 + 100);
    expect(timeOf(retimed).cues).toEqual({ hit: [60] });
    expect(momentAt(retimed, 60)).toBe(30);
    // From 65 on the look takes a fifth of the clip's half speed: 65/2 + n/10.
    for (let n = 0; n < 100; n++)
      expect(momentAt(retimed, 65 + n)).toBe(Math.round((32.5 + n / 10) * 256) / 256);
    expect(reachedAt(retimed, 40)).toBe(65 + 75);
  });
  it('backwards over backwards is forwards', () => {
    const turned = looking({
      ...use,
      places: [{ at: { from: 'start' }, speed: { value: 100 }, to: 'smooth' }],
      backwards: true,
    });
    expect(momentAt(underLook(clip(10), turned), 0)).toBe(9);
    const twice = underLook(clip(10, undefined, steady(100, true)), turned);
    expect(Array.from({ length: 10 }, (_, f) => momentAt(twice, f))).toEqual([
      0, 1, 2, 3, 4, 5, 6, 7, 8, 9,
    ]);
    expect(Array.from({ length: 10 }, (_, f) => reachedAt(twice, f))).toEqual([
      0, 1, 2, 3, 4, 5, 6, 7, 8, 9,
    ]);
  });
  it('begins in the middle of a ramp whose first place lies before the clip', () => {
    const early = looking({
      ...use,
      places: [
        {
          at: { from: 'start', offset: { value: -20 }, unit: 'clip-frames' },
          speed: { value: 100 },
          to: 'smooth',
        },
        {
          at: { from: 'start', offset: { value: 20 }, unit: 'clip-frames' },
          speed: { value: 25 },
          to: 'smooth',
        },
      ],
    });
    const retimed = underLook(clip(60), early);
    expect(momentAt(retimed, 0)).toBe(0);
    const all = Array.from({ length: lengthOf(retimed) }, (_, f) => momentAt(retimed, f));
    expect(all.every((m, i) => i === 0 || m >= all[i - 1]!)).toBe(true);
    expect(all[1]! - all[0]!).toBeLessThan(0.8);
    expect(retimeOf(retimed)!.at(lengthOf(retimed) - 1)).toBeGreaterThan(58);
  });
});

describe('the document', () => {
  it('is read, changed, and its dial taken away leaves a constant', () => {
    const look = looking();
    expect(readLook(JSON.parse(JSON.stringify(look)))).toEqual({
      look: expect.objectContaining({ retime: use }),
    });
    const gone = edit.removeDial(look, 'slow', (s) => resolve(look, s, {}));
    expect(gone.retime!.places[1]!.speed).toEqual({ value: 20 });
    expect('look' in readLook(gone)).toBe(true);
    expect('look' in readLook(edit.removePin(look, 'hit'))).toBe(true);
    expect(changeRetimePlace(look, 0, { hold: { value: 2 } }).retime!.places[0]!.hold).toEqual({
      value: 2,
    });
    expect(setRetime(look, undefined)).not.toHaveProperty('retime');
    expect(changesBetween(setRetime(look, undefined), look)).toEqual(['how it lets clips run']);
  });
  it('refuses what it cannot mean, and says where', () => {
    const bad = (place: object): string[] => {
      const read = readLook({
        ...looking(),
        retime: {
          ...use,
          places: [{ at: { from: 'start' }, speed: { value: 100 }, to: 'smooth', ...place }],
        },
      });
      return 'faults' in read ? read.faults.map((f) => f.path) : [];
    };
    expect(bad({ speed: { value: 0 } })).toEqual(['retime.places[0].speed']);
    expect(bad({ speed: { dial: 'none', from: 10, to: 20 } })).toEqual(['retime.places[0].speed']);
    expect(bad({ hold: { value: 1000 } })).toEqual(['retime.places[0].hold']);
    expect(bad({ at: { from: 'cue', cue: 'none' } })).toEqual(['retime.places[0].at.cue']);
    expect(bad({ at: { from: 'span-start' } })).toEqual(['retime.places[0].at.from']);
    expect(bad({ to: 'never' })).toEqual(['retime.places[0].to']);
    expect(bad({})).toEqual([]);
  });
});

it('Slow Breath makes clips longer by what its slowness says, wherever its cue lies', () => {
  const { look } = SHIPPED.find((s) => s.look.name === 'Slow Breath')!;
  for (const frames of [75, 120, 150])
    for (const at of [0, 20, frames - 1]) {
      const lengths = [0, 40, 80, 100].map((slowness) => {
        const retimed = underLook({ ...clip(frames), pins: { slow: [{ frame: at }] } }, look, {
          slowness,
        });
        expect(timeOf(retimed).cues['slow']).toEqual([at]);
        return lengthOf(retimed);
      });
      expect(lengths[0]).toBe(frames);
      expect(lengths.every((l, i) => i === 0 || l >= lengths[i - 1]!)).toBe(true);
      if (at < frames - 20) expect(lengths[3]!).toBeGreaterThan(frames + 20);
    }
});
