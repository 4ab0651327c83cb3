import { expect, it } from 'vitest';
import type { ClipView } from '../../api/views';
import { arranged, frameAt } from './arrange';

const clip = (name: string, more: Partial<ClipView> = {}) =>
  ({ name, status: 'open', look: null, statistics: null, frames: 80, ...more }) as ClipView;
const names = (clips: readonly ClipView[]) => clips.map((c) => c.name).join(' ');

it('clips stand by name, look, status or lightness, unmeasured ones last', () => {
  const look = (name: string, number: number) => ({ look: { lookId: name, versionId: name, name, number } });
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
  expect((['start', 'middle', 'end'] as const).map((at) => frameAt({ frames: 80 }, at))).toEqual([0, 40, 79]);
  expect((['start', 'middle', 'end'] as const).map((at) => frameAt({ frames: 1 }, at))).toEqual([0, 0, 0]);
});
