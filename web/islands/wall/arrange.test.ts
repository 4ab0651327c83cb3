import { expect, it } from 'vitest';
import type { ClipView } from '../../data/views';
import { arranged, frameAt, grouped } from './arrange';

const clip = (name: string, more: Partial<ClipView> = {}) =>
  ({ name, status: 'open', look: null, statistics: null, frames: 80, ...more }) as ClipView;
const names = (clips: readonly ClipView[]) => clips.map((c) => c.name).join(' ');

it('clips stand by name, look, status or lightness, unmeasured ones last', () => {
  const look = (name: string, number: number) => ({
    look: { lookId: name, versionId: name, name, number, means: [], retimes: false },
  });
  const light = (p50: number) => ({ statistics: { lightness: { p50 } } as ClipView['statistics'] });
  const clips = [
    clip('kelp', { status: 'agreed', ...look('Silt', 10) }),
    clip('gulls', { ...look('Silt', 9), ...light(0.9) }),
    clip('pier', { status: 'in work', ...light(0.2) }),
  ];
  expect(names(arranged(clips, 'as shot in'))).toBe('kelp gulls pier');
  expect(names(arranged(clips, 'name'))).toBe('gulls kelp pier');
  expect(names(arranged(clips, 'look'))).toBe('gulls kelp pier');
  expect(names(arranged(clips, 'status'))).toBe('gulls pier kelp');
  expect(names(arranged(clips, 'lightness'))).toBe('pier gulls kelp');
});

it('the playhead stands at a frame that is there', () => {
  expect(
    (['start', 'middle', 'end'] as const).map((at) =>
      frameAt({ frames: 80, rate: [25, 1], inOut: null, retime: null, pins: {}, hash: 'h' }, at),
    ),
  ).toEqual([0, 40, 79]);
  expect(
    (['start', 'middle', 'end'] as const).map((at) =>
      frameAt({ frames: 1, rate: [25, 1], inOut: null, retime: null, pins: {}, hash: 'h' }, at),
    ),
  ).toEqual([0, 0, 0]);
});

it('clips stand in groups: statuses in their own order, others by name, those without one last', () => {
  const clips = [
    clip('a', { scene: '', status: 'agreed' }),
    clip('b', { scene: 'sea' }),
    clip('c', { scene: 'deck', status: 'in work' }),
    clip('d', { scene: 'sea' }),
  ];
  const said = (by: 'scene' | 'status' | 'nothing') =>
    grouped(clips, by).map((g) => `${g.name}: ${names(g.clips)}`);
  expect(said('scene')).toEqual(['deck: c', 'sea: b d', 'no scene: a']);
  expect(said('status')).toEqual(['open: b d', 'in work: c', 'agreed: a']);
  expect(said('nothing')).toEqual(['null: a b c d']);
});

it('clips far from all others in one measure stand first by spread, unmeasured ones last', () => {
  const like = (p50: number, warmth: number) => ({
    statistics: { lightness: { p50 }, warmth, chroma: 0.1 } as ClipView['statistics'],
  });
  const clips = [
    clip('no'),
    clip('b', like(0.5, 0)),
    clip('c', like(0.52, 0.01)),
    clip('far', like(0.51, 0.4)),
    clip('e', like(0.49, 0.01)),
  ].map((c) => ({
    ...c,
    id: c.name,
  }));
  expect(names(arranged(clips, 'spread')).split(' ').at(0)).toBe('far');
  expect(names(arranged(clips, 'spread')).split(' ').at(-1)).toBe('no');
});
