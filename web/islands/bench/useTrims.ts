/**
 * Synchronises the Bench's trims with the server: gestures are sent when they end, other people's
 * trims are received.
 */
import { useQueryClient } from '@tanstack/react-query';
import { useEffect, useEffectEvent, useRef } from 'react';
import type { DialValues } from '../../../core';
import type { TrimsByLook } from '../../../core';
import { useEditMutation } from '../../data/clip-edits';
import type { ClipView, ProjectView } from '../../data/views';
import type { BenchStore } from './store';
import { NO_TRIMS, type TrimsByClip } from './trim-values';

const same = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b);
/** Each clip's trims of one look. */
export const trimsOf = (p: ProjectView, look: string): TrimsByClip =>
  Object.fromEntries(p.clips.flatMap((c) => (c.trims[look] ? [[c.id, c.trims[look]]] : [])));

/** A clip's trims with those of one look replaced; empty ones are removed. */
export function withLookTrims(all: TrimsByLook, look: string, trims: DialValues): TrimsByLook {
  const others = Object.entries(all).filter(([key]) => key !== look);
  return Object.fromEntries(Object.keys(trims).length > 0 ? [...others, [look, trims]] : others);
}

/** Time without changes (ms) after which a gesture counts as ended. */
const STILL = 500;

/**
 * Synchronises trims. While the server is away they are kept with all other edits of clips
 * (`useEditMutation`).
 */
export function useTrims(
  store: BenchStore,
  project: ProjectView,
  look: string,
  onTrouble: (text: string) => void,
): void {
  const queries = useQueryClient();
  const sending = useEditMutation(project.id);
  /** Each clip's trims as the server has them or will have, once everything sent has arrived. */
  const held = useRef(new Map<string, TrimsByLook>());

  const receive = useEffectEvent((clips: readonly ClipView[]) => {
    const news = clips.filter((c) => !same(held.current.get(c.id), c.trims));
    news.forEach((c) => held.current.set(c.id, c.trims));
    const own = news.map((c) => [c.id, c.trims[look] ?? NO_TRIMS] as const);
    if (own.length > 0)
      store.getState().heard({ ...store.getState().trims, ...Object.fromEntries(own) });
  });
  useEffect(() => receive(project.clips), [project.clips]);

  const send = useEffectEvent(async (): Promise<void> => {
    const { trims } = store.getState();
    const next = [...held.current]
      .filter(([clip, all]) => !same(all[look] ?? NO_TRIMS, trims[clip] ?? NO_TRIMS))
      .map(([clip, all]) => ({
        clip,
        was: { trims: all },
        to: { trims: withLookTrims(all, look, trims[clip] ?? NO_TRIMS) },
      }));
    if (next.length === 0) return;
    next.forEach(({ clip, to }) => held.current.set(clip, to.trims));
    const refused = await sending(next);
    if (!refused) return;
    onTrouble(refused.message);
    // Rejected: the server's trims count.
    const key = ['project', project.id];
    next.forEach(({ clip }) => held.current.delete(clip));
    await queries.invalidateQueries({ queryKey: key });
    receive(queries.getQueryData<ProjectView>(key)?.clips ?? []);
  });
  useEffect(() => {
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
  }, [store, project.id, look]);
}
