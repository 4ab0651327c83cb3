import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { barAt, BEATS_FOUND, beatsAs, countedBy, joinedBeats } from '.';

const steady = (every: number, until: number, from = 0): number[] =>
  Array.from({ length: Math.ceil((until - from) / every) }, (_, i) => from + i * every);
/** Stretches of 12 seconds, one every 6, each with the beats that lie in it. */
const inStretches = (beatsOf: (i: number) => readonly number[]) =>
  [0, 6, 12, 18].map((from, i) => ({
    from,
    to: from + 12,
    beats: beatsOf(i).filter((b) => b >= from && b < from + 12),
  }));
const close = (a: readonly number[], b: readonly number[]) => {
  expect(a.length).toBe(b.length);
  a.forEach((v, i) => expect(v).toBeCloseTo(b[i]!, 6));
};

describe('beats of overlapping stretches', () => {
  it('are one row where all agree', () => {
    const all = steady(0.5, 30, 0.1);
    close(joinedBeats(inStretches(() => all)), all);
  });
  it('are counted as those before are, where a stretch is counted at half or double', () => {
    const all = steady(0.6, 30, 0.1);
    const double = steady(0.3, 30, 0.1);
    close(joinedBeats(inStretches((i) => (i === 1 ? double : all))), all);
    // Off by half a beat, too: it is the other half that counts.
    close(joinedBeats(inStretches((i) => (i === 2 ? double.slice(1) : all))), all);
    const half = all.filter((_, i) => i % 2 === 0);
    const joined = joinedBeats(inStretches((i) => (i === 2 ? half : all)));
    expect(joined.length).toBeGreaterThanOrEqual(all.length - 1);
    joined.forEach((b) => expect(Math.min(...all.map((a) => Math.abs(a - b)))).toBeLessThan(1e-6));
  });
  it('follow a tempo that changes', () => {
    const all = [...steady(0.6, 14), ...steady(0.5, 30, 14.4)];
    close(joinedBeats(inStretches(() => all)), all);
  });
  it('are none of none', () => {
    expect(joinedBeats([])).toEqual([]);
    expect(joinedBeats([{ from: 0, to: 12, beats: [] }])).toEqual([]);
  });
});

describe('what a person says of beats', () => {
  const found = steady(0.3, 12, 0.05);
  it('as they were found: four to the bar, and how many a minute', () => {
    const { beats, bars, tempo } = beatsAs(found, BEATS_FOUND);
    expect(beats).toEqual(found);
    expect(bars).toEqual(found.filter((_, i) => i % 4 === 0));
    expect(tempo).toBeCloseTo(200, 6);
    expect(beatsAs([], BEATS_FOUND)).toEqual({ beats: [], bars: [], tempo: 0 });
  });
  it('half and double keep the beat on which the bar began', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 11 }),
        fc.integer({ min: 2, max: 12 }),
        fc.constantFrom('half' as const, 'double' as const, 'each' as const),
        (nth, bar, counted) => {
          const said = barAt(found, { ...BEATS_FOUND, bar }, found[nth]!);
          const [first] = beatsAs(found, said).bars;
          const after = beatsAs(found, countedBy(found, said, counted));
          expect(after.bars.some((b) => Math.abs(b - first!) < 1e-9)).toBe(true);
          expect(after.tempo).toBeCloseTo({ half: 100, each: 200, double: 400 }[counted], 6);
        },
      ),
    );
  });
  it('a bar begins at the beat nearest to a moment', () => {
    const said = barAt(found, BEATS_FOUND, found[6]! + 0.1);
    expect(said.begins).toBe(2);
    expect(beatsAs(found, said).bars).toContain(found[6]);
    expect(beatsAs(found, said).bars).not.toContain(found[4]);
  });
});
