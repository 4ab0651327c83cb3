/**
 * Synchronises the Bench's trims with the server: gestures are sent when they end, other people's
 * trims are received.
 */
import { useQueryClient } from '@tanstack/react-query';
import { useCallback, useEffect, useRef } from 'react';
import type { DialValues } from '../../../core';
import type { TrimsByLook } from '../../../server/database/columns';
import { call, type Refused } from '../../data/http';
import type { ClipView, ProjectView } from '../../data/views';
import { type BenchStore, NO_TRIMS, type TrimsByClip } from './store';

const same = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b);
/** Each clip's trims of one look. */
export const trimsOf = (p: ProjectView, look: string): TrimsByClip =>
  Object.fromEntries(p.clips.flatMap((c) => (c.trims[look] ? [[c.id, c.trims[look]]] : [])));

/** A clip's trims with those of one look replaced; empty ones are removed. */
export function withLookTrims(all: TrimsByLook, look: string, trims: DialValues): TrimsByLook {
  const others = Object.entries(all).filter(([key]) => key !== look);
  return Object.fromEntries(Object.keys(trims).length > 0 ? [...others, [look, trims]] : others);
}

/** Delay before a failed request is sent again, ms. */
const AGAIN = 3000;
/** Time without changes (ms) after which a gesture counts as ended. */
const STILL = 500;

/** Synchronises trims. */
export function useTrims(
  store: BenchStore,
  project: ProjectView,
  look: string,
  onTrouble: (text: string) => void,
): void {
  const queries = useQueryClient();
  /** The server's trims, as far as known. */
  const held = useRef(new Map<string, TrimsByLook>());
  const underWay = useRef<readonly string[]>([]);
  const told = useRef(onTrouble);
  told.current = onTrouble;

  const onDials = useCallback(
    (clips: readonly ClipView[]) => {
      // For trims being sent, the answer decides.
      const news = clips.filter(
        (c) => !underWay.current.includes(c.id) && !same(held.current.get(c.id), c.trims),
      );
      news.forEach((c) => held.current.set(c.id, c.trims));
      const own = news.map((c) => [c.id, c.trims[look] ?? NO_TRIMS] as const);
      if (own.length > 0)
        store.getState().heard({ ...store.getState().trims, ...Object.fromEntries(own) });
    },
    [store, look],
  );
  useEffect(() => onDials(project.clips), [onDials, project.clips]);

  useEffect(() => {
    const key = ['project', project.id];
    const send = async (): Promise<void> => {
      const { trims } = store.getState();
      if (underWay.current.length > 0) return;
      const changed = [...held.current].filter(
        ([clip, all]) => !same(all[look] ?? NO_TRIMS, trims[clip] ?? NO_TRIMS),
      );
      if (changed.length === 0) return;
      const next = changed.map(([clip, all]) => ({
        clip,
        was: { trims: all },
        to: { trims: withLookTrims(all, look, trims[clip] ?? NO_TRIMS) },
      }));
      underWay.current = changed.map(([clip]) => clip);
      try {
        await call('POST', `/api/projects/${project.id}/clips`, { clips: next });
        next.forEach(({ clip, to }) => held.current.set(clip, to.trims));
        underWay.current = [];
        void send();
      } catch (e) {
        told.current((e as Refused).message);
        underWay.current = [];
        if ((e as Refused).status === 0) return void setTimeout(() => void send(), AGAIN);
        // Rejected: the server's trims count.
        changed.forEach(([clip]) => held.current.delete(clip));
        await queries.invalidateQueries({ queryKey: key });
        onDials(queries.getQueryData<ProjectView>(key)?.clips ?? []);
      }
    };
    let still: ReturnType<typeof setTimeout> | undefined;
    const stop = store.subscribe((s, before) => {
      if (s.trims === before.trims && s.gesture === before.gesture) return;
      clearTimeout(still);
      if (s.gesture === null) void send();
      else still = setTimeout(() => void send(), STILL);
    });
    const leave = () => void send();
    addEventListener('pagehide', leave);
    return () => {
      stop();
      clearTimeout(still);
      removeEventListener('pagehide', leave);
    };
  }, [store, project.id, look, queries, onDials]);
}
