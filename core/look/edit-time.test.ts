/** The initial values of a mover and what it counts from. */
import { describe, expect, it } from 'vitest';
import type { ClipTime } from '../time';
import { edit, emptyLook, evaluationAt, type LookDocument, OPACITY, type PinAsk } from '.';

const layered = edit.addLayer(emptyLook('Moved'), edit.newLayer('Top', 'clip', []));
const asking = (...pins: PinAsk[]): LookDocument => ({ ...layered, pins });
const HIT: PinAsk = { key: 'hit', label: 'Hit', kind: 'cue', many: false };
const CLIP: ClipTime = { frames: 100, rate: [25, 1], cues: { hit: [40], beats: [10, 60] } };
const opacityAt = (look: LookDocument, frame: number): number =>
  Number(
    evaluationAt(look, {}, { ...CLIP, frame, content: 'c', aspect: 1.8 }).moved(
      'top/opacity',
      OPACITY,
      100,
    ),
  );

describe('a fresh mover', () => {
  it('strikes at the cue that its look asks for: nothing on the frame before, all of it on the frame itself', () => {
    const pulse = edit.addMover(asking(HIT), 'pulse', 'top/opacity');
    expect([opacityAt(pulse, 39), opacityAt(pulse, 40)]).toEqual([0, 100]);
  });

  it('strikes at each of several', () => {
    const pulse = edit.addMover(
      asking({ ...HIT, key: 'beats', many: true }),
      'pulse',
      'top/opacity',
    );
    expect([9, 10, 59, 60].map((f) => opacityAt(pulse, f))).toEqual([0, 100, 0, 100]);
  });

  it('begins at the clip’s start where no cue is asked for, and where it only counts from an instant', () => {
    expect(edit.addMover(layered, 'pulse', 'top/opacity').movers![0]!.instants).toBeUndefined();
    expect(edit.addMover(asking(HIT), 'wave', 'top/opacity').movers![0]!.instants).toBeUndefined();
  });
});
