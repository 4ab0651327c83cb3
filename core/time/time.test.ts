import { describe, expect, it } from 'vitest';
import {
  frameAt,
  framesPerSecond,
  nearestRate,
  rateLabel,
  sameRate,
  startOf,
  steady,
  timecode,
} from '.';
import { randomFrom } from '../testing';
import { COMMON } from './rate';

describe('rates', () => {
  it('finds the common rate near a measured one', () => {
    expect(nearestRate(29.97)).toEqual([30000, 1001]);
    expect(nearestRate(23.98)).toEqual([24000, 1001]);
    expect(nearestRate(25.001)).toEqual([25, 1]);
    expect(nearestRate(16.666)).toEqual([16666, 1000]);
  });
  it('rounds halves up', () => {
    expect(frameAt(0.5, [1, 1])).toBe(1);
    expect(frameAt(0.02, [25, 1])).toBe(1);
  });
  it('counts frames within the second', () => {
    expect(timecode(61, [25, 1])).toBe('00:02:11');
    expect(timecode(30, [30000, 1001])).toBe('00:01:00');
  });
});

describe.each(COMMON.map((r) => [rateLabel(r), r] as const))('at %s frames a second', (_, rate) => {
  it('a frame is found again from the instant at which it begins, and from anywhere within half a frame of it', () => {
    for (const f of [0, 1, 2, 23, 999, 17_981, 107_892, 2_589_407]) {
      expect(frameAt(startOf(f, rate), rate)).toBe(f);
      for (const off of [-0.49, 0.49]) expect(frameAt(startOf(f + off, rate), rate)).toBe(f);
    }
  });
  it('is found from a measurement that is a little off', () => {
    for (const off of [-0.0004, 0, 0.0004])
      expect(sameRate(nearestRate(framesPerSecond(rate) * (1 + off)), rate)).toBe(true);
  });
  it('timecode counts every frame once, in order', () => {
    const whole = Math.ceil(framesPerSecond(rate));
    for (const f of [0, 1, whole - 1, whole, 60 * whole - 1, 60 * whole, 12_345]) {
      const [minutes, seconds, frames] = timecode(f, rate).split(':').map(Number) as [
        number,
        number,
        number,
      ];
      expect((minutes * 60 + seconds) * whole + frames).toBe(f);
      expect(seconds).toBeLessThan(60);
      expect(frames).toBeLessThan(whole);
    }
  });
  it('times that shake by less than a third of a frame keep each frame', () => {
    const random = randomFrom(rate[0]);
    const times = Array.from({ length: 60 }, (_, i) =>
      i === 0 ? 0 : startOf(i + (random() - 0.5) * 0.6, rate),
    );
    times[59] = startOf(59, rate);
    expect(steady(times, rate, 1 / framesPerSecond(rate))).toEqual({ rate, frames: 60 });
  });
});

describe('steady slots', () => {
  it('holds the frame before where frames are missing from an even spacing', () => {
    const there = [0, 1, 2, 5, 6, 9, 10, 11];
    const { rate, frames, source } = steady(
      there.map((i) => i / 25),
      [25, 1],
      1 / 25,
    );
    expect([rate, frames]).toEqual([[25, 1], 12]);
    expect(source!.map((s) => there[s])).toEqual([0, 1, 2, 2, 2, 5, 6, 6, 6, 9, 10, 11]);
  });
  it('holds the frame before where every fifth is missing, though the rest are nearly even', () => {
    const there = Array.from({ length: 25 }, (_, i) => i).filter((i) => i % 5 !== 2);
    const { rate, frames, source } = steady(
      there.map((i) => i / 25),
      [25, 1],
      1 / 25,
    );
    expect([rate, frames]).toEqual([[25, 1], 25]);
    expect(source!.slice(0, 6).map((s) => there[s])).toEqual([0, 1, 1, 3, 4, 5]);
  });
  it('of any times shows every slot the latest frame at its centre, and lasts as long as they do', () => {
    for (let seed = 1; seed <= 40; seed++) {
      const random = randomFrom(seed * 97);
      const times = [0];
      for (let i = 1; i < 30; i++) times.push(times[i - 1]! + 0.005 + random() * 0.11);
      const last = 0.03;
      const { rate, frames, source } = steady(times, [25, 1], last);
      if (!source) continue;
      const fps = framesPerSecond(rate);
      expect(source).toHaveLength(frames);
      expect(Math.abs(frames / fps - (times.at(-1)! + last))).toBeLessThanOrEqual(0.5 / fps + 1e-9);
      source.forEach((shown, k) => {
        const centre = (k + 0.5) / fps;
        const latest = times.filter((t) => t <= centre).length - 1;
        expect(shown).toBe(Math.max(0, latest));
      });
    }
  });
  it('is one frame where there is one, at the rate that was claimed', () => {
    expect(steady([0], [25, 1], 0)).toEqual({ rate: [25, 1], frames: 1 });
  });
  it('keeps each frame of times rounded to milliseconds', () => {
    const times = Array.from({ length: 90 }, (_, i) => Math.round((i * 1001) / 30) / 1000);
    expect(steady(times, [30000, 1001], 0.033)).toEqual({ rate: [30000, 1001], frames: 90 });
  });
  it('measures the rate when the claimed one is wrong', () => {
    const times = Array.from({ length: 48 }, (_, i) => i / 24);
    expect(steady(times, [25, 1], 1 / 24)).toEqual({ rate: [24, 1], frames: 48 });
  });
  it('keeps each frame of 25 a second that shake by 14 ms, whatever rate their average claims', () => {
    for (const n of [25, 250]) {
      const at = (i: number) => i / 25 + 0.014 * Math.sin(i * 1.7);
      const times = Array.from({ length: n }, (_, i) => at(i));
      const average = nearestRate((n - 1) / times[n - 1]!);
      for (const claimed of [average, [25, 1] as const])
        expect(steady(times, claimed, 0.04)).toEqual({ rate: [25, 1], frames: n });
    }
  });
  it("shows the latest frame at or before a slot's centre", () => {
    const even = steady([0, 0.031, 0.2, 0.247], [16, 1], 0.04);
    expect(even.rate).toEqual([24, 1]);
    expect(even.source!.every((s, i, all) => i === 0 || s >= all[i - 1]!)).toBe(true);
    expect(new Set(even.source)).toEqual(new Set([0, 1, 2, 3]));
  });
});
