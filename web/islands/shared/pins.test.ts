import { expect, it } from 'vitest';
import { edit, emptyLook } from '../../../core';
import type { ClipView } from '../../api/views';
import { pinAt, pinTroubles, pinWords, placesOf, withoutPin, withPin } from './pins';

const frame = { width: 1920, height: 1080 };
const portrait = { format: { width: 540, height: 960 }, pixelAspect: 1, fit: 'fit', pins: {} } as unknown as ClipView;
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
  expect(withoutPin({ eyes: [one, two], face: [one] }, 'eyes', 0)).toEqual({ eyes: [two], face: [one] });
  expect(withoutPin({ eyes: [one, two] }, 'eyes')).toEqual({});
});
it('what is set is said in words, and what is wrong too', () => {
  expect([pinWords(cue, {}), pinWords(eyes, {})]).toEqual(['not set: the middle', 'not set: the centre']);
  expect([pinWords(cue, { strike: [{ frame: 12 }] }), pinWords(eyes, { eyes: [{ x: 0.254, y: 0.4 }] })]).toEqual(['frame 12', '25 40 %']);
  const look = edit.addPin(edit.addPin(emptyLook('Asks'), eyes), cue);
  const high = { ...portrait, fit: 'fill', pins: { eyes: [{ x: 0.5, y: 0.02 }] } } as ClipView;
  expect(pinTroubles(look, high, frame)).toEqual(['Strike is not set', 'Eyes lies outside the frame']);
});
