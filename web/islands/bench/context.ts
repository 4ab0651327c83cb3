import { createContext, useContext } from 'react';
import { useStore } from 'zustand';
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
/** The key of the layer whose controls these are. */
export const LayerContext = createContext<string | undefined>(undefined);
