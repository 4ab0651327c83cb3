/** Clips as pictures under the looks they wear. */
import { useQueries } from '@tanstack/react-query';
import { useMemo } from 'react';
import { withTrims } from '../../../core';
import type { ClipView, ProjectView } from '../../api/views';
import { versionQuery } from './data';
import { type LookPicture, useLookPictures } from './useLookPictures';

/** Addresses by the clips' ids, as they come. */
export function useWornPictures(project: ProjectView, clips: readonly ClipView[]): ReadonlyMap<string, string> {
  const ids = [...new Set(clips.flatMap((c) => (c.look ? [c.look.versionId] : [])))];
  const worn = useQueries({ queries: ids.map(versionQuery) });
  const there = worn.map((w) => w.data?.id ?? '').join();
  const wanted = useMemo(
    () =>
      clips.flatMap((clip): LookPicture[] => {
        const version = worn.find((w) => w.data && w.data.id === clip.look?.versionId)?.data;
        if (clip.look && !version) return [];
        return [{ id: clip.id, clip, look: version ? withTrims(version.document, clip.trims[version.lookId]) : null }];
      }),
    // What is fetched never changes once it is there.
    [clips, there],
  );
  return useLookPictures(project, wanted);
}
