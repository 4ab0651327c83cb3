import { expect, it } from 'vitest';
import { clipView } from '../testing/views';
import { pinsTaken } from './traces';
import type { ProjectView } from './views';

it('a trace that comes back is put into the pins that took it, of every clip of its footage', () => {
  const sun = { trace: 'sun' },
    point = { x: 0.5, y: 0.5 };
  const clip = (id: string, hash: string, pins: object) =>
    ({ ...clipView(id), id, hash, pins }) as ProjectView['clips'][number];
  const project = {
    clips: [
      clip('a', 'coast', { sun: [sun], heart: [point] }),
      clip('b', 'coast', { lamps: [point, sun, point] }),
      clip('c', 'coast', { heart: [point] }),
      clip('d', 'kelp', { sun: [sun] }),
    ],
    plates: [clip('e', 'coast', { sun: [sun] })],
  } as unknown as ProjectView;
  expect(pinsTaken(project, 'coast', 'sun')).toEqual([
    { clip: 'a', was: { pins: { heart: [point] } }, to: { pins: project.clips[0]!.pins } },
    { clip: 'b', was: { pins: { lamps: [point, point] } }, to: { pins: project.clips[1]!.pins } },
    { clip: 'e', was: { pins: {} }, to: { pins: { sun: [sun] } } },
  ]);
});
