/** Retiming: lengths, instants and cues against integrals. */
import { describe, expect, it } from 'vitest';
import { type Retime, retimeMap, isIdleRetime } from '.';

const RATE = [25, 1] as const;
const plain = (speed: number, more: Partial<Retime> = {}): Retime => ({
  places: [{ frame: 0, speed, to: 'smooth' }],
  backwards: false,
  between: 'motion',
  ...more,
});
const ramp = (from: number, to: number, frames: number): Retime => ({
  ...plain(100),
  places: [
    { frame: 40, speed: from, to: 'smooth' },
    { frame: 40 + frames, speed: to, to: 'smooth' },
  ],
});
const moments = (retime: Retime, frames: number): number[] => {
  const map = retimeMap(retime, frames, RATE);
  return Array.from({ length: map.frames }, (_, t) => map.at(t));
};

describe('a steady speed', () => {
  it('has the length it says, to the frame', () => {
    for (const [speed, frames, length] of [
      [25, 100, 400],
      [50, 77, 154],
      [200, 77, 39],
      [100, 60, 60],
      [400, 3, 1],
      [30, 100, 333],
    ] as const)
      expect(retimeMap(plain(speed), frames, RATE).frames).toBe(length);
  });
  it('shows each quarter in turn, and never goes past the last frame', () => {
    const all = moments(plain(25), 10);
    expect(all.slice(0, 9)).toEqual([0, 0.25, 0.5, 0.75, 1, 1.25, 1.5, 1.75, 2]);
    expect(all.slice(-4)).toEqual([9, 9, 9, 9]);
  });
  it('backwards begins with the last', () => {
    expect(moments(plain(100, { backwards: true }), 5)).toEqual([4, 3, 2, 1, 0]);
    expect(moments(plain(50, { backwards: true }), 3)).toEqual([2, 1.5, 1, 0.5, 0, 0]);
  });
});

describe('a ramp', () => {
  it('lasts as long as its way at the mean of its ends takes', () => {
    const retime = ramp(100, 25, 40);
    // 40 frames at 1, 40 at 0.625 on average, 120 at a quarter.
    expect(retimeMap(retime, 200, RATE).frames).toBe(40 + 64 + 480);
    // The same by summing speeds in steps of a ten-thousandth of the duration.
    let way = 0;
    for (let x = 0.00005; x < 1; x += 0.0001)
      way += 64 * 0.0001 * (1 - 0.75 * (3 * x * x - 2 * x * x * x));
    expect(way).toBeCloseTo(40, 6);
    const map = retimeMap(retime, 200, RATE);
    expect([40, 72, 104].map(map.at)).toEqual([
      40,
      Math.round(256 * (40 + 64 * (0.5 - 0.75 * 0.125 * 0.75))) / 256,
      80,
    ]);
  });
  it('starts and ends without a jerk: the second difference of the clip’s time is what the ramp itself needs', () => {
    for (const [from, to, frames] of [
      [100, 25, 40],
      [25, 100, 40],
      [100, 400, 60],
    ] as const) {
      const all = moments(ramp(from, to, frames), 200).filter((m) => m < 195);
      const first = all.slice(1).map((m, i) => m - all[i]!);
      const second = first.slice(1).map((v, i) => Math.abs(v - first[i]!));
      const lasts = (200 * frames) / (from + to);
      // A jump would give 0.75 or 3; rounding of instants adds up to 2/256.
      expect(Math.max(...second)).toBeLessThan((1.5 * Math.abs(to - from)) / 100 / lasts + 2 / 256);
      expect(first.every((v) => v >= 0)).toBe(true);
    }
  });
  it('at once changes from one frame to the next', () => {
    const retime: Retime = {
      ...plain(100),
      places: [
        { frame: 0, speed: 100, to: 'at-once' },
        { frame: 10, speed: 50, to: 'smooth' },
      ],
    };
    expect(moments(retime, 20).slice(8, 14)).toEqual([8, 9, 10, 10.5, 11, 11.5]);
  });
});

describe('standing still', () => {
  const held: Retime = {
    ...plain(100),
    places: [
      { frame: 0, speed: 100, to: 'smooth' },
      { frame: 5, speed: 100, to: 'smooth', hold: 0.4 },
    ],
  };
  it('adds just its time, on just its frame', () => {
    expect(retimeMap(held, 12, RATE).frames).toBe(22);
    expect(moments(held, 12).slice(3, 18)).toEqual([3, 4, 5, 5, 5, 5, 5, 5, 5, 5, 5, 5, 5, 6, 7]);
  });
});

describe('cues', () => {
  it('stay on their frames of the clip: where those are first reached or passed', () => {
    const slow = retimeMap(plain(25), 100, RATE);
    expect([0, 1, 48].map(slow.reached)).toEqual([0, 4, 192]);
    const fast = retimeMap(plain(300), 100, RATE);
    expect([0, 1, 3, 4].map(fast.reached)).toEqual([0, 1, 1, 2]);
    expect(retimeMap(plain(100, { backwards: true }), 100, RATE).reached(90)).toBe(9);
    const r = ramp(100, 25, 40);
    const map = retimeMap(r, 200, RATE);
    for (const f of [0, 12, 40, 41, 60, 79, 80, 81, 150, 199]) {
      const t = map.reached(f);
      expect(map.at(t)).toBeGreaterThanOrEqual(f - 1 / 256);
      if (t > 0) expect(map.at(t - 1)).toBeLessThan(f);
    }
  });
  it('at a place that stands still are reached as it begins', () => {
    const held: Retime = {
      ...plain(100),
      places: [{ frame: 5, speed: 100, to: 'smooth', hold: 0.4 }],
    };
    expect(retimeMap(held, 12, RATE).reached(5)).toBe(5);
    expect(retimeMap(held, 12, RATE).reached(6)).toBe(16);
  });
});

it('knows what leaves a clip as it is', () => {
  expect([null, plain(100), plain(99), plain(100, { backwards: true })].map(isIdleRetime)).toEqual([
    true,
    true,
    false,
    false,
  ]);
});
