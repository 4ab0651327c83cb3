/** What pages read and change of traces. */
import { useMutation, useQueries, useQueryClient } from '@tanstack/react-query';
import { marksOf, MOST_MARKS, type Track, TRACK_FILES, trackFrom, withoutTrace } from '../../core';
import type { ClipEdit } from '../../server/clips/clips';
import { call } from './http';
import type { ClipView, ProjectView, TraceView } from './views';

/** The tracks of a clip's traces that are made, by the traces' ids. */
export function useTracks({ traces }: Pick<ClipView, 'traces'>): ReadonlyMap<string, Track> {
  return useQueries({
    queries: traces.map(({ id, of, state }) => ({
      queryKey: ['track', id, of],
      queryFn: () => trackNow({ id, of }),
      enabled: state === 'done',
      staleTime: Infinity,
    })),
    combine: (found) =>
      new Map(found.flatMap(({ data }, i) => (data ? [[traces[i]!.id, data] as const] : []))),
  });
}

/** Traces something in a clip's footage, or brings back what was taken away; the trace's id. */
export const newTrace = async (
  clip: string,
  trace: Pick<TraceView, 'name' | 'kind' | 'follow' | 'marks'> &
    Partial<Pick<TraceView, 'id' | 'smooth'>>,
): Promise<string> => (await call<{ id: string }>('POST', `/api/clips/${clip}/traces`, trace)).id;
/** The track of a trace as it stands. */
export const trackNow = ({ id, of }: Pick<TraceView, 'id' | 'of'>): Promise<Track> =>
  call<Track>('GET', `/api/traces/${id}/track?of=${of}`);
/**
 * A trace from a file that holds a track, made here or by another program: its places become marks
 * by hand. Throws what is wrong with it, in words.
 */
export async function traceFromFile(
  clip: Pick<ClipView, 'id' | 'frames'>,
  file: File,
): Promise<string> {
  const as = TRACK_FILES.find((ending) => file.name.toLowerCase().endsWith(ending));
  if (!as) throw new Error(`${file.name} is no track: choose one that ends in .json or .csv`);
  let track: Track;
  try {
    track = trackFrom(await file.text(), as);
  } catch (e) {
    throw new Error(`${file.name} cannot be read as a track: ${(e as Error).message}`, {
      cause: e,
    });
  }
  const marks = marksOf(track).filter((m) => m.frame < clip.frames);
  if (marks.length === 0) throw new Error(`${file.name} has no place on the frames of this clip`);
  if (marks.length > MOST_MARKS)
    throw new Error(
      `${file.name} has ${marks.length} places that no straight way joins: at most ${MOST_MARKS} are taken`,
    );
  const name = file.name.slice(0, -as.length).slice(0, 60) || 'Track';
  return newTrace(clip.id, { name, kind: track.kind ?? 'point', follow: false, marks });
}
/** What can be changed of a trace. */
export type TracePart = Partial<Pick<TraceView, 'name' | 'follow' | 'smooth' | 'marks'>>;
/** Changes a trace: shown at once, and as the server has it afterwards. */
export function useChangeTrace(project: string) {
  const queries = useQueryClient(),
    key = ['project', project];
  const shown =
    (id: string, part: TracePart) =>
    (c: ClipView): ClipView => ({
      ...c,
      traces: c.traces.map((t) =>
        t.id === id ? { ...t, ...part, ...(part.name === undefined && BEGUN) } : t,
      ),
    });
  const { mutateAsync } = useMutation({
    scope: { id: `traces ${project}` },
    mutationFn: ({ id, part }: { readonly id: string; readonly part: TracePart }) =>
      call('PATCH', `/api/traces/${id}`, part),
    async onMutate({ id, part }) {
      await queries.cancelQueries({ queryKey: key });
      queries.setQueryData<ProjectView>(
        key,
        (p) => p && { ...p, clips: p.clips.map(shown(id, part)) },
      );
    },
    onSettled: () => queries.invalidateQueries({ queryKey: key }),
  });
  return (id: string, part: TracePart): Promise<unknown> => mutateAsync({ id, part });
}
const BEGUN = { state: 'waiting', progress: 0 } as const;
/** What puts a trace back into the pins that took it before it was taken away. */
export const pinsTaken = (project: ProjectView, hash: string, id: string): ClipEdit[] =>
  [...project.clips, ...project.plates].flatMap((c) => {
    const without = c.hash === hash ? withoutTrace(c.pins, id) : undefined;
    return without ? [{ clip: c.id, was: { pins: without }, to: { pins: c.pins } }] : [];
  });
/** Takes a trace away. */
export const removeTrace = (id: string): Promise<unknown> => call('DELETE', `/api/traces/${id}`);
/** Follows a trace again, or stops. */
export const setFollowing = (id: string, on: boolean): Promise<unknown> =>
  call(on ? 'POST' : 'DELETE', `/api/traces/${id}/track`);
