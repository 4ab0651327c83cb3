import { describe, expect, it } from 'vitest';
import { MARKED, type Track, type TrackPlace } from './track';
import { smoothed } from './smooth';

const line = (f: number): readonly [number, number] => [0.2 + 0.005 * f, 0.7 - 0.003 * f];
const track = (places: readonly (TrackPlace | null)[]): Track => ({ places });
const trembling = (f: number): TrackPlace => {
  const [x, y] = line(f);
  return [x + 0.001 * (f % 2 === 0 ? 1 : -1), y, 1];
};
const all = <T>(n: number, of: (f: number) => T): T[] => Array.from({ length: n }, (_, f) => of(f));

describe('a smoothed track', () => {
  it('stays where it moves steadily', () => {
    const steady = track(all(30, (f) => [...line(f), 1]));
    smoothed(steady, 6, []).places.forEach((p, f) => {
      expect(p![0]).toBeCloseTo(line(f)[0], 5);
      expect(p![1]).toBeCloseTo(line(f)[1], 5);
      expect(p![2]).toBe(1);
    });
  });
  it('no longer trembles, but for its ends', () => {
    const { places } = smoothed(track(all(40, trembling)), 6, []);
    places
      .slice(6, -6)
      .forEach((p, i) => expect(Math.abs(p![0]! - line(i + 6)[0])).toBeLessThan(5e-5));
    expect(places[0]).toEqual(trembling(0));
  });
  it('keeps marks, what is lost, and how sure it is', () => {
    const given = all(40, (f): TrackPlace | null =>
      f === 20
        ? null
        : f === 10
          ? [0.9, 0.9, MARKED]
          : [...trembling(f).slice(0, 2), f > 30 ? 0.5 : 1],
    );
    const { places } = smoothed(track(given), 8, []);
    expect(places[10]).toEqual([0.9, 0.9, MARKED]);
    expect(places[20]).toBeNull();
    expect(places.map((p) => p?.at(-1))).toEqual(given.map((p) => p?.at(-1)));
    // Nothing reaches over a mark or over what is lost.
    const other = given.map((p, f) => (p && f > 20 ? [0, 0, p[2]!] : p));
    expect(smoothed(track(other), 8, []).places.slice(0, 20)).toEqual(places.slice(0, 20));
    const before = given.map((p, f) => (p && f < 10 ? [0, 0, p[2]!] : p));
    expect(smoothed(track(before), 8, []).places.slice(11)).toEqual(places.slice(11));
  });
  it('does not reach over a cut', () => {
    const given = all(40, trembling);
    const other = given.map((p, f) => (f >= 15 ? [0, 0, 1] : p));
    const [a, b] = [given, other].map((p) => smoothed(track(p), 8, [15]).places.slice(0, 15));
    expect(a).toEqual(b);
  });
  it('is itself over no frames, and where kinds of outlines change', () => {
    const given = track(all(9, trembling));
    expect(smoothed(given, 0, [])).toBe(given);
    const nodes = track([
      [0, 0, 1],
      [0, 0, 1],
      [0, 0, 1, 1, 1],
      [0, 0, 1, 1, 1],
    ]);
    expect(smoothed(nodes, 4, [])).toEqual(nodes);
  });
});
