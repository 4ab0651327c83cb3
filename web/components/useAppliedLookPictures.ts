/** Pictures of clips under the looks they wear. */
import { useQueries } from '@tanstack/react-query';
import { useMemo } from 'react';
import { withTrims } from '../../core';
import type { ClipView, ProjectView } from '../data/views';
import { dataOf, versionQuery } from '../data/queries';
import { type LookPicture, useLookPictures } from './useLookPictures';

/** URLs by the clips' ids, as pictures become available. */
export function useAppliedLookPictures(
  project: ProjectView,
  clips: readonly ClipView[],
): ReadonlyMap<string, string> {
  const ids = [...new Set(clips.flatMap((c) => (c.look ? [c.look.versionId] : [])))];
  const applied = useQueries({ queries: ids.map(versionQuery), combine: dataOf });
  const wanted = useMemo(
    () =>
      clips.flatMap((clip): LookPicture[] => {
        const version = applied.find((v) => v.id === clip.look?.versionId);
        if (clip.look && !version) return [];
        return [
          {
            id: clip.id,
            clip,
            look: version ? withTrims(version.document, clip.trims[version.lookId]) : null,
          },
        ];
      }),
    [clips, applied],
  );
  return useLookPictures(project, wanted);
}
