import { describe, expect, it } from 'vitest';
import { sorted, worthALook } from './sorting';

type Clip = Parameters<typeof worthALook>[0];
const clip = (name: string, more: Partial<Clip> = {}): Clip => ({
  name,
  role: 'clip',
  format: {
    width: 1920,
    height: 1080,
    depth: 8,
    layout: 'yuv',
    chroma: [2, 2],
    matrix: 'bt709',
    full: false,
    alpha: false,
  },
  rate: [25, 1],
  frames: 100,
  inOut: null,
  retime: null,
  cutsFound: [],
  cutsSaid: {},
  encoding: 'bt709',
  guess: 'bt709',
  untagged: false,
  slots: null,
  warnings: [],
  ...more,
});
const small = { ...clip('').format, width: 720, height: 576 };
const CLIPS = [
  clip('pier 10', { frames: 100, rate: [50, 1] }),
  clip('pier 9', { format: { ...small, fields: 'top' }, untagged: true }),
  clip('gulls', { frames: 300, slots: [0, 0, 1], encoding: 'srgb' }),
];
const names = (...of: Parameters<typeof sorted>) => sorted(...of).map((c) => c.name);

describe('clips in Rushes', () => {
  it('stand in their order, equals as they were brought', () => {
    expect(names(CLIPS, 'as brought', 'all')).toEqual(['pier 10', 'pier 9', 'gulls']);
    expect(names(CLIPS, 'name', 'all')).toEqual(['gulls', 'pier 9', 'pier 10']);
    expect(names(CLIPS, 'size', 'all')).toEqual(['pier 10', 'gulls', 'pier 9']);
    expect(names(CLIPS, 'rate', 'all')).toEqual(['pier 9', 'gulls', 'pier 10']);
    expect(names(CLIPS, 'length', 'all')).toEqual(['gulls', 'pier 9', 'pier 10']);
    expect(names(CLIPS, 'encoding', 'all').at(-1)).toBe('gulls');
  });
  it('say what was guessed or is unusual, and can be only those', () => {
    expect(CLIPS.map(worthALook)).toEqual([
      [],
      ['encoding guessed', 'interlaced'],
      ['uneven rate'],
    ]);
    expect(names(CLIPS, 'name', 'worth a look')).toEqual(['gulls', 'pier 9']);
    // Nothing is guessed once a person has decided.
    expect(worthALook(clip('x', { untagged: true, encoding: 'srgb' }))).toEqual([]);
    expect(worthALook(clip('x', { warnings: ['cut short'] }))).toEqual(['doubts']);
    expect(worthALook(clip('x', { cutsFound: [20, 60] }))).toEqual(['2 cuts inside']);
    expect(worthALook(clip('x', { role: 'plate', cutsFound: [20, 60] }))).toEqual([]);
    expect(worthALook(clip('x', { cutsFound: [20, 60], cutsSaid: { '60': 'cut' } }))).toEqual([
      'a cut inside',
    ]);
    // Cuts before the clip's in, or on it, need no decision.
    expect(worthALook(clip('x', { cutsFound: [20, 60], inOut: { in: 60, out: 99 } }))).toEqual([]);
  });
  it('are found by a part of their names', () => {
    expect(names(CLIPS, 'as brought', 'all', ' PIER ')).toEqual(['pier 10', 'pier 9']);
    expect(names(CLIPS, 'as brought', 'worth a look', 'pier')).toEqual(['pier 9']);
  });
});
