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
} from '../../../core';
import type { ClipTime, Rate } from '../../../core/time';
import type { ClipView } from '../../data/views';
import type { EngineClient } from '../../engine/client/client';
import type { BenchState, BenchStore } from './store';

export const BenchContext = createContext<{ store: BenchStore; engine: EngineClient } | null>(null);
const useContextOfBench = () => {
  const c = useContext(BenchContext);
  if (!c) throw new Error('outside the Bench');
  return c;
};
export const useBench = <T>(pick: (s: BenchState) => T): T =>
  useStore(useContextOfBench().store, pick);
/**
 * As `pick` finds it in the look but for where its dials stand: looked for when that changes, the
 * same object as long as nothing in it differs.
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
/** What the look asks of clips, and its frame: the same while steps and dials change. */
export const useAsking = (): Asking =>
  useBench(useShallow((s) => ({ pins: s.still.pins, frame: s.still.frame })));
export const useStoreItself = (): BenchStore => useContextOfBench().store;
export const useEngine = (): EngineClient => useContextOfBench().engine;
/** What parts of a layer need to know of it besides themselves. */
export type LayerFace = Pick<Layer, 'key' | 'name' | 'on'>;
export const sameFace = (a: LayerFace, b: LayerFace): boolean =>
  a.key === b.key && a.name === b.name && a.on === b.on;

/** Footage with coverage that the hero's pins name, and how its picture lies in the look frame. */
export interface Covering {
  readonly id: string;
  readonly name: string;
  readonly framing: Framing;
}
export const CoveringContext = createContext<readonly Covering[]>([]);
/** The hero: how it is coded, its statistics, and its time. */
export interface HeroFacts extends Pick<
  ClipView,
  'id' | 'hash' | 'encoding' | 'statistics' | 'frames' | 'retime' | 'lookRetime' | 'rate' | 'pins'
> {
  /** Whose it is. */
  readonly project: string;
  readonly projectRate: Rate;
  /** The look frame's width over its height. */
  readonly aspect: number;
}
export const ClipContext = createContext<HeroFacts | null>(null);
export const useHeroFacts = (): HeroFacts => {
  const hero = useContext(ClipContext);
  if (!hero) throw new Error('outside the Bench');
  return hero;
};
/** The hero's time as looks count in it. */
export function useClipTime(): ClipTime {
  const hero = useHeroFacts();
  return useMemo(() => timeOf(hero), [hero]);
}
/** The frame on which a clip's playhead stands. */
export const playheadOf = (hero: HeroFacts, s: BenchState): number => {
  const length = lengthOf(hero);
  return Math.max(0, Math.min(length - 1, s.frames[hero.id] ?? Math.floor(length / 2)));
};
/** Where the hero's playhead stands when it is asked for; nothing is drawn anew as it runs. */
export function usePlayheadNow(): () => number {
  const hero = useHeroFacts(),
    store = useStoreItself();
  return () => playheadOf(hero, store.getState());
}
/**
 * What movers (or of them only one) make of a parameter at the playhead; undefined where none moves
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
  // What stands still is not drawn anew as the playhead runs.
  const frame = useBench((s) => (moves ? playheadOf(hero, s) : 0));
  const all = useBench((s) => (moves ? s.look : null));
  return useMemo(() => {
    if (!all || path === undefined) return undefined;
    const look =
      only === undefined
        ? all
        : { ...all, movers: (all.movers ?? []).filter((m) => m.key === only) };
    const at = evaluationAt(look, {}, { ...time, frame, content: hero.hash, aspect: hero.aspect });
    return at.moved(path, p, resolve(look, setting, at.dials, at.moved));
  }, [all, only, path, p, setting, time, frame, hero]);
}
/** The key of the layer whose controls these are. */
export const LayerContext = createContext<string | undefined>(undefined);
