/** Movers that are longer than the clip: cut off, compressed, or started earlier. */
import { describe, expect, it } from 'vitest';
import {
  edit,
  emptyLook,
  evaluationAt,
  type LookDocument,
  moverExcess,
  OPACITY,
  readLook,
} from '../look';
import type { ClipTime, Fitting } from '.';

const clip = (frames: number): ClipTime => ({ frames, rate: [25, 1], cues: { hit: [30] } });
/** A rise over two seconds that starts at the cue. */
const rise = (fits?: Fitting): LookDocument => {
  const layered = edit.addLayer(
    { ...emptyLook('Rise'), pins: [{ key: 'hit', label: 'Hit', kind: 'cue', many: false }] },
    edit.newLayer('Top', 'clip', []),
  );
  const moved = edit.setInstants(edit.addMover(layered, 'ramp', 'top/opacity'), 'ramp', 'from', [
    { from: 'cue', cue: 'hit' },
  ]);
  const set = edit.setMoverParameter(
    edit.setMoverParameter(moved, 'ramp', 'over', { value: 2 }),
    'ramp',
    'ease',
    { value: 'linear' },
  );
  return fits ? edit.changeMover(set, 'ramp', { fits }) : set;
};
const at = (look: LookDocument, frame: number, frames: number): number =>
  evaluationAt(look, {}, { ...clip(frames), frame, content: 'c', aspect: 1.8 }).moved(
    'top/opacity',
    OPACITY,
    100,
  ) as number;

describe('a mover and the end of its clip', () => {
  it('says by how many frames it is too long', () => {
    expect(moverExcess(rise(), rise().movers![0]!, clip(100))).toBe(0);
    expect(moverExcess(rise(), rise().movers![0]!, clip(81))).toBe(0);
    expect(moverExcess(rise(), rise().movers![0]!, clip(56))).toBe(25);
    expect(moverExcess(rise(), { ...rise().movers![0]!, kind: 'wave' }, clip(56))).toBe(0);
  });
  it('is the same on a clip that is long enough, whatever is chosen', () => {
    for (const fits of ['cut', 'compressed', 'earlier'] as const) {
      expect(readLook(rise(fits))).toHaveProperty('look');
      for (const f of [0, 29, 30, 55, 80, 99])
        expect(at(rise(fits), f, 100)).toBe(at(rise(), f, 100));
    }
    expect(at(rise(), 55, 100)).toBeCloseTo(50, 6);
  });
  it('is cut short, all the way by the last frame, or begun earlier', () => {
    // 26 of the 50 frames it takes are left.
    expect([29, 30, 55].map((f) => at(rise(), f, 56))).toEqual([0, 0, expect.closeTo(50, 6)]);
    expect([29, 30, 55].map((f) => at(rise('compressed'), f, 56))).toEqual([
      0,
      0,
      expect.closeTo(100, 6),
    ]);
    expect([4, 5, 30, 55].map((f) => at(rise('earlier'), f, 56))).toEqual([
      0,
      0,
      expect.closeTo(50, 6),
      expect.closeTo(100, 6),
    ]);
    // A clip shorter than the rise: it starts on the first frame.
    expect([0, 20, 40].map((f) => at(rise('earlier'), f, 41))).toEqual([
      0,
      expect.closeTo(40, 6),
      expect.closeTo(80, 6),
    ]);
  });
  it('refuses a word it does not know', () => {
    expect(JSON.stringify(readLook(rise('stretched' as Fitting)))).toContain('fits');
  });
});

/** Keys on the cue, ten and fifty frames after it: 0, 100, 0. */
const keyed = (fits?: Fitting): LookDocument => {
  const layered = edit.addLayer(
    { ...emptyLook('Keys'), pins: [{ key: 'hit', label: 'Hit', kind: 'cue', many: false }] },
    edit.newLayer('Top', 'clip', []),
  );
  const keys = (
    [
      [0, 0],
      [10, 100],
      [50, 0],
    ] as const
  ).map(([offset, value]) => ({
    at: {
      from: 'cue' as const,
      cue: 'hit',
      offset: { value: offset },
      unit: 'clip-frames' as const,
    },
    value,
  }));
  return edit.changeMover(edit.addMover(layered, 'keys', 'top/opacity'), 'keys', {
    keys,
    ...(fits && { fits }),
  });
};

describe('keys and the end of their clip', () => {
  it('says by how many frames they go on beyond it', () => {
    const mover = keyed().movers![0]!;
    expect([100, 81, 56].map((frames) => moverExcess(keyed(), mover, clip(frames)))).toEqual([
      0, 0, 25,
    ]);
    // The clip ends before the first key.
    expect(moverExcess(keyed(), mover, clip(20))).toBe(0);
  });
  it('is a look that can be read, and the same on a clip that is long enough', () => {
    for (const fits of ['cut', 'compressed', 'earlier'] as const) {
      expect(readLook(keyed(fits))).toHaveProperty('look');
      for (const f of [0, 30, 37, 40, 60, 80, 99])
        expect(at(keyed(fits), f, 100)).toBe(at(keyed(), f, 100));
    }
  });
  it('cuts them short, has them all by the last frame, or brings them forward', () => {
    // 25 of the 50 frames are left, so the keys come at 30, 35 and 55 instead of 30, 40 and 80.
    expect([30, 40, 55].map((f) => at(keyed(), f, 56))).toEqual([0, 100, expect.closeTo(62.5, 6)]);
    expect([30, 35, 45, 55].map((f) => at(keyed('compressed'), f, 56))).toEqual([
      0,
      100,
      expect.closeTo(50, 6),
      expect.closeTo(0, 6),
    ]);
    expect([4, 5, 15, 55].map((f) => at(keyed('earlier'), f, 56))).toEqual([
      0,
      0,
      100,
      expect.closeTo(0, 6),
    ]);
    // They start on the first frame at the earliest.
    expect([0, 10, 40].map((f) => at(keyed('earlier'), f, 41))).toEqual([
      0,
      100,
      expect.closeTo(25, 6),
    ]);
  });
});
