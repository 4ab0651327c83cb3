import { describe, expect, it } from 'vitest';
import type { ClipView, LookView } from '../../data/views';
import { backwards } from '../../data/clip-edits';
import { mostApplied, lookEdits } from './applied-looks';

const clip = (id: string, lookId: string | null, version = 'v1', follows = true): ClipView =>
  ({
    id,
    name: id,
    follows,
    look: lookId === null ? null : { lookId, versionId: version, name: lookId, number: 1 },
  }) as unknown as ClipView;
const looks = [
  {
    id: 'silt',
    name: 'Silt',
    versions: [
      { id: 'v3', number: 3 },
      { id: 'v1', number: 1 },
    ],
  },
] as unknown as LookView[];
const clips = [clip('a', 'silt'), clip('b', null), clip('c', 'gone', 'w2', false)];

describe('what chosen clips are to wear', () => {
  it('is a version for all of them, followed on from or not, or no look', () => {
    expect(lookEdits(clips, { kind: 'look', version: 'v3', follows: false }, looks)).toEqual([
      { clip: 'a', was: { version: 'v1', follows: true }, to: { version: 'v3', follows: false } },
      { clip: 'b', was: { version: null, follows: true }, to: { version: 'v3', follows: false } },
      { clip: 'c', was: { version: 'w2', follows: false }, to: { version: 'v3', follows: false } },
    ]);
    expect(
      lookEdits([clips[0]!], { kind: 'look', version: null, follows: true }, looks)[0]!.to,
    ).toEqual({ version: null, follows: true });
  });
  it('is the newest version of their own look where they are to follow, as far as it is known', () => {
    expect(lookEdits(clips, { kind: 'follow' }, looks).map((e) => [e.clip, e.to])).toEqual([
      ['a', { version: 'v3', follows: true }],
      ['c', { version: 'w2', follows: true }],
    ]);
  });
  it('leaves their versions alone where they are to stay, and clips without a look', () => {
    expect(lookEdits(clips, { kind: 'stay' }, looks)).toEqual([
      { clip: 'a', was: { follows: true }, to: { follows: false } },
      { clip: 'c', was: { follows: false }, to: { follows: false } },
    ]);
  });
  it('is undone by the same edits backwards', () => {
    const edits = lookEdits(clips, { kind: 'follow' }, looks);
    expect(backwards(backwards(edits))).toEqual(edits);
    expect(backwards(edits)[0]).toEqual({
      clip: 'a',
      was: { version: 'v3', follows: true },
      to: { version: 'v1', follows: true },
    });
  });
});

it('the look that most clips wear counts clips, not versions', () => {
  expect(
    mostApplied([clip('a', 'x', 'v1'), clip('b', 'y'), clip('c', 'x', 'v2'), clip('d', null)]),
  ).toBe('x');
  expect(mostApplied([clip('a', null)])).toBeUndefined();
});
