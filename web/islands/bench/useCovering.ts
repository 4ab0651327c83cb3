import { useMemo } from 'react';
import { footagePins, type LookDocument } from '../../../core';
import type { ClipView, ProjectView } from '../../api/views';
import { framingOf, seenOf } from '../shared/pins';
import type { Covering } from './context';

/** The footage with coverage that the hero has set where the look asks for some. */
export const useCovering = (look: LookDocument, hero: ClipView, project: ProjectView): readonly Covering[] =>
  useMemo(
    () =>
      footagePins(look, hero.pins).flatMap(([, pin]) => {
        const other = [...project.plates, ...project.clips].find((c) => c.hash === pin.hash);
        return other?.format.alpha ? [{ id: other.id, name: other.name, framing: framingOf(other, seenOf(project, look)) }] : [];
      }),
    [look, hero.pins, project],
  );
