import { describe, expect, it } from 'vitest';
import { randomFrom } from '../testing';
import {
  between,
  motionOfFrames,
  packedSize,
  settled,
  packPair,
  type Pair,
  tracked,
  unpackPair,
} from '.';
import type { Luma } from './luma';

/** An endless texture: a few waves in random directions, which can be read exactly at any place. */
function texture(seed: number): (x: number, y: number) => number {
  const random = randomFrom(seed);
  const waves = Array.from({ length: 24 }, () => {
    const [angle, length] = [random() * 7, 5 + 40 * random()];
    return {
      x: Math.cos(angle) / length,
      y: Math.sin(angle) / length,
      phase: random() * 7,
      height: 4 + 8 * random(),
    };
  });
  return (x, y) =>
    128 + waves.reduce((s, w) => s + w.height * Math.sin(6.283 * (w.x * x + w.y * y) + w.phase), 0);
}
const drawn = (width: number, height: number, f: (x: number, y: number) => number): Luma => ({
  width,
  height,
  data: Float32Array.from({ length: width * height }, (_, o) =>
    f(o % width, Math.floor(o / width)),
  ),
});
const share = (errors: number[], p: number): number =>
  errors.sort((a, b) => a - b)[Math.floor(errors.length * p)]!;
const W = 160,
  H = 96;

/** Still ground with a square on it that moves right and down. */
const ground = texture(3),
  square = texture(8);
const SIDE = 40,
  [MX, MY] = [12.5, 2.25];
const scene = (t: number) => {
  const [sx, sy] = [50 + MX * t, 30 + MY * t];
  return drawn(W, H, (x, y) =>
    x >= sx && x < sx + SIDE && y >= sy && y < sy + SIDE ? square(x - sx, y - sy) : ground(x, y),
  );
};
const squares = (): Pair => motionOfFrames(tracked(scene(0)), tracked(scene(1)));

describe('motion between two pictures', () => {
  it.each([
    [0.4, -0.3],
    [3.3, 1.7],
    [-14.5, 8.25],
  ])('finds a shift by %f and %f pixels', (dx, dy) => {
    const f = texture(5);
    const { forward } = motionOfFrames(
      tracked(drawn(W, H, f)),
      tracked(drawn(W, H, (x, y) => f(x - dx, y - dy))),
    );
    const errors: number[] = [];
    for (let y = 16; y < H - 16; y++)
      for (let x = 20; x < W - 20; x++)
        errors.push(Math.hypot(forward.u[y * W + x]! - dx, forward.v[y * W + x]! - dy));
    expect(share(errors, 0.5)).toBeLessThan(0.06);
    expect(share(errors, 0.95)).toBeLessThan(0.3);
  });

  it('is the same under another brightness', () => {
    const f = texture(5);
    const { forward } = motionOfFrames(
      tracked(drawn(W, H, f)),
      tracked(drawn(W, H, (x, y) => f(x - 4, y) + 9)),
    );
    const inside = Array.from(forward.u).filter((_, o) => o % W > 24 && o % W < W - 24);
    expect(share(inside, 0.5)).toBeCloseTo(4, 1);
  });

  it('tells what moves from what stands still, and doubts what is hidden in the other', () => {
    const { forward, doubtFirst } = squares();
    const at = (x: number, y: number) => y * W + x;
    expect(forward.u[at(70, 50)]).toBeCloseTo(MX, 0);
    expect(forward.v[at(70, 50)]).toBeCloseTo(MY, 0);
    expect(Math.abs(forward.u[at(20, 20)]!)).toBeLessThan(0.1);
    expect(doubtFirst[at(20, 20)]).toBeLessThan(0.2);
    expect(doubtFirst[at(70, 50)]).toBeLessThan(0.2);
    // Ground that the square is about to cover.
    const covered = Array.from({ length: 20 }, (_, i) => doubtFirst[at(96, 42 + i)]!);
    expect(Math.min(...covered)).toBeGreaterThan(0.4);
  });

  it('says nothing of a flash', () => {
    const dark = drawn(W, H, ground),
      bright = drawn(W, H, (x, y) => ground(x, y) + 60);
    expect(Math.min(...motionOfFrames(tracked(dark), tracked(bright)).doubtFirst)).toBeGreaterThan(
      0.9,
    );
  });

  it('is bit for bit the same again', () => {
    expect(packPair(squares())).toEqual(packPair(squares()));
  });

  it.each([
    [1, 1],
    [7, 3],
    [33, 20],
  ])('takes pictures of %i×%i', (w, h) => {
    const { forward } = motionOfFrames(tracked(drawn(w, h, ground)), tracked(drawn(w, h, ground)));
    expect(forward.u.every((v) => Number.isFinite(v) && Math.abs(v) < 1)).toBe(true);
  });
});

describe('a picture between two', () => {
  it('has what moves on its way, what stands still where it is, and takes what is hidden from where it is seen', () => {
    const made = between(squares(), 0.5);
    const middle = 58 + Math.round(MX / 2),
      o = 50 * W + middle;
    expect(made.u[o]).toBeCloseTo(MX, 0);
    expect(Math.abs(made.u[20 * W + 20]!)).toBeLessThan(0.2);
    expect(made.second[20 * W + 20]).toBeCloseTo(0.5, 1);
    // Ground the square has just left is seen only in the second frame, ground it will cover only
    // in the first.
    expect(made.second[52 * W + 54]).toBeGreaterThan(0.6);
    expect(made.second[52 * W + 99]).toBeLessThan(0.4);
  });

  it('mixes evenly where light flashes', () => {
    const pair = motionOfFrames(
      tracked(drawn(W, H, ground)),
      tracked(drawn(W, H, (x, y) => ground(x - 3, y) + 60)),
    );
    const { second, sure } = between(pair, 0.25);
    expect(Math.max(...sure)).toBeLessThan(0.1);
    second.forEach((s) => expect(s).toBeCloseTo(0.25, 1));
  });
});

describe('packed motion', () => {
  it('comes back within half a sixteenth of a pixel, doubts within a thirtieth', () => {
    const pair = squares(),
      back = unpackPair(packPair(pair));
    const off = (a: Float32Array, b: Float32Array) =>
      a.reduce((m, v, i) => Math.max(m, Math.abs(v - b[i]!)), 0);
    expect(off(pair.forward.u, back.forward.u)).toBeLessThanOrEqual(1 / 32);
    expect(off(pair.backward.v, back.backward.v)).toBeLessThanOrEqual(1 / 32);
    expect(off(pair.doubtSecond, back.doubtSecond)).toBeLessThanOrEqual(1 / 30 + 1e-6);
    expect(packPair(back)).toEqual(packPair(pair));
    // The pair just measured is handed over as it will be read from disk.
    expect(settled(pair)).toEqual(back);
  });

  it('says what it is given that is none, or cut short', () => {
    const bytes = packPair(squares());
    expect(packedSize(bytes)).toEqual({ width: W, height: H });
    expect(() => unpackPair(bytes.subarray(0, bytes.length - 1))).toThrow('cut short');
    expect(() => unpackPair(new Uint8Array(40))).toThrow('no motion vectors');
    expect(() => unpackPair(new Uint8Array(3))).toThrow('no motion vectors');
  });
});
