import { useMemo } from 'react';
import { type Asking, asPinned, footagePins } from '../../../core';
import type { ClipView, ProjectView } from '../../data/views';
import { framingOf, seenOf } from '../../domain/pins';
import type { Covering } from './context';

/**
 * Footage with coverage that a clip has set for the look's pins, and its position in the look's
 * frame.
 */
export const coveringOf = (
  look: Asking,
  { pins }: Pick<ClipView, 'pins'>,
  project: ProjectView,
): readonly Covering[] =>
  footagePins(look, pins).flatMap(([, pin]) => {
    const other = [...project.plates, ...project.clips].find((c) => c.hash === pin.hash);
    return other?.format.alpha
      ? [
          {
            id: other.id,
            name: other.name,
            framing: framingOf(asPinned(other, pin), seenOf(project, look)),
          },
        ]
      : [];
  });

/** The same for the hero. */
export const useCovering = (
  look: Asking,
  hero: ClipView,
  project: ProjectView,
): readonly Covering[] => useMemo(() => coveringOf(look, hero, project), [look, hero, project]);
