import { type ReactNode, useMemo } from 'react';
import { edit, emptyLook, stepOf } from '../../../core';
import type { Found } from '../../components/Finder';
import { useProject } from '../../data/queries';
import { type LookPicture, useLookPictures } from '../../components/useLookPictures';
import type { ProjectView } from '../../data/views';
import { useHeroFacts } from './context';

interface Props {
  readonly of: readonly Found[];
  readonly children: (pictures: ReadonlyMap<string, string>) => ReactNode;
}

/**
 * Each step alone on the hero, with its initial values, or with example values if those have no
 * effect.
 */
export function StepPictures(props: Props) {
  const project = useHeroFacts().project;
  const { data } = useProject(project);
  return data ? <Made {...props} project={data} /> : props.children(new Map());
}

function Made({ of, children, project }: Props & { readonly project: ProjectView }) {
  const hero = useHeroFacts().id;
  const clip = project.clips.find((c) => c.id === hero);
  const ids = of.map((f) => f.id).join();
  const wanted = useMemo(
    () =>
      clip
        ? ids
            .split(',')
            .filter(Boolean)
            .map((id): LookPicture => ({
              id,
              clip,
              look: edit.addLayer(
                emptyLook(id),
                edit.newLayer('step', 'below', [], edit.shownSteps(stepOf(id)!)),
              ),
            }))
        : [],
    [clip, ids],
  );
  return children(useLookPictures(project, wanted));
}
