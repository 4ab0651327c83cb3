import { describe, expect, it } from 'vitest';
import { frameAt, nearestRate, steady, timecode } from '.';

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

describe('steady slots', () => {
  it('keeps each frame of times rounded to milliseconds', () => {
    const times = Array.from({ length: 90 }, (_, i) => Math.round((i * 1001) / 30) / 1000);
    expect(steady(times, [30000, 1001], 0.033)).toEqual({ rate: [30000, 1001], frames: 90 });
  });
  it('measures the rate when the claimed one is wrong', () => {
    const times = Array.from({ length: 48 }, (_, i) => i / 24);
    expect(steady(times, [25, 1], 1 / 24)).toEqual({ rate: [24, 1], frames: 48 });
  });
  it("shows the latest frame at or before a slot's centre", () => {
    const even = steady([0, 0.031, 0.2, 0.247], [16, 1], 0.04);
    expect(even.rate).toEqual([24, 1]);
    expect(even.source!.every((s, i, all) => i === 0 || s >= all[i - 1]!)).toBe(true);
    expect(new Set(even.source)).toEqual(new Set([0, 1, 2, 3]));
  });
});
