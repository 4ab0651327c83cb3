import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type ClipPins, edit, emptyLook, type PinAsk, placeInTarget, type Point } from '../../core';
import type { ClipView } from '../data/views';
import {
  alike,
  clickedPlace,
  dealtOut,
  keptAs,
  pinAt,
  pinTroubles,
  pinWords,
  placesOf,
  seenOf,
  withoutPin,
  withPin,
} from './pins';

const frame = { width: 1920, height: 1080 };
const portrait = {
  format: { width: 540, height: 960 },
  pixelAspect: 1,
  fit: 'fit',
  pins: {},
} as unknown as ClipView;
const eyes = { key: 'eyes', label: 'Eyes', kind: 'point', many: true } as const,
  face = { ...eyes, key: 'face', label: 'Face', many: false },
  cue = { key: 'strike', label: 'Strike', kind: 'cue', many: false } as const;

it('a press on the frame is a place of the clip, shown where it was pressed', () => {
  const value = pinAt([0.55, 0.2], portrait, frame);
  const [at] = placesOf(eyes, { ...portrait, pins: { eyes: [value] } }, frame);
  expect(at![0]).toBeCloseTo(0.55, 4);
  expect(at![1]).toBeCloseTo(0.2, 4);
});
it('a pin of several takes one more, any other the one', () => {
  const one = { x: 0.1, y: 0.2 },
    two = { x: 0.3, y: 0.4 };
  expect(withPin(withPin({}, eyes, one), eyes, two)).toEqual({ eyes: [one, two] });
  expect(withPin(withPin({}, face, one), face, two)).toEqual({ face: [two] });
  expect(withoutPin({ eyes: [one, two], face: [one] }, 'eyes', 0)).toEqual({
    eyes: [two],
    face: [one],
  });
  expect(withoutPin({ eyes: [one, two] }, 'eyes')).toEqual({});
});
it('what is set is said in words, and what is wrong too', () => {
  expect([pinWords(cue, {}), pinWords(eyes, {})]).toEqual([
    'not set: the middle',
    'not set: the centre',
  ]);
  expect([
    pinWords(cue, { strike: [{ frame: 12 }] }),
    pinWords(eyes, { eyes: [{ x: 0.254, y: 0.4 }] }),
  ]).toEqual(['frame 12', '25 40 %']);
  const second = { key: 'second', label: 'Second', kind: 'footage', many: false } as const,
    set = { second: [{ hash: 'abcdef12', start: 3, speed: 1 }] };
  const project = { clips: [{ hash: 'abcdef12', name: 'kelp' } as ClipView], plates: [] };
  expect([pinWords(second, set), pinWords(second, set, project)]).toEqual([
    'from frame 3',
    'kelp from frame 3',
  ]);
  const look = edit.addPin(edit.addPin(emptyLook('Asks'), eyes), cue);
  const high = { ...portrait, fit: 'fill', pins: { eyes: [{ x: 0.5, y: 0.02 }] } } as ClipView;
  expect(pinTroubles(look, high, frame)).toEqual([
    'Strike is not set',
    'Eyes lies outside the frame',
  ]);
});
it('places lie in the look’s own frame, where it has one', () => {
  const square = {
    ...emptyLook('Square'),
    frame: { shape: [1, 1] as [number, number], lies: 'bars' as const, rounded: 0 },
  };
  const wide = {
    ...portrait,
    format: { ...portrait.format, width: 1600, height: 900 },
    pixelAspect: 1,
    fit: 'fill',
  } as ClipView;
  const seen = seenOf({ width: 1600, height: 900 }, square);
  // The middle of the square's left edge is not the clip's: a quarter of the frame is bar, and the
  // clip is cropped.
  const value = pinAt([350 / 1600, 0.5], wide, seen) as { x: number; y: number };
  expect(value.x).toBeCloseTo(350 / 1600, 4);
  const [at] = placesOf(eyes, { ...wide, pins: { eyes: [value] } }, seen);
  const shown = placeInTarget(at as Point, seen.framed);
  expect(shown.map((v) => Number(v.toFixed(4)))).toEqual([Number((350 / 1600).toFixed(4)), 0.5]);
  // The whole clip fitted is smaller, so the same place of the square is at its edge.
  expect((pinAt([350 / 1600, 0.5], { ...wide, fit: 'fit' }, seen) as { x: number }).x).toBeCloseTo(
    0,
    4,
  );
});

describe('plates for many clips', () => {
  const pin: PinAsk = { key: 'view', label: 'View', kind: 'footage', many: false };
  const clip = (hash: string, pins: ClipPins = {}) => ({ hash, pins }) as ClipView;
  const given = (all: ReturnType<typeof dealtOut>) =>
    all.map(({ pins }) => (pins['view']![0] as { hash: string }).hash);

  it('are one for all, but for the clip that it is', () => {
    const clips = [clip('a'), clip('sea'), clip('b')];
    expect(given(dealtOut(pin, clips, ['sea']))).toEqual(['sea', 'sea']);
  });
  it('are dealt out in turn, none twice in a row, whatever clips they are themselves', () => {
    const clips = ['a', 'b', 'c', 'd', 'e', 'f'].map((h) => clip(h));
    expect(given(dealtOut(pin, clips, ['x', 'y', 'z']))).toEqual(['x', 'y', 'z', 'x', 'y', 'z']);
    fc.assert(
      fc.property(
        fc.array(fc.constantFrom('a', 'b', 'x', 'y', 'z'), { minLength: 1, maxLength: 12 }),
        (hashes) => {
          const dealt = given(
            dealtOut(
              pin,
              hashes.map((h) => clip(h)),
              ['x', 'y', 'z'],
            ),
          );
          expect(dealt).toHaveLength(hashes.length);
          dealt.forEach((h, i) => {
            expect(h).not.toBe(hashes[i]);
            expect(h).not.toBe(dealt[i - 1]);
          });
        },
      ),
    );
  });
  it('keep the start, speed and framing that a clip has said', () => {
    const said = { hash: 'old', start: 12, speed: 0.5, fit: 'fill' as const };
    const [one] = dealtOut(pin, [clip('a', { view: [said] })], ['new']);
    expect(one!.pins['view']).toEqual([{ ...said, hash: 'new' }]);
    const same = alike(pin, [clip('a'), clip('old')], said);
    expect(same.map(({ clip: c, pins }) => [c.hash, pins['view']])).toEqual([['a', [said]]]);
  });
});

describe('clicks on a picture', () => {
  const ASPECT = 16 / 9;
  it('make a point at once, a line and an oval with two, an outline when it closes', () => {
    expect(clickedPlace('point', [[0.2, 0.3]], ASPECT)).toEqual([0.2, 0.3]);
    expect(clickedPlace('line', [[0.2, 0.3]], ASPECT)).toBeUndefined();
    expect(
      clickedPlace(
        'line',
        [
          [0.2, 0.3],
          [0.8, 0.4],
        ],
        ASPECT,
      ),
    ).toEqual([0.2, 0.3, 0.8, 0.4]);
    const corners: Point[] = [
      [0.2, 0.2],
      [0.8, 0.2],
      [0.5, 0.8],
    ];
    expect(clickedPlace('outline', corners, ASPECT)).toBeUndefined();
    const closed = clickedPlace('outline', [...corners, [0.205, 0.205]], ASPECT);
    expect(closed).toEqual(corners.map(([x, y]) => [x, y, 0, 0, 0, 0]));
  });
  it('make an oval as wide and high as they reach, and a circle straight beside', () => {
    const oval = (x: number, y: number) =>
      clickedPlace(
        'oval',
        [
          [0.5, 0.5],
          [x, y],
        ],
        ASPECT,
      );
    expect(oval(0.6, 0.7)).toEqual([0.5, 0.5, 192, 216, 0]);
    expect(oval(0.6, 0.5)).toEqual([0.5, 0.5, 192, 192, 0]);
  });
  it('are kept by the clip, and shown where it lies', () => {
    const pin: PinAsk = { key: 'face', label: 'Face', kind: 'oval', many: false };
    const seen = seenOf(frame, null);
    const kept = keptAs([0.5, 0.5, 108, 216, 0], portrait as ClipView, seen);
    const [shown] = placesOf(pin, { ...portrait, pins: { face: [kept] } } as ClipView, seen);
    expect((shown as readonly number[]).map((v) => Math.round(v * 100) / 100)).toEqual([
      0.5, 0.5, 108, 216, 0,
    ]);
    expect(pinWords(pin, { face: [kept] })).toMatch(/^50 50 %, 20 by 40 % large$/);
    expect(pinWords(pin, {})).toBe('not set: in the centre');
  });
});
