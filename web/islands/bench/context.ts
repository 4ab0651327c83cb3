import { createContext, useContext } from 'react';
import { useStore } from 'zustand';
import type { Framing } from '../../../core';
import type { EngineClient } from '../../engine/client';
import type { BenchState, BenchStore } from './store';

export const BenchContext = createContext<{ store: BenchStore; engine: EngineClient } | null>(null);
const inBench = () => {
  const c = useContext(BenchContext);
  if (!c) throw new Error('outside the Bench');
  return c;
};
export const useBench = <T>(pick: (s: BenchState) => T): T => useStore(inBench().store, pick);
export const useStoreItself = (): BenchStore => inBench().store;
export const useEngine = (): EngineClient => inBench().engine;
/** Footage with coverage that the hero's pins name, and how its picture lies in the look frame. */
export interface Covering {
  readonly id: string;
  readonly name: string;
  readonly framing: Framing;
}
export const CoveringContext = createContext<readonly Covering[]>([]);
/** The key of the layer whose controls these are. */
export const LayerContext = createContext<string | undefined>(undefined);
