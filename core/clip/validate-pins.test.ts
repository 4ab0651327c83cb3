/** Values of every kind of pin, at their bounds and beyond. */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { isPinValue } from '.';

const HASH = 'a'.repeat(64);
const footage = { hash: HASH, start: 12, speed: 1 };
const balance = {
  slope: [1, 1, 1],
  offset: [0, 0, 0],
  power: [1, 1, 1],
  saturation: 1,
};

describe('a pin', () => {
  it.each([
    ['a frame', { frame: 0 }],
    ['a later frame', { frame: 1_000_000 }],
    ['a place', { x: 0.5, y: 0.25 }],
    ['a place beside the picture', { x: -4, y: 5 }],
    ['a line', { x: 0, y: 0, x2: 1, y2: 1 }],
    ['footage', footage],
    ['footage from before its first frame', { ...footage, start: -40 }],
    ['footage at the greatest speed', { ...footage, speed: 64 }],
    ['footage that holds', { ...footage, beyond: 'hold' }],
    ['footage counted from the clip’s end', { ...footage, at: 'end' }],
    ['footage counted from a cue', { ...footage, at: { cue: 'strike' } }],
    ['footage balanced', { ...footage, balance }],
    ['footage balanced in log', { ...footage, balance: { ...balance, on: 'acescct', hold: true } }],
    ['footage that fills', { ...footage, fit: 'fill' }],
    ['footage that lies closer', { ...footage, reframe: { x: 0.5, y: 0.5, closer: 140 } }],
  ])('may be %s', (_, value) => {
    expect(isPinValue(value)).toBe(true);
  });

  it.each([
    ['nothing', null],
    ['a number', 12],
    ['a list', [0.5, 0.5]],
    ['empty', {}],
    ['a frame before the first', { frame: -1 }],
    ['between two frames', { frame: 1.5 }],
    ['a frame in words', { frame: '3' }],
    ['a frame and a place', { frame: 3, x: 0.5, y: 0.5 }],
    ['half a place', { x: 0.5 }],
    ['a place far away', { x: 5.1, y: 0.5 }],
    ['a place that is no number', { x: Number.NaN, y: 0.5 }],
    ['half a line', { x: 0, y: 0, x2: 1 }],
    ['footage without a speed', { hash: HASH, start: 0 }],
    ['footage that stands still', { ...footage, speed: 0 }],
    ['footage beyond all speed', { ...footage, speed: 65 }],
    ['footage from between two frames', { ...footage, start: 0.5 }],
    ['footage named by a path', { ...footage, hash: '../../secret' }],
    ['footage that does something else at its end', { ...footage, beyond: 'explode' }],
    ['footage counted from nowhere', { ...footage, at: 'middle' }],
    ['footage counted from a cue without a name', { ...footage, at: { cue: 3 } }],
    ['footage with more to say', { ...footage, colour: 'red' }],
    ['footage with half a balance', { ...footage, balance: { slope: [1, 1, 1] } }],
    ['footage with a balance of more', { ...footage, balance: { ...balance, gamma: 1 } }],
    ['footage with no light left', { ...footage, balance: { ...balance, power: [0, 1, 1] } }],
    ['footage balanced in no space', { ...footage, balance: { ...balance, on: 'elsewhere' } }],
    ['footage that lies in its own way', { ...footage, fit: 'crop' }],
    ['footage too close', { ...footage, reframe: { x: 0.5, y: 0.5, closer: 1001 } }],
  ])('is not %s', (_, value) => {
    expect(isPinValue(value)).toBe(false);
  });

  it('is never anything that throws, whatever comes in', () => {
    fc.assert(
      fc.property(fc.anything(), (value) => {
        expect(typeof isPinValue(value)).toBe('boolean');
      }),
    );
  });

  it('is any place within reach of the picture, and none outside', () => {
    fc.assert(
      fc.property(fc.double({ noNaN: true }), fc.double({ noNaN: true }), (x, y) => {
        expect(isPinValue({ x, y })).toBe([x, y].every((v) => v >= -4 && v <= 5));
      }),
    );
  });
});
