/** Edits of several keys at once: move, spread, mirror, copy and paste. */
import { describe, expect, it } from 'vitest';
import type { ClipTime } from '../time';
import { edit, emptyLook, evaluationAt, type LookDocument, OPACITY, readLook } from '.';

const TIME: ClipTime = { frames: 100, rate: [25, 1], cues: { hit: [40] } };
/** Keys on the opacity of a layer: 0 at 10, 100 at 20, 40 at 40 (counted from the cue). */
const base = ((): LookDocument => {
  const layered = edit.addLayer(
    { ...emptyLook('Keys'), pins: [{ key: 'hit', label: 'Hit', kind: 'cue', many: false }] },
    edit.newLayer('Top', 'clip', []),
  );
  const at = (frame: number) => ({
    from: 'start' as const,
    offset: { value: frame },
    unit: 'clip-frames' as const,
  });
  const moved = edit.addMover(layered, 'keys', 'top/opacity', {
    at: at(10),
    value: 0,
    ease: { kind: 'fast-first' },
  });
  const two = edit.setKey(moved, 'keys', 20, TIME, 100);
  const three = edit.setKey(two, 'keys', 40, TIME, 40);
  const cue = edit.countFrom(
    three,
    three.movers![0]!.keys![2]!.at,
    { from: 'cue', cue: 'hit' },
    TIME,
  );
  return edit.changeKey(edit.changeKey(three, 'keys', 2, { at: cue }), 'keys', 1, {
    ease: { kind: 'cubic', handles: [0.2, 0.1, 0.6, 0.9] },
  });
})();
const frames = (look: LookDocument, time = TIME): number[] =>
  edit.keysOnClip(look, look.movers![0]!, time).map((k) => k.frame);
const values = (look: LookDocument): number[] =>
  Array.from({ length: TIME.frames }, (_, frame) =>
    Number(
      evaluationAt(look, {}, { ...TIME, frame, content: 'c', aspect: 1.8 }).moved(
        'top/opacity',
        OPACITY,
        100,
      ),
    ),
  );
const ALL = [0, 1, 2];

describe('several keys', () => {
  it('are moved together, what each counts from kept, and none leaves the clip', () => {
    expect(frames(base)).toEqual([10, 20, 40]);
    const later = edit.shiftKeys(base, 'keys', ALL, 7, TIME);
    expect(frames(later)).toEqual([17, 27, 47]);
    expect(later.movers![0]!.keys![2]!.at).toMatchObject({
      from: 'cue',
      cue: 'hit',
      offset: { value: 7 },
    });
    // On another clip the key that counts from the cue follows that clip's cue.
    expect(frames(later, { ...TIME, cues: { hit: [60] } })).toEqual([17, 27, 67]);
    expect(frames(edit.shiftKeys(base, 'keys', ALL, -50, TIME))).toEqual([0, 10, 30]);
    expect(frames(edit.shiftKeys(base, 'keys', ALL, 500, TIME))).toEqual([69, 79, 99]);
    expect(frames(edit.shiftKeys(base, 'keys', [1], 5, TIME))).toEqual([10, 25, 40]);
  });
  it('are spread over as many frames as are said, from the first on', () => {
    expect(frames(edit.stretchKeys(base, 'keys', ALL, 60, TIME))).toEqual([10, 30, 70]);
    expect(frames(edit.stretchKeys(base, 'keys', ALL, 15, TIME))).toEqual([10, 15, 25]);
    expect(edit.stretchKeys(base, 'keys', [1], 15, TIME)).toBe(base);
  });
  it('run backwards when mirrored, the ways between them too; twice is as before', () => {
    const mirrored = edit.mirrorKeys(base, 'keys', ALL, TIME);
    expect(readLook(mirrored)).toHaveProperty('look');
    expect(frames(mirrored)).toEqual([10, 30, 40]);
    const [was, now] = [values(base), values(mirrored)];
    for (let f = 10; f <= 40; f++) expect(now[f]).toBeCloseTo(was[50 - f]!, 6);
    const twice = values(edit.mirrorKeys(mirrored, 'keys', ALL, TIME));
    twice.forEach((v, f) => expect(v).toBeCloseTo(was[f]!, 9));
  });
  it('are set elsewhere as they were copied, as far as the clip reaches and their values suit', () => {
    const copied = edit.copiedKeys(base, 'keys', ALL, TIME);
    const pasted = edit.pasteKeys(base, 'keys', copied, 60, TIME);
    expect(frames(pasted)).toEqual([10, 20, 40, 60, 70, 90]);
    const [was, now] = [values(base), values(pasted)];
    for (let f = 10; f < 40; f++) expect(now[f + 50]).toBeCloseTo(was[f]!, 6);
    expect(frames(edit.pasteKeys(base, 'keys', copied, 85, TIME))).toEqual([10, 20, 40, 85, 95]);
    expect(edit.pasteKeys(base, 'keys', [{ after: 0, value: [0, 0, 1] }], 60, TIME)).toBe(base);
  });
});
