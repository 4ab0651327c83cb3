/** Edits of cuts: known answers, and what must hold whatever is done. */
import { describe, expect, it } from 'vitest';
import {
  allPlaces,
  type CutClip,
  type CutDocument,
  cutting,
  emptyCut,
  endOf,
  framesFor,
  lastsFor,
  latestAt,
  lengthOfCut,
  linesOf,
  type Place,
  readCut,
  standing,
} from '.';
import { footageAt } from '../clip';
import { decided, shownOf } from '../decisions';
import type { Rate } from '../time';

const RATE: Rate = [24, 1];
const ID = '00000000-0000-4000-8000-00000000000';
const clip = (id: string, some: Partial<CutClip> = {}): CutClip => ({
  ...shownOf(decided()),
  id,
  name: id,
  hash: id,
  rate: [24, 1],
  frames: 100,
  cuts: [],
  look: null,
  ...some,
});
const clips: Record<string, CutClip> = {
  [`${ID}1`]: clip(`${ID}1`),
  [`${ID}2`]: clip(`${ID}2`),
  [`${ID}3`]: clip(`${ID}3`, { rate: [50, 1] }),
};
const known: cutting.Known = { rate: RATE, clip: (id) => clips[id] };
const three = (): CutDocument =>
  cutting.placed(emptyCut(), 'row', 0, [
    { clip: `${ID}1`, in: 10, frames: 20 },
    { clip: `${ID}2`, in: 10, frames: 30 },
    { clip: `${ID}1`, in: 50, frames: 10 },
  ]);
const said = (cut: CutDocument) =>
  allPlaces(cut).map((p) => `${p.key.slice(6)}@${p.at}+${p.frames}<${p.in}`);

it('clips are placed one after another, a clip that stands twice with another chance', () => {
  expect(said(three())).toEqual(['1@0+20<10', '2@20+30<10', '3@50+10<50']);
  expect(allPlaces(three()).map((p) => p.chance)).toEqual([undefined, undefined, 1]);
  expect(readCut(JSON.parse(JSON.stringify(three())))).toHaveProperty('cut');
});
it('places move together, no further than the beginning', () => {
  expect(said(cutting.moved(three(), ['place-2', 'place-3'], 5))).toEqual([
    '1@0+20<10',
    '2@25+30<10',
    '3@55+10<50',
  ]);
  expect(said(cutting.moved(three(), ['place-2', 'place-3'], -99))[0]).toBe('1@0+20<10');
  expect(allPlaces(cutting.moved(three(), ['place-2', 'place-3'], -99))[1]!.at).toBe(0);
  const two = cutting.withNewRow(three(), 'birds'),
    up = cutting.moved(two, ['place-2'], 3, 'row-1');
  expect(up.rows.map((r) => r.places.map((p) => p.at))).toEqual([[0, 50], [23]]);
});
it('a row above is material, or answers a pin, and is taken back again', () => {
  const two = cutting.withNewRow(three(), 'ground');
  const material = cutting.withMaterial(two, 'row-1', true);
  expect(material.rows.map((r) => r.material)).toEqual([undefined, true]);
  expect(cutting.withMaterial(material, 'row-1', false)).toEqual(two);
  const answered = cutting.withAnswer(two, 'place-2', 'second', 'row-1');
  expect(cutting.placeOf(answered, 'place-2')!.answers).toEqual({ second: 'row-1' });
  expect(readCut(JSON.parse(JSON.stringify(answered)))).toHaveProperty('cut');
  expect(cutting.withAnswer(answered, 'place-2', 'second', undefined)).toEqual(two);
  // An empty row above is taken, not another laid on it.
  expect(cutting.withNewRow(two, 'again').rows).toHaveLength(2);
});
it('ends and beginnings stop where the footage does', () => {
  expect(said(cutting.trimmedEnd(three(), 'place-2', 999, known))[1]).toBe('2@20+90<10');
  expect(said(cutting.trimmedEnd(three(), 'place-2', -999, known))[1]).toBe('2@20+1<10');
  expect(said(cutting.trimmedStart(three(), 'place-2', -999, known))[1]).toBe('2@10+40<0');
  expect(said(cutting.trimmedStart(three(), 'place-2', 4, known))[1]).toBe('2@24+26<14');
});
it('a slip shows other footage in the same slot, within what there is', () => {
  expect(said(cutting.slipped(three(), 'place-2', 999, known))[1]).toBe('2@20+30<70');
  expect(said(cutting.slipped(three(), 'place-2', -999, known))[1]).toBe('2@20+30<0');
});
it('a slide moves a place between its neighbours, and the cut stays as long', () => {
  const slid = cutting.slid(three(), 'place-2', 4, known);
  expect(said(slid)).toEqual(['1@0+24<10', '2@24+30<10', '3@54+6<54']);
  expect(lengthOfCut(slid, RATE)).toBe(60);
  expect(said(cutting.slid(slid, 'place-2', -4, known))).toEqual(said(three()));
});
it('a split shows the same frames with the same chance, and is joined again', () => {
  const cut = cutting.split(three(), 'place-2', 30, known);
  expect(said(cut)).toEqual(['1@0+20<10', '2@20+10<10', '4@30+20<20', '3@50+10<50']);
  const [, first, second] = allPlaces(cut) as [Place, Place, Place];
  for (let f = 20; f < 50; f++) {
    const [place, whole] = [f < 30 ? first : second, allPlaces(three())[1]!];
    const of = (p: Place) => {
      const s = standing(p, clips[p.clip]!, RATE);
      const at = s.frameAt(f - p.at);
      return [s.clip.inOut!.in + at, s.clip.chance.from + at];
    };
    expect(of(place)).toEqual(of(whole));
  }
  expect(said(cutting.joined(cut, 'place-2', known)!)).toEqual(said(three()));
  expect(cutting.joined(three(), 'place-1', known)).toBeUndefined();
});
describe('a place with a speed of its own', () => {
  const retimed = (speed: number, backwards: boolean): CutDocument =>
    cutting.withPlaces(three(), ['place-2'], (p) => ({
      ...p,
      retime: {
        places: [{ frame: 0, speed, to: 'at-once' as const }],
        ...{ backwards, between: 'nearest' as const },
      },
    }));
  /** The footage that stands at each project frame from 20 to 49. */
  const shown = (cut: CutDocument): (number | undefined)[] =>
    Array.from({ length: 30 }, (_, i) => {
      const p = allPlaces(cut).find((q) => q.at <= 20 + i && 20 + i < endOf(q))!;
      if (!p || p.clip !== `${ID}2`) return undefined;
      const s = standing(p, clips[p.clip]!, RATE);
      return footageAt(s.clip, s.frameAt(20 + i - p.at));
    });
  it.each([
    [50, false],
    [200, false],
    [100, true],
  ])(
    'of %d %%, backwards %s, shows the same frames after a split and after trims',
    (speed, back) => {
      const whole = retimed(speed, back),
        before = shown(whole);
      expect(before[0]).toBe(back ? 39 : 10);
      // Half a frame may round otherwise where a half ends.
      const halves = shown(cutting.split(whole, 'place-2', 34, known));
      const off = halves.map((f, i) => Math.abs(f! - before[i]!));
      expect(off[14]).toBe(0);
      expect(Math.max(...off)).toBeLessThanOrEqual(speed < 100 ? 1 : 0);
      const start = shown(cutting.trimmedStart(whole, 'place-2', 6, known));
      expect(start.slice(6)).toEqual(before.slice(6));
      const end = shown(cutting.trimmedEnd(whole, 'place-2', -4, known));
      expect(end.slice(0, 25)).toEqual(before.slice(0, 25));
    },
  );
  it('is joined again after a split', () => {
    const whole = retimed(50, false);
    const joined = cutting.joined(cutting.split(whole, 'place-2', 34, known), 'place-2', known)!;
    expect(shown(joined)).toEqual(shown(whole));
  });
});
it('what is taken away leaves a gap, or none', () => {
  expect(said(cutting.without(three(), ['place-2']))).toEqual(['1@0+20<10', '3@50+10<50']);
  expect(said(cutting.without(three(), ['place-2'], true))).toEqual(['1@0+20<10', '3@20+10<50']);
  const gap = cutting.without(three(), ['place-2']);
  expect(said(cutting.gapClosed(gap, 'row', 30))).toEqual(['1@0+20<10', '3@20+10<50']);
  expect(said(cutting.gapOpened(three(), 'row', 20, 7))).toEqual([
    '1@0+20<10',
    '2@27+30<10',
    '3@57+10<50',
  ]);
});
it('two places swap what they show and keep their slots', () => {
  const cut = cutting.swapped(three(), 'place-1', 'place-2');
  expect(allPlaces(cut).map((p) => [p.key, p.at, p.frames, p.clip.at(-1)])).toEqual([
    ['place-1', 0, 20, '2'],
    ['place-2', 20, 30, '1'],
    ['place-3', 50, 10, '1'],
  ]);
});

describe('a transition on a straight cut', () => {
  it('takes half of its frames from each, the odd one from what goes', () => {
    const { cut, lacks } = cutting.withTransition(three(), 'place-2', { look: 'mix' }, 9, known);
    expect(said(cut)).toEqual(['1@0+25<10', '2@16+34<6', '3@50+10<50']);
    expect(lacks).toEqual({ before: 0, after: 0 });
    expect(allPlaces(cut)[1]!.enters).toEqual({ look: 'mix' });
    // A second time it is as long as it is.
    expect(said(cutting.withTransition(cut, 'place-2', { look: 'wipe' }, 9, known).cut)).toEqual(
      said(cut),
    );
    expect(
      allPlaces(cutting.withTransition(cut, 'place-2', null, 9, known).cut)[1]!.enters,
    ).toBeUndefined();
  });
  it('says what is missing, and is shorter by it', () => {
    const tight = cutting.withPlaces(three(), ['place-2'], (p) => ({ ...p, in: 2 }));
    const { cut, lacks } = cutting.withTransition(tight, 'place-2', { look: 'mix' }, 12, known);
    expect(lacks).toEqual({ before: 0, after: 4 });
    expect(said(cut).slice(0, 2)).toEqual(['1@0+26<10', '2@18+32<0']);
  });
});
it('rows of places take lengths, and beats', () => {
  const all = ['place-1', 'place-2', 'place-3'];
  expect(said(cutting.lengths(three(), all, (i) => (i === 2 ? 18 : 9), known))).toEqual([
    '1@0+9<10',
    '2@9+9<10',
    '3@18+18<50',
  ]);
  const beats = [0.5, 1, 1.5, 2, 2.5, 3, 3.5, 4, 4.5, 5];
  expect(said(cutting.toBeats(three(), all, beats, 2, known))).toEqual([
    '1@12+24<10',
    '2@36+24<10',
    '3@60+24<50',
  ]);
  // Beyond the last beat as many as are needed go on at the same pace.
  expect(said(cutting.toBeats(three(), all, beats.slice(0, 4), 2, known))).toEqual([
    '1@12+24<10',
    '2@36+24<10',
    '3@60+24<50',
  ]);
});
it('rates convert there and back', () => {
  for (const [a, b] of [
    [
      [24, 1],
      [25, 1],
    ],
    [
      [30000, 1001],
      [24000, 1001],
    ],
    [
      [25, 1],
      [10, 1],
    ],
    [
      [24, 1],
      [60000, 1001],
    ],
  ] as [Rate, Rate][])
    for (let n = 1; n < 200; n++) {
      expect(latestAt(n, a, b)).toBeGreaterThanOrEqual(latestAt(n - 1, a, b));
      const most = lastsFor(n, a, b);
      expect(framesFor(most, a, b)).toBeLessThanOrEqual(Math.max(n, framesFor(1, a, b)));
      expect(framesFor(most + 1, a, b)).toBeGreaterThan(n);
    }
  expect(latestAt(7, RATE, RATE)).toBe(7);
});
it('a slow place takes less of its footage, and says when there is too little', () => {
  const slow = {
    places: [{ frame: 0, speed: 50, to: 'at-once' as const }],
    backwards: false,
    between: 'nearest' as const,
  };
  const place: Place = { key: 'p', clip: `${ID}1`, at: 0, frames: 40, in: 10, retime: slow };
  const stands = standing(place, clips[`${ID}1`]!, RATE);
  expect(stands.clip.inOut).toEqual({ in: 10, out: 29 });
  expect([stands.frames, stands.lacks]).toEqual([40, 0]);
  const long = standing({ ...place, frames: 200 }, clips[`${ID}1`]!, RATE);
  expect([long.frames, long.lacks, long.frameAt(199)]).toEqual([180, 20, 179]);
});
it('takes lie in step with the song, and a new mix where the old one was', () => {
  const cut = cutting.withSound(three(), {
    ...{ sound: ID, at: 48_000, from: 24_000, samples: 480_000, level: -3 },
  });
  const song = cut.sounds[0]!;
  // The second place is heard from 20 frames on: there the song is at its second 20/24 − 1 + 0.5.
  const steps = new Map([['place-2', { offset: -2, drift: 0 }]]);
  const stepped = cutting.placeOf(cutting.inStep(cut, song, steps, known), 'place-2')!;
  expect([stepped.at, stepped.frames, stepped.in]).toEqual([20, 30, 20 - 12 + 48]);
  // A take that begins later than the slot lets it begin then.
  const late = cutting.placeOf(
    cutting.inStep(cut, song, new Map([['place-2', { offset: 0.5, drift: 0 }]]), known),
    'place-2',
  )!;
  expect([late.at, late.frames, late.in]).toEqual([24, 26, 0]);
  const mixed = cutting.soundReplaced(
    cut,
    song.key,
    { id: 'new', samples: 400_000 },
    { offset: 0.25 },
  );
  expect(mixed.sounds[0]).toMatchObject({
    ...{ sound: 'new', at: 48_000, from: 12_000, samples: 388_000, level: -3 },
  });
  // One that begins later than what was heard is heard later.
  expect(
    cutting.soundReplaced(cut, song.key, { id: 'new', samples: 900_000 }, { offset: 1 }).sounds[0],
  ).toMatchObject({ at: 72_000, from: 0, samples: 456_000 });
});
it('markers have words, and lines hold all of the cut', () => {
  const cut = cutting.marked(cutting.marked(three(), 30, 'break'), 12, 'verse');
  expect(cut.markers.map((m) => [m.at, m.words])).toEqual([
    [12, 'verse'],
    [30, 'break'],
  ]);
  expect(cutting.marked(cut, 30, '').markers).toHaveLength(1);
  expect(cutting.snapsOf(cut, [1.01], RATE)).toEqual([0, 12, 20, 24, 30, 50, 60]);
  const bars = [0.5, 2.5, 4.5, 6.5];
  const lines = linesOf({ of: 'bars', count: 2 }, 300, RATE, bars);
  expect(lines.slice(0, 2)).toEqual([
    { from: 0, to: 108 },
    { from: 108, to: 204 },
  ]);
  expect(lines.at(-1)!.to).toBeGreaterThanOrEqual(300);
  expect(linesOf({ of: 'seconds', count: 5 }, 0, RATE)).toEqual([{ from: 0, to: 120 }]);
});
it('faults of a cut have their paths', () => {
  const bad = JSON.parse(JSON.stringify(three()));
  bad.rows[0].places[1].frames = 0;
  expect(readCut(bad)).toEqual({
    faults: [expect.objectContaining({ path: 'rows[0].places[1].frames' })],
  });
  const twice = JSON.parse(JSON.stringify(three()));
  twice.rows[0].places[1].key = 'place-1';
  expect(readCut(twice)).toHaveProperty('faults');
  expect(readCut([])).toHaveProperty('faults');
  expect(endOf(allPlaces(three())[2]!)).toBe(60);
});
