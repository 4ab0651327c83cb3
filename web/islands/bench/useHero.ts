/** The hero: which clip it is, its playhead, and decisions about it. */
import { useQueryClient } from '@tanstack/react-query';
import { useEffect, useMemo, useState } from 'react';
import { useStore } from 'zustand';
import {
  type ClipDecisions,
  type ClipPins,
  type Reframe,
  lengthOf,
  underLook,
  withTrims,
} from '../../../core';
import type { ClipEdit } from '../../../server/clips/clips';
import type { ClipView, ProjectView } from '../../data/views';
import { backwards, editOf, useEditMutation } from '../../data/clip-edits';
import type { BenchStore } from './store';

/** A reframe that is being tried. */
interface Tried {
  readonly clip: string;
  readonly reframe: Reframe;
}
const withReframe = (p: ProjectView, tried: Tried | null): ProjectView =>
  tried
    ? {
        ...p,
        clips: p.clips.map((c) => (c.id === tried.clip ? { ...c, reframe: tried.reframe } : c)),
      }
    : p;
/** The initial hero: the first clip that wears the look. */
const firstHero = (p: ProjectView, lookId: string): string =>
  (p.clips.find((c) => c.look?.lookId === lookId) ?? p.clips[0]!).id;

/** State of the hero. */
export interface HeroState {
  readonly hero: ClipView;
  readonly frame: number;
  readonly setFrame: (f: number) => void;
  /** The project with tried values. */
  readonly project: ProjectView;
  readonly choose: (clip: string) => void;
  readonly tryReframe: (r: Reframe | null) => void;
  /** Stores a decision about the hero on the server; it is undone among the look's changes. */
  readonly set: (name: string, to: Partial<ClipDecisions>) => void;
  readonly setPins: (name: string, pins: ClipPins) => void;
}

/**
 * The hero's state. `clip` and `at` are those requested by the URL; `onTrouble` is called with
 * rejections.
 */
export function useHero(
  store: BenchStore,
  known: ProjectView,
  clip: string | null,
  at: number | null,
  onTrouble: (text: string) => void,
): HeroState {
  const queries = useQueryClient();
  const [tried, setTried] = useState<Tried | null>(null);
  const project = useMemo(() => withReframe(known, tried), [known, tried]);
  const [heroId, choose] = useState(
    () => clip ?? firstHero(project, store.getState().opened.lookId),
  );
  const plain = project.clips.find((c) => c.id === heroId) ?? project.clips[0]!;
  // Keeps its identity while dials do not change it.
  const lookRetime = useStore(
    store,
    (s) => underLook(plain, withTrims(s.look, s.trims[plain.id])).lookRetime ?? null,
  );
  const hero = useMemo(() => (lookRetime ? { ...plain, lookRetime } : plain), [plain, lookRetime]);
  const frames = useStore(store, (s) => s.frames);
  useState(() => {
    if (clip !== null && Number.isInteger(at)) store.getState().seek(clip, at!);
  });
  const length = lengthOf(hero);
  const held = (f: number) => Math.max(0, Math.min(length - 1, f));
  const send = useEditMutation(project.id);
  const sendHero = (edits: readonly ClipEdit[]) =>
    void send(edits).then((refused) => refused && onTrouble(refused.message));
  const set = (name: string, to: Partial<ClipDecisions>) => {
    // The current hero, not that of the time when the place was requested.
    const now =
      queries
        .getQueryData<ProjectView>(['project', project.id])
        ?.clips.find((c) => c.id === hero.id) ?? hero;
    const change = [editOf(now, to)];
    sendHero(change);
    store
      .getState()
      .did(name, { undo: () => sendHero(backwards(change)), redo: () => sendHero(change) });
  };
  useEffect(() => {
    if (store.getState().trimming !== null) store.getState().trimFor(hero.id);
  }, [store, hero.id]);
  return {
    hero,
    frame: held(frames[hero.id] ?? Math.floor(length / 2)),
    setFrame: (f) => store.getState().seek(hero.id, held(f)),
    project,
    choose,
    tryReframe: (reframe) => setTried(reframe && { clip: hero.id, reframe }),
    set,
    setPins: (name, pins) => set(name, { pins }),
  };
}
