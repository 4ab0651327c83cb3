/**
 * What all islands share: queries kept fresh by the server's own news, and the frame around an
 * island.
 */
import { QueryClient, QueryClientProvider, useQuery, useQueryClient } from '@tanstack/react-query';
import { type ReactNode, useEffect, useState } from 'react';
import { call } from './http';
import { usePendingEdits } from './clip-edits';
import type {
  BakingView,
  KilnView,
  LookView,
  PieceView,
  ProjectView,
  ReferenceView,
  VersionView,
} from './views';

const client = new QueryClient({
  defaultOptions: { queries: { staleTime: 10_000, retry: 2, refetchOnWindowFocus: false } },
});

export const Island = ({ children }: { children: ReactNode }) => (
  <QueryClientProvider client={client}>{children}</QueryClientProvider>
);

export function useProject(id: string, enabled = true) {
  const select = usePendingEdits(id);
  return useQuery({
    queryKey: ['project', id],
    queryFn: () => call<ProjectView>('GET', `/api/projects/${id}`),
    enabled,
    select,
  });
}
export const useLooks = () =>
  useQuery({ queryKey: ['looks'], queryFn: () => call<LookView[]>('GET', '/api/looks') });
export const usePieces = () =>
  useQuery({ queryKey: ['pieces'], queryFn: () => call<PieceView[]>('GET', '/api/pieces') });
export const useReferences = (project: string) =>
  useQuery({
    queryKey: ['references', project],
    queryFn: () => call<ReferenceView[]>('GET', `/api/projects/${project}/references`),
  });
export const useKiln = (id: string) =>
  useQuery({
    queryKey: ['kiln', id],
    queryFn: () => call<KilnView>('GET', `/api/projects/${id}/deliveries`),
    refetchInterval: 10_000,
  });
/** What workers bake of a clip. */
export const useBakingOf = (clip: string) =>
  useQuery({
    queryKey: ['baking', clip],
    queryFn: () => call<BakingView>('GET', `/api/clips/${clip}/bake`),
  });
/**
 * What of several queries is there, in their order; the same list as long as nothing in it changes.
 */
export const dataOf = <T,>(queries: readonly { readonly data: T | undefined }[]): T[] =>
  queries.flatMap((q) => (q.data === undefined ? [] : [q.data]));
/** A version never changes once it is saved. */
export const versionQuery = (id: string) => ({
  queryKey: ['version', id],
  queryFn: () => call<VersionView>('GET', `/api/versions/${id}`),
  staleTime: Infinity,
});

/** What cannot be reached. */
export type AwayFrom = 'server' | 'database';

/**
 * A browser gives a stream up that was answered with an error: it is opened again after so long
 * (ms).
 */
const AGAIN = 1000;

/**
 * Listens to the project's news and refetches what they name, and everything once it could have
 * missed some.
 */
export function useEvents(project: string): AwayFrom | null {
  const queries = useQueryClient();
  const [away, setAway] = useState<AwayFrom | null>(null);
  useEffect(() => {
    let source: EventSource,
      again: ReturnType<typeof setTimeout> | undefined,
      missed = false;
    const lost = (from: AwayFrom) => {
      missed = true;
      setAway(from);
    };
    const open = () => {
      source = new EventSource(`/api/projects/${project}/events`);
      source.onerror = () => {
        lost('server');
        if (source.readyState !== EventSource.CLOSED) return;
        clearTimeout(again);
        again = setTimeout(open, AGAIN);
      };
      source.onmessage = onMessage;
    };
    const onMessage = (e: MessageEvent<string>) => {
      if (e.data === 'away') lost('database');
      else if (e.data === 'hello') {
        setAway(null);
        if (missed) void queries.invalidateQueries();
        missed = false;
      } else if (e.data === 'deliveries') {
        void queries.invalidateQueries({ queryKey: ['kiln', project] });
        void queries.invalidateQueries({ queryKey: ['baking'] });
      } else if (e.data === 'references')
        void queries.invalidateQueries({ queryKey: ['references', project] });
      else if (e.data === 'clips' || e.data === 'imports') {
        void queries.invalidateQueries({ queryKey: ['project', project] });
        // A clip that goes on to a new version: the look has one.
        void queries.invalidateQueries({ queryKey: ['looks'] });
      }
    };
    open();
    return () => {
      clearTimeout(again);
      source.close();
    };
  }, [project, queries]);
  return away;
}

export const Away = ({ away }: { away: AwayFrom | null }) =>
  away ? (
    <span role="status" className="framed word text-primary">
      the {away} is away: your changes are kept here
    </span>
  ) : null;
