/** Lanes and words of traces, and which clip lacks a pin next. */
import { describe, expect, it } from 'vitest';
import type { Mark, Path, Track } from '../../core';
import type { ClipView } from '../data/views';
import { nextLacking } from './pins';
import {
  freshName,
  marksAlike,
  marksMoved,
  nextDoubt,
  stretchesOf,
  surenessAt,
  sureWords,
  withMark,
} from './traces';

const place = (sure: number) => [0.5, 0.5, sure] as const;
const track: Track = {
  places: [place(1), place(2), place(1), place(0.4), null, null, place(1), place(1)],
};
const clip = { frames: 8, rate: [25, 1] as const };

describe('a track along a clip', () => {
  it('is told in stretches of one sureness', () => {
    expect(stretchesOf(track, clip).map((s) => [s.first, s.last, s.is])).toEqual([
      [0, 0, 'sure'],
      [1, 1, 'marked'],
      [2, 2, 'sure'],
      [3, 3, 'unsure'],
      [4, 5, 'lost'],
      [6, 7, 'sure'],
    ]);
    expect(surenessAt(track, 99)).toBe('lost');
  });
  it('is told in the frames of the clip, not of its footage', () => {
    const part = { ...clip, inOut: { in: 3, out: 6 } };
    expect(stretchesOf(track, part).map((s) => [s.first, s.last, s.is])).toEqual([
      [0, 0, 'unsure'],
      [1, 2, 'lost'],
      [3, 3, 'sure'],
    ]);
  });
  it('has a next doubt, all around', () => {
    expect(nextDoubt(track, clip, 0)).toBe(3);
    expect(nextDoubt(track, clip, 3)).toBe(4);
    expect(nextDoubt(track, clip, 5)).toBe(3);
    expect(nextDoubt({ places: [place(1), place(2)] }, { ...clip, frames: 2 }, 0)).toBeUndefined();
  });
  it('is told in words', () => {
    expect(sureWords(track, clip)).toBe('sure on 5, unsure on 1, lost on 2');
    expect(sureWords({ places: [place(1), place(2)] }, { ...clip, frames: 2 })).toBe(
      'sure on every frame',
    );
    // A bare place is sure where it was marked and nowhere else.
    expect(sureWords({ places: [null, place(2), place(0.4)] }, { ...clip, frames: 3 })).toContain(
      'nothing there can be followed',
    );
    // Followed by what lies around it, it is unsure and there.
    const around = { places: [null, place(2), place(0.7)], bare: [{ frame: 1, around: 48 }] };
    expect(sureWords(around, { ...clip, frames: 3 })).toBe('sure on 1, unsure on 1, lost on 1');
  });
});

describe('marks and names', () => {
  it('replace the mark on their frame, in order', () => {
    const marks = [
      { frame: 2, x: 0, y: 0 },
      { frame: 9, x: 1, y: 1 },
    ];
    expect(withMark(marks, { frame: 2, x: 0.5, y: 0.5 })).toEqual([
      { frame: 2, x: 0.5, y: 0.5 },
      marks[1],
    ]);
    expect(withMark(marks, { frame: 4, x: 0, y: 0 }).map((m) => m.frame)).toEqual([2, 4, 9]);
  });
  it('on bare surfaces move to the nearest place that can be followed, the others stay', () => {
    const marks = [
      { frame: 2, x: 0.1, y: 0.1 },
      { frame: 9, x: 0.4, y: 0.4 },
    ];
    const nearest = { x: 0.2, y: 0.1 };
    expect(marksMoved(marks, { places: [], bare: [{ frame: 2, nearest }] })).toEqual([
      { frame: 2, ...nearest },
      marks[1],
    ]);
    expect(marksMoved(marks, { places: [] })).toBeUndefined();
    expect(marksMoved(marks, { places: [], bare: [{ frame: 9 }] })).toBeUndefined();
  });
  it('are not given twice', () => {
    const traces = [{ name: 'Sun' }, { name: 'Sun 2' }] as unknown as ClipView['traces'];
    expect(freshName('Sun', traces)).toBe('Sun 3');
    expect(freshName('Moon', traces)).toBe('Moon');
  });
});

describe('the next clip that lacks a pin', () => {
  const look = { pins: [{ key: 'sun', label: 'Sun', kind: 'point' as const, many: false }] };
  const of = (id: string, set: boolean, lookId = 'l'): ClipView =>
    ({ id, look: { lookId }, pins: set ? { sun: [{ x: 0, y: 0 }] } : {} }) as unknown as ClipView;
  it('is found all around, among those that wear the look', () => {
    const clips = [of('a', false), of('b', true), of('c', false, 'other'), of('d', false)];
    expect(nextLacking(look, 'l', clips, 'a')!.id).toBe('d');
    expect(nextLacking(look, 'l', clips, 'd')!.id).toBe('a');
    expect(nextLacking(look, 'none', clips, 'b')!.id).toBe('c');
    expect(nextLacking(look, 'l', [of('a', true)], 'a')).toBeUndefined();
  });
});

type OutlineMark = Mark & { readonly nodes: Path };
describe('an outline that gains or loses a node on one mark', () => {
  const corner = (x: number, y: number) => [x, y, 0, 0, 0, 0] as const;
  const square = (at: number) => [
    corner(at, 0),
    corner(at + 0.4, 0),
    corner(at + 0.4, 0.4),
    corner(at, 0.4),
  ];
  const marks = [0, 8].map((frame) => ({ frame, nodes: square(frame / 20) }));
  it('gains the same one on the others, in the middle of their curve', () => {
    const now = [...square(0).slice(0, 2), corner(0.4, 0.3), ...square(0).slice(2)];
    const [, other] = marksAlike(marks, square(0), now) as OutlineMark[];
    expect(other!.nodes).toHaveLength(5);
    expect(other!.nodes[2]!.slice(0, 2).map((v) => Number(v.toFixed(9)))).toEqual([0.8, 0.2]);
    const last = [...square(0), corner(0, 0.2)];
    const [, after] = marksAlike(marks, square(0), last) as OutlineMark[];
    expect(after!.nodes[4]!.slice(0, 2).map((v) => Number(v.toFixed(9)))).toEqual([0.4, 0.2]);
  });
  it('loses the same one on the others', () => {
    const now = square(0).filter((_, i) => i !== 1);
    const [, other] = marksAlike(marks, square(0), now) as OutlineMark[];
    expect(other!.nodes).toEqual(square(0.4).filter((_, i) => i !== 1));
  });
  it('leaves marks of other numbers of nodes and of other kinds', () => {
    const others = [
      { frame: 3, x: 0, y: 0 },
      { frame: 4, nodes: square(0).slice(1) },
    ];
    expect(marksAlike(others, square(0), square(0).slice(1))).toEqual(others);
  });
});
