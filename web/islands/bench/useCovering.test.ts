import { expect, it } from 'vitest';
import { emptyLook } from '../../../core';
import type { ClipView, ProjectView } from '../../data/views';
import { coveringOf } from './useCovering';

it('footage that is laid over lies as its pin says, and else as it does as a clip', () => {
  const set = {
    id: 'a',
    name: 'set',
    hash: 'abcdef12',
    fit: 'fit',
    reframe: { x: 0.4, y: 0.5, closer: 120 },
    pixelAspect: 1,
  };
  const project = {
    width: 1920,
    height: 1080,
    plates: [{ ...set, format: { width: 400, height: 300, alpha: true } }],
    clips: [],
  } as unknown as ProjectView;
  const look = {
    ...emptyLook('Set'),
    pins: [{ key: 'set', label: 'Set', kind: 'footage' as const, many: false }],
  };
  const clip = (more: object) =>
    ({ pins: { set: [{ hash: 'abcdef12', start: 0, speed: 1, ...more }] } }) as unknown as ClipView;
  const framing = (more: object) => coveringOf(look, clip(more), project)[0]!.framing;
  expect(framing({})).toMatchObject({ fit: 'fit', reframe: set.reframe, frame: [1920, 1080] });
  expect(framing({ fit: 'stretch' })).toMatchObject({ fit: 'stretch', reframe: null });
  expect(coveringOf(look, { pins: {} }, project)).toEqual([]);
});
