/**
 * Shared by all islands: queries that the server's events keep fresh, and the wrapper around an
 * island.
 */
import { QueryClient, QueryClientProvider, useQuery, useQueryClient } from '@tanstack/react-query';
import { type ReactNode, useEffect, useState } from 'react';
import { call } from './http';
import { useLeftEdits, usePendingEdits } from './clip-edits';
import { Boundary } from './Boundary';
import type {
  BakingView,
  CutView,
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

/** The wrapper around an island: the query client, and words where something in it breaks. */
export const Island = ({ children }: { children: ReactNode }) => (
  <QueryClientProvider client={client}>
    <Boundary>{children}</Boundary>
  </QueryClientProvider>
);

/** A project, with pending edits applied. */
export function useProject(id: string, enabled = true) {
  const select = usePendingEdits(id);
  return useQuery({
    queryKey: ['project', id],
    queryFn: () => call<ProjectView>('GET', `/api/projects/${id}`),
    enabled,
    select,
  });
}
/** All looks. */
export const useLooks = () =>
  useQuery({ queryKey: ['looks'], queryFn: () => call<LookView[]>('GET', '/api/looks') });
/** All pieces. */
export const usePieces = () =>
  useQuery({ queryKey: ['pieces'], queryFn: () => call<PieceView[]>('GET', '/api/pieces') });
/** The references of a project. */
export const useReferences = (project: string) =>
  useQuery({
    queryKey: ['references', project],
    queryFn: () => call<ReferenceView[]>('GET', `/api/projects/${project}/references`),
  });
/** The deliveries of a project. */
export const useKiln = (id: string) =>
  useQuery({
    queryKey: ['kiln', id],
    queryFn: () => call<KilnView>('GET', `/api/projects/${id}/deliveries`),
    refetchInterval: 10_000,
  });
/** The baking of a clip by workers. */
export const useBakingOf = (clip: string) =>
  useQuery({
    queryKey: ['baking', clip],
    queryFn: () => call<BakingView>('GET', `/api/clips/${clip}/bake`),
  });
/** The cut of a project, with its versions. */
export const useCutView = (project: string) =>
  useQuery({
    queryKey: ['cut', project],
    queryFn: () => call<CutView>('GET', `/api/projects/${project}/cut`),
  });
/** The baking of a project's cut by workers. */
export const useBakingOfCut = (project: string) =>
  useQuery({
    queryKey: ['baking', 'cut', project],
    queryFn: () => call<BakingView>('GET', `/api/projects/${project}/cut/bake`),
  });
/**
 * The data of several queries, in order, without those that have none; the same array while nothing
 * changes.
 */
export const dataOf = <T,>(queries: readonly { readonly data: T | undefined }[]): T[] =>
  queries.flatMap((q) => (q.data === undefined ? [] : [q.data]));
/** A version; it never changes. */
export const versionQuery = (id: string) => ({
  queryKey: ['version', id],
  queryFn: () => call<VersionView>('GET', `/api/versions/${id}`),
  staleTime: Infinity,
});

/** What cannot be reached. */
export type AwayFrom = 'server' | 'database';

/** Delay before reopening a stream that was answered with an error, ms; browsers give it up. */
const AGAIN = 1000;

/**
 * Subscribes to the project's events and refetches what they concern; everything after an
 * interruption. Returns what cannot be reached.
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
      } else if (e.data === 'looks') void queries.invalidateQueries({ queryKey: ['looks'] });
      else if (e.data === 'cut') void queries.invalidateQueries({ queryKey: ['cut', project] });
      else if (e.data === 'references')
        void queries.invalidateQueries({ queryKey: ['references', project] });
      else if (e.data === 'clips' || e.data === 'imports') {
        void queries.invalidateQueries({ queryKey: ['project', project] });
        // A clip moved to a new version, so the look has one.
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

/**
 * A message while the server or the database cannot be reached, and about edits of an earlier visit
 * that somebody else has overtaken.
 */
export const Away = ({ away, project }: { away: AwayFrom | null; project: string }) => {
  const left = useLeftEdits(project);
  const text = away ? `the ${away} is away: your changes are kept here` : left;
  return text ? (
    <span role="status" className="framed word text-primary">
      {text}
    </span>
  ) : null;
};
