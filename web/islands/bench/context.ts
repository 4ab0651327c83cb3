import { replaceEqualDeep } from '@tanstack/react-query';
import { createContext, useContext, useMemo, useRef } from 'react';
import { useStore } from 'zustand';
import { useShallow } from 'zustand/react/shallow';
import {
  type Asking,
  edit,
  evaluationAt,
  type Framing,
  type Layer,
  type LookDocument,
  type Parameter,
  type ParameterValue,
  resolve,
  type Setting,
  timeOf,
  lengthOf,
  type Track,
} from '../../../core';
import type { ClipTime, Rate } from '../../../core/time';
import type { ClipView } from '../../data/views';
import type { EngineClient } from '../../engine/client/client';
import type { BenchState, BenchStore } from './store';

/** The Bench's store and engine. */
export const BenchContext = createContext<{ store: BenchStore; engine: EngineClient } | null>(null);
const useContextOfBench = () => {
  const c = useContext(BenchContext);
  if (!c) throw new Error('outside the Bench');
  return c;
};
/** A part of the Bench's state. */
export const useBench = <T>(pick: (s: BenchState) => T): T =>
  useStore(useContextOfBench().store, pick);
/**
 * A value that `pick` computes from the look without its dials' values. It is recomputed when the
 * look changes, and keeps its identity while it is equal.
 */
export function useStill<T>(pick: (look: LookDocument) => T): T {
  const found = useRef<{ readonly look: LookDocument; readonly pick: unknown; readonly value: T }>(
    undefined,
  );
  return useBench(({ still }) => {
    const last = found.current;
    if (last?.look === still && last.pick === pick) return last.value;
    const value = replaceEqualDeep(last?.value, pick(still)) as T;
    found.current = { look: still, pick, value };
    return value;
  });
}
/** The pins that the look asks for and its frame; constant while steps and dials change. */
export const useAsking = (): Asking =>
  useBench(useShallow((s) => ({ pins: s.still.pins, frame: s.still.frame })));
/** The store, for reading it in event handlers. */
export const useStoreItself = (): BenchStore => useContextOfBench().store;
/** The engine. */
export const useEngine = (): EngineClient => useContextOfBench().engine;
/** The part of a layer that its controls' labels use. */
export type LayerFace = Pick<Layer, 'key' | 'name' | 'on'>;
/** Whether two layers look equal to their parts. */
export const sameFace = (a: LayerFace, b: LayerFace): boolean =>
  a.key === b.key && a.name === b.name && a.on === b.on;

/** Footage with coverage that the hero's pins name, and its position in the look frame. */
export interface Covering {
  readonly id: string;
  readonly name: string;
  readonly framing: Framing;
}
/** Footage that covers the hero. */
export const CoveringContext = createContext<readonly Covering[]>([]);
/** Facts about the hero: encoding, statistics and time. */
export interface HeroFacts extends Pick<
  ClipView,
  'id' | 'hash' | 'encoding' | 'statistics' | 'frames' | 'retime' | 'lookRetime' | 'rate' | 'pins'
> {
  /** Id of its project. */
  readonly project: string;
  readonly projectRate: Rate;
  /** Width ÷ height of the look frame. */
  readonly aspect: number;
}
/** Facts about the hero. */
export const ClipContext = createContext<HeroFacts | null>(null);
/** Facts about the hero. Throws outside the Bench. */
export const useHeroFacts = (): HeroFacts => {
  const hero = useContext(ClipContext);
  if (!hero) throw new Error('outside the Bench');
  return hero;
};
/** The hero's time as looks see it. */
export function useClipTime(): ClipTime {
  const hero = useHeroFacts();
  return useMemo(() => timeOf(hero), [hero]);
}
/** The playhead's frame on a clip. */
export const playheadOf = (hero: HeroFacts, s: BenchState): number => {
  const length = lengthOf(hero);
  return Math.max(0, Math.min(length - 1, s.frames[hero.id] ?? Math.floor(length / 2)));
};
/** Reads the hero's playhead on demand, without re-rendering as it runs. */
export function usePlayheadNow(): () => number {
  const hero = useHeroFacts(),
    store = useStoreItself();
  return () => playheadOf(hero, store.getState());
}
/**
 * The value of a parameter at the playhead after all movers (or only one); undefined if none moves
 * it.
 */
export function useMoved(
  path: string | undefined,
  p: Parameter,
  setting: Setting,
  only?: string,
): ParameterValue | undefined {
  const hero = useHeroFacts(),
    time = useClipTime();
  const moves = useStill(
    (look) => path !== undefined && edit.moversOf(look, path).some((m) => m.on),
  );
  // Parameters that stand still do not re-render as the playhead runs.
  const frame = useBench((s) => (moves ? playheadOf(hero, s) : 0));
  const all = useBench((s) => (moves ? s.look : null));
  return useMemo(() => {
    if (!all || path === undefined) return undefined;
    const look =
      only === undefined
        ? all
        : { ...all, movers: (all.movers ?? []).filter((m) => m.key === only) };
    const at = evaluationAt(look, {}, { ...time, frame, content: hero.hash, aspect: hero.aspect });
    return at.moved(path, p, resolve(look, setting, at.dials, at));
  }, [all, only, path, p, setting, time, frame, hero]);
}
/** Key of the layer whose controls these are. */
export const LayerContext = createContext<string | undefined>(undefined);

/** The tracks of the hero's traces that are made, by the traces' ids. */
export const TracksContext = createContext<ReadonlyMap<string, Track>>(new Map());
