/** What pages read and change of traces. */
import { useMutation, useQueries, useQueryClient } from '@tanstack/react-query';
import type { Mark, Track } from '../../core';
import { call } from './http';
import type { ClipView, ProjectView, TraceView } from './views';

/** The tracks of a clip's traces that are made, by the traces' ids. */
export function useTracks({ traces }: Pick<ClipView, 'traces'>): ReadonlyMap<string, Track> {
  return useQueries({
    queries: traces.map(({ id, of, state }) => ({
      queryKey: ['track', id, of],
      queryFn: () => call<Track>('GET', `/api/traces/${id}/track?of=${of}`),
      enabled: state === 'done',
      staleTime: Infinity,
    })),
    combine: (found) =>
      new Map(found.flatMap(({ data }, i) => (data ? [[traces[i]!.id, data] as const] : []))),
  });
}

/** Traces something in a clip's footage; the id of the trace. */
export const newTrace = async (
  clip: string,
  trace: Pick<TraceView, 'name' | 'kind' | 'follow'> & { readonly marks: readonly Mark[] },
): Promise<string> => (await call<{ id: string }>('POST', `/api/clips/${clip}/traces`, trace)).id;
type TracePart = Partial<Pick<TraceView, 'name' | 'follow' | 'marks'>>;
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
/** Takes a trace away. */
export const removeTrace = (id: string): Promise<unknown> => call('DELETE', `/api/traces/${id}`);
/** Follows a trace again, or stops. */
export const setFollowing = (id: string, on: boolean): Promise<unknown> =>
  call(on ? 'POST' : 'DELETE', `/api/traces/${id}/track`);
