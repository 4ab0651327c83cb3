import { useMemo } from 'react';
import { asPinned, footagePins, type LookDocument } from '../../../core';
import type { ClipView, ProjectView } from '../../api/views';
import { framingOf, seenOf } from '../shared/pins';
import type { Covering } from './context';

/** The footage with coverage that a clip has set where the look asks for some, and how it lies in the look's frame. */
export const coveringOf = (look: LookDocument, { pins }: Pick<ClipView, 'pins'>, project: ProjectView): readonly Covering[] =>
  footagePins(look, pins).flatMap(([, pin]) => {
    const other = [...project.plates, ...project.clips].find((c) => c.hash === pin.hash);
    return other?.format.alpha ? [{ id: other.id, name: other.name, framing: framingOf(asPinned(other, pin), seenOf(project, look)) }] : [];
  });

export const useCovering = (look: LookDocument, hero: ClipView, project: ProjectView): readonly Covering[] =>
  useMemo(() => coveringOf(look, hero, project), [look, hero, project]);
