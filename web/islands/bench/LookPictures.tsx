import { useQueries } from '@tanstack/react-query';
import { type ReactNode, useMemo } from 'react';
import type { Found } from '../../components/Finder';
import { type LookPicture, useLookPictures } from '../../components/useLookPictures';
import { dataOf, useLooks, useProject, versionQuery } from '../../data/queries';
import type { ProjectView } from '../../data/views';
import { useHeroFacts } from './context';

interface Props {
  readonly of: readonly Found[];
  readonly children: (pictures: ReadonlyMap<string, string>) => ReactNode;
}

/** Ids of looks in a list end with the look's own. */
const lookIdOf = (id: string): string => id.replace(/^look:/, '');

/** The hero under the newest version of each look of a list. */
export function LookPictures(props: Props) {
  const { data } = useProject(useHeroFacts().project);
  return data ? <Made {...props} project={data} /> : props.children(new Map());
}

function Made({ of, children, project }: Props & { readonly project: ProjectView }) {
  const hero = useHeroFacts().id;
  const clip = project.clips.find((c) => c.id === hero);
  const looks = useLooks().data;
  const shown = of.flatMap((f) => {
    const look = looks?.find((l) => l.id === lookIdOf(f.id));
    return look?.versions[0] ? [{ id: f.id, version: look.versions[0].id }] : [];
  });
  const versions = useQueries({
    queries: shown.map((s) => versionQuery(s.version)),
    combine: dataOf,
  });
  const ids = shown.map((s) => `${s.id} ${s.version}`).join();
  const wanted = useMemo(
    () =>
      clip
        ? ids
            .split(',')
            .filter(Boolean)
            .flatMap((pair): LookPicture[] => {
              const [id, version] = pair.split(' ') as [string, string];
              const found = versions.find((v) => v.id === version);
              return found ? [{ id, clip, look: found.document }] : [];
            })
        : [],
    [clip, ids, versions],
  );
  return children(useLookPictures(project, wanted));
}
