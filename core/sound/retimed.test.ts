/** Sound along a retime: tones, clicks, stillness and ends. */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type Rate, type Retime, retimeMap } from '../time';
import { alongRetime, retimedSound, samplesOf } from '.';

const HZ = 48_000;
const tone = (hz: number, count: number): Float32Array =>
  Float32Array.from({ length: count }, (_, n) => Math.sin((2 * Math.PI * hz * n) / HZ));
/** Decibels of the difference of two sounds, in full scale, away from their ends. */
function apart(a: Float32Array, b: (n: number) => number, margin = 400): number {
  let sum = 0;
  for (let n = margin; n < a.length - margin; n++) sum += (a[n]! - b(n)) ** 2;
  return 10 * Math.log10(sum / (a.length - 2 * margin) + 1e-30);
}
const RATE: Rate = [25, 1];
const at = (speed: number, more: Partial<Retime> = {}): Retime => ({
  places: [{ frame: 0, speed, to: 'at-once' }],
  backwards: false,
  between: 'nearest',
  ...more,
});
/** A sound of `frames` frames under a retime, whole. */
function played(sound: Float32Array, retime: Retime, frames: number, rate = RATE): Float32Array {
  const map = retimeMap(retime, frames, rate);
  const count = samplesOf(map.frames, rate);
  return retimedSound([sound], alongRetime(map, rate), 0, count)[0]!;
}

describe('a steady tone', () => {
  it.each([50, 100, 200, 73])(
    'at %i per cent is the tone at that pitch, 85 dB above all else',
    (speed) => {
      const out = played(tone(997, 2 * HZ), at(speed), 50);
      expect(out).toHaveLength(samplesOf(Math.round((50 * 100) / speed), RATE));
      const hz = (997 * speed) / 100;
      // A cent off, the two would be 20 dB apart after a tenth of a second.
      expect(apart(out, (n) => Math.sin((2 * Math.PI * hz * n) / HZ))).toBeLessThan(-85);
    },
  );
  it('that would be higher than can be heard is left out, and not folded down', () => {
    expect(apart(played(tone(15_000, 2 * HZ), at(200), 50), () => 0)).toBeLessThan(-80);
  });
  it('backwards is itself, mirrored at the end', () => {
    const out = played(tone(440, 2 * HZ), at(100, { backwards: true }), 50);
    expect(apart(out, (n) => Math.sin((2 * Math.PI * 440 * (2 * HZ - n)) / HZ))).toBeLessThan(-85);
  });
});

it('clicks on a ramp lie where the map puts them', () => {
  const ramp = at(100, {
    places: [
      { frame: 0, speed: 50, to: 'smooth' },
      { frame: 100, speed: 200, to: 'at-once' },
    ],
  });
  const rate: Rate = [30_000, 1001];
  const frames = 150,
    sound = new Float32Array(samplesOf(frames, rate));
  const clicks = [0.5, 1.5, 2.5, 3.5].map((s) => Math.round(s * HZ));
  for (const k of clicks) sound[k] = 1;
  const map = retimeMap(ramp, frames, rate),
    out = played(sound, ramp, frames, rate);
  const perFrame = (HZ * 1001) / 30_000;
  for (const k of clicks) {
    const expected = map.when(k / perFrame) * perFrame;
    let loudest = 0;
    for (let n = 0; n < out.length; n++)
      if (Math.abs(n - expected) < HZ / 10 && Math.abs(out[n]!) > Math.abs(out[loudest]!))
        loudest = n;
    expect(Math.abs(loudest - expected)).toBeLessThanOrEqual(1);
  }
});

it('where the picture stands still it is silent, faded, and goes on afterwards', () => {
  const hold = at(100, { places: [{ frame: 25, speed: 100, to: 'at-once', hold: 1 }] });
  const out = played(tone(997, 2 * HZ), hold, 50);
  expect(out).toHaveLength(3 * HZ);
  const loudest = (from: number, to: number) =>
    out.slice(from, to).reduce((most, v) => Math.max(most, Math.abs(v)), 0);
  expect(loudest(HZ + 240, 2 * HZ - 240)).toBe(0);
  expect(loudest(0, HZ - 240)).toBeGreaterThan(0.99);
  expect(loudest(2 * HZ + 240, 3 * HZ - 400)).toBeGreaterThan(0.99);
  // Nothing jumps: a tone of 997 Hz changes by 0.13 a sample.
  for (let n = 1; n < out.length - 40; n++)
    expect(Math.abs(out[n]! - out[n - 1]!)).toBeLessThan(0.14);
});

it('is the same in any blocks', () => {
  const sound = tone(333, HZ);
  const position = alongRetime(retimeMap(at(140), 25, RATE), RATE);
  const whole = retimedSound([sound], position, 0, 3000)[0]!;
  fc.assert(
    fc.property(fc.integer({ min: 1, max: 2999 }), (split) => {
      const parts = [
        ...retimedSound([sound], position, 0, split)[0]!,
        ...retimedSound([sound], position, split, 3000 - split)[0]!,
      ];
      expect(Float32Array.from(parts)).toEqual(whole);
    }),
    { numRuns: 20 },
  );
});

it('has as many samples as its frames last, to the nearest', () => {
  expect(samplesOf(1, [30_000, 1001])).toBe(1602);
  expect(samplesOf(30_000, [30_000, 1001])).toBe(1001 * HZ);
  expect(samplesOf(75, [25, 1])).toBe(144_000);
});
