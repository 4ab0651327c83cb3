import { expect, it } from 'vitest';
import { emptyLook, readLook, SHIPPED } from '../../../core';
import type { ClipView } from '../../data/views';
import { likelyBlend, plated, pointsOf, withPlate } from './plate-trial';

const clip = (more: Partial<ClipView>) =>
  ({
    hash: 'ab12',
    pins: {},
    plate: null,
    statistics: null,
    format: { alpha: false },
    ...more,
  }) as ClipView;

it('lays a plate on top of any look, under a pin of its own', () => {
  for (const look of [emptyLook('None'), ...SHIPPED.map((s) => s.look)]) {
    const tried = plated(look, 'screen', 60);
    expect('look' in readLook(tried.look)).toBe(true);
    expect(tried.look.layers.at(-1)).toMatchObject({
      source: 'footage',
      from: tried.pin,
      blend: 'screen',
      opacity: { value: 60 },
    });
    expect(look.pins?.some((p) => p.key === tried.pin) ?? false).toBe(false);
  }
  const twice = plated(plated(emptyLook('None'), 'add', 100).look, 'add', 100);
  expect(new Set(twice.look.pins!.map((p) => p.key)).size).toBe(2);
});

it('sets the plate beside the pins that the clip has already', () => {
  const own = clip({ pins: { sun: [{ x: 0.2, y: 0.3 }] } });
  expect(withPlate(own, 'tried-plate', clip({ hash: 'cd34' })).pins).toEqual({
    sun: [{ x: 0.2, y: 0.3 }],
    'tried-plate': [{ hash: 'cd34', start: 0, speed: 1 }],
  });
});

it('guesses the mode by coverage and by how bright the plate is, and prefers points set by hand', () => {
  const bright = clip({
    statistics: {
      tones: { p50: 0.9 },
      plate: { black: 0.1, white: 0.93 },
    } as ClipView['statistics'],
  });
  expect([
    likelyBlend(bright),
    likelyBlend(clip({})),
    likelyBlend(clip({ format: { alpha: true } as ClipView['format'] })),
  ]).toEqual(['multiply', 'screen', 'normal']);
  expect(pointsOf(bright)).toEqual({ black: 0.1, white: 0.93 });
  expect(pointsOf({ ...bright, plate: { black: 0, white: 0.8 } })).toEqual({
    black: 0,
    white: 0.8,
  });
  expect(pointsOf(clip({}))).toBeNull();
});
