/** Clips as pictures under the looks they wear. */
import { useQueries } from '@tanstack/react-query';
import { useMemo } from 'react';
import { withTrims } from '../../../core';
import type { ClipView, ProjectView } from '../../api/views';
import { dataOf, versionQuery } from './data';
import { type LookPicture, useLookPictures } from './useLookPictures';

/** Addresses by the clips' ids, as they come. */
export function useWornPictures(
  project: ProjectView,
  clips: readonly ClipView[],
): ReadonlyMap<string, string> {
  const ids = [...new Set(clips.flatMap((c) => (c.look ? [c.look.versionId] : [])))];
  const worn = useQueries({ queries: ids.map(versionQuery), combine: dataOf });
  const wanted = useMemo(
    () =>
      clips.flatMap((clip): LookPicture[] => {
        const version = worn.find((v) => v.id === clip.look?.versionId);
        if (clip.look && !version) return [];
        return [
          {
            id: clip.id,
            clip,
            look: version ? withTrims(version.document, clip.trims[version.lookId]) : null,
          },
        ];
      }),
    [clips, worn],
  );
  return useLookPictures(project, wanted);
}
