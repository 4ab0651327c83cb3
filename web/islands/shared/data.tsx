/** What all islands share: queries kept fresh by the server's own news, and the frame around an island. */
import { QueryClient, QueryClientProvider, useQuery, useQueryClient } from '@tanstack/react-query';
import { type ReactNode, useEffect, useState } from 'react';
import { call } from '../../api/client';
import type { KilnView, LookView, PieceView, ProjectView, ReferenceView, VersionView } from '../../api/views';

const client = new QueryClient({ defaultOptions: { queries: { staleTime: 10_000, retry: 2, refetchOnWindowFocus: false } } });

export const Island = ({ children }: { children: ReactNode }) => <QueryClientProvider client={client}>{children}</QueryClientProvider>;

export const useProject = (id: string) => useQuery({ queryKey: ['project', id], queryFn: () => call<ProjectView>('GET', `/api/projects/${id}`) });
export const useLooks = () => useQuery({ queryKey: ['looks'], queryFn: () => call<LookView[]>('GET', '/api/looks') });
export const usePieces = () => useQuery({ queryKey: ['pieces'], queryFn: () => call<PieceView[]>('GET', '/api/pieces') });
export const useReferences = (project: string) =>
  useQuery({ queryKey: ['references', project], queryFn: () => call<ReferenceView[]>('GET', `/api/projects/${project}/references`) });
export const useKiln = (id: string) =>
  useQuery({ queryKey: ['kiln', id], queryFn: () => call<KilnView>('GET', `/api/projects/${id}/deliveries`), refetchInterval: 10_000 });
/** A version never changes once it is saved. */
export const versionQuery = (id: string) => ({
  queryKey: ['version', id],
  queryFn: () => call<VersionView>('GET', `/api/versions/${id}`),
  staleTime: Infinity,
});

/** Listens to the project's news and refetches what they name; true while the server is away. */
export function useNews(project: string): boolean {
  const queries = useQueryClient();
  const [away, setAway] = useState(false);
  useEffect(() => {
    const source = new EventSource(`/api/projects/${project}/events`);
    source.onopen = () => setAway(false);
    source.onerror = () => setAway(true);
    source.onmessage = (e: MessageEvent<string>) => {
      if (e.data === 'deliveries') void queries.invalidateQueries({ queryKey: ['kiln', project] });
      else if (e.data === 'references') void queries.invalidateQueries({ queryKey: ['references', project] });
      else if (e.data === 'clips' || e.data === 'imports') {
        void queries.invalidateQueries({ queryKey: ['project', project] });
        // A clip that goes on to a new version: the look has one.
        void queries.invalidateQueries({ queryKey: ['looks'] });
      }
    };
    return () => source.close();
  }, [project, queries]);
  return away;
}

export const Away = ({ away }: { away: boolean }) =>
  away ? (
    <span role="status" className="framed word text-primary">
      the server is away: your changes are kept here
    </span>
  ) : null;
