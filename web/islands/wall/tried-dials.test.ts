import { describe, expect, it } from 'vitest';
import { SHIPPED } from '../../../core';
import type { ClipView, VersionView } from '../../data/views';
import { accepting, flaggedWords, openFlags } from './flags';
import { isTried, replacedTrims, trimEdits, TriedLooks } from './tried-dials';

const document = SHIPPED.find((s) => s.id === 'silt')!.look;
const version: VersionView = { id: 'v1', lookId: 'silt', number: 1, document };
const newest: VersionView = {
  ...version,
  id: 'v2',
  number: 2,
  document: { ...document, seed: 99 },
};
const clip = (id: string, more: Partial<ClipView> = {}) =>
  ({
    id,
    follows: true,
    trims: {},
    accepted: {},
    inspection: null,
    look: { lookId: 'silt', versionId: 'v1', name: 'Silt', number: 1, means: [] },
    ...more,
  }) as ClipView;
const none = new Map<string, never>();
const dial = (look: typeof document, key: string) => look.dials.find((d) => d.key === key)!.value;

describe('dials that are tried', () => {
  const looks = new TriedLooks();
  const tried = { lookId: 'silt', whose: 'look', values: { drain: 5 } } as const;

  it('are seen on the clips that follow the look, over its newest version, beside their own trims', () => {
    const own = clip('a', { trims: { silt: { depth: 90 } } });
    const look = looks.look(own, version, newest, tried, new Set(), none);
    expect([dial(look, 'drain'), dial(look, 'depth'), look.seed]).toEqual([5, 90, 99]);
    const staying = clip('b', { follows: false });
    expect(looks.look(staying, version, newest, tried, new Set(), none)).toBe(document);
    expect(isTried(clip('c', { look: null }), tried, new Set())).toBe(false);
  });
  it('are seen on the chosen clips alone when they are to be trims', () => {
    const trims = { ...tried, whose: 'clips' } as const;
    const own = clip('a', { trims: { silt: { depth: 90 } } });
    const look = looks.look(own, version, newest, trims, new Set(['a']), none);
    expect([dial(look, 'drain'), dial(look, 'depth'), look.seed]).toEqual([5, 90, document.seed]);
    expect(looks.look(clip('b'), version, newest, trims, new Set(['a']), none)).toBe(document);
    // The same input gives the same object, so nothing is computed again.
    expect(looks.look(own, version, newest, trims, new Set(['a']), none)).toBe(look);
  });
  it('give way to trims that are proposed', () => {
    const aimed = new Map([['a', { drain: 70 }]]);
    expect(dial(looks.look(clip('a'), version, newest, null, new Set(), aimed), 'drain')).toBe(70);
  });
});

describe('edits of trims', () => {
  it('add to what a clip has, or replace it, and leave clips under other looks alone', () => {
    const clips = [
      clip('a', { trims: { silt: { depth: 90 }, other: { x: 1 } } }),
      clip('b', { look: null }),
    ];
    expect(trimEdits(clips, 'silt', { drain: 5 }).map((e) => e.to)).toEqual([
      { trims: { other: { x: 1 }, silt: { depth: 90, drain: 5 } } },
    ]);
    expect(replacedTrims(clips, 'silt', { drain: 5 }).map((e) => e.to)).toEqual([
      { trims: { other: { x: 1 }, silt: { drain: 5 } } },
    ]);
    expect(replacedTrims(clips, 'silt', {}).map((e) => [e.was, e.to])).toEqual([
      [{ trims: clips[0]!.trims }, { trims: { other: { x: 1 } } }],
    ]);
  });
});

describe('flags', () => {
  const flagged = (accepted: ClipView['accepted'], worst = 0.1) =>
    clip('a', {
      accepted,
      inspection: {
        state: 'done',
        progress: 1,
        current: true,
        error: null,
        flags: [
          { kind: 'clipped', first: 0, last: 9, worst },
          { kind: 'bands', first: 3, last: 4, worst: 0.05 },
        ],
      },
    });
  it('are open until they are accepted, and again when there is more of them', () => {
    expect(flaggedWords(flagged({}))).toBe('clipped, banding');
    const accepted = accepting(flagged({}), 'clipped', 'a sky');
    expect(accepted).toEqual({ clipped: { reason: 'a sky', worst: 0.1 } });
    expect(openFlags(flagged(accepted)).map((f) => f.kind)).toEqual(['bands']);
    expect(openFlags(flagged(accepted, 0.104)).map((f) => f.kind)).toEqual(['bands']);
    expect(openFlags(flagged(accepted, 0.12)).map((f) => f.kind)).toEqual(['clipped', 'bands']);
    expect(accepting(flagged(accepted), 'clipped', null)).toEqual({});
    expect(flaggedWords(clip('b'))).toBeNull();
  });
});
