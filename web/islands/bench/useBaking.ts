/** Which of the hero's frames are available as finished pictures, and the baking of others. */
import { assetsMade, trackMade } from '../../domain/assets';
import { useEffect, useMemo, useRef, useState } from 'react';
import { useStore } from 'zustand';
import { lengthOf, pinned, soloed, subjectKey, withTrims } from '../../../core';
import type { ClipView, ProjectView } from '../../data/views';
import type { EngineClient } from '../../engine/client/client';
import type { AtHandFound, View } from '../../engine/protocol';
import type { BenchStore } from './store';
import { useBakingOf } from '../../data/queries';
import { KILN_SAMPLES } from './BakeByWorkers';
import { sized } from '../../domain/views';
import { useSettled, WORKING_LINES } from './useViews';

/** State of baking. */
export interface BakingState {
  /** State of each frame of the hero, for the current look. */
  readonly states: AtHandFound['states'];
  /** Per frame, whether workers baked it for the Kiln. */
  readonly kiln: AtHandFound['kiln'];
  /** Size at which frames are baked, in pixels. */
  readonly size: readonly [number, number];
  /** Size of the project in pixels, for frames that workers bake for the Kiln. */
  readonly full: readonly [number, number];
  /** Size of everything baked in this browser. */
  readonly total: AtHandFound['total'];
  readonly canBake: boolean;
  readonly run: { readonly done: number; readonly of: number } | null;
  readonly trouble: string | null;
  readonly start: (first: number, last: number) => void;
  readonly stop: () => void;
  readonly clear: () => void;
}
const NONE: AtHandFound['states'] = [],
  NO_KILN: AtHandFound['kiln'] = [];

/** The hero's baking. While `playing` nothing is looked up. */
export function useBaking(
  engine: EngineClient,
  project: ProjectView,
  hero: ClipView,
  store: BenchStore,
  playing: boolean,
): BakingState {
  const settled = useSettled(store),
    solo = useStore(store, (s) => s.solo);
  const [found, setFound] = useState<Pick<AtHandFound, 'states' | 'kiln' | 'total' | 'canBake'>>({
    states: NONE,
    kiln: NO_KILN,
    total: { bytes: 0, files: 0 },
    canBake: true,
  });
  const [run, setRun] = useState<BakingState['run']>(null);
  const [trouble, setTrouble] = useState<string | null>(null);
  const [asked, askAgain] = useState(0);
  const [width, height] = sized(project, WORKING_LINES),
    { width: fullWidth, height: fullHeight } = project;
  /** The hero's view at its first frame, as played. */
  const viewNow = useRef<() => View>(undefined);
  viewNow.current = () => {
    const { look, trims, solo } = store.getState();
    const applied = withTrims(solo === null ? look : soloed(look, solo), trims[hero.id]);
    return {
      id: 'hero',
      clip: hero.id,
      frame: 0,
      look: applied,
      width,
      height,
      from: WORKING_LINES,
    };
  };
  // Events of a clip such as progress of inspections do not change its pictures.
  const { id, encoding, statistics, lookRetime } = hero;
  const made = assetsMade(hero);
  const frames = lengthOf(hero);
  const pictured = useMemo(
    () =>
      subjectKey({
        hash: hero.hash,
        decisions: hero,
        cuts: hero.cuts,
        look: lookRetime ?? null,
        footage: (hash) => pinned(hash, [...project.clips, ...project.plates]),
        tracks: (trace) => trackMade(hero, trace),
        method: [id, statistics, made],
      }),
    [project, hero, id, lookRetime, statistics, made],
  );
  useEffect(
    () => setFound((was) => ({ ...was, states: NONE, kiln: NO_KILN })),
    [settled?.look, settled?.trims, solo, pictured],
  );
  // Frames that workers bake are looked up as they come, a chunk at a time.
  const workers = useBakingOf(hero.id).data,
    theirs =
      workers &&
      [
        workers.run?.state,
        Math.floor((workers.run?.made ?? 0) / 24),
        workers.total.files === 0,
      ].join();
  useEffect(() => {
    if (!settled || playing || run) return;
    engine.atHand(
      viewNow.current!(),
      Array.from({ length: frames }, (_, i) => i),
      { samples: KILN_SAMPLES, width: fullWidth, height: fullHeight, encoding },
      setFound,
    );
  }, [
    engine,
    pictured,
    frames,
    settled,
    solo,
    playing,
    run,
    asked,
    theirs,
    width,
    height,
    fullWidth,
    fullHeight,
    encoding,
  ]);
  // A changed look is not the one being baked.
  useEffect(
    () => () => engine.stopBaking(),
    [engine, pictured, settled?.look, settled?.trims, solo],
  );
  return {
    ...found,
    size: [width, height],
    full: [project.width, project.height],
    run,
    trouble,
    start(first, last) {
      const frames = Array.from({ length: last - first + 1 }, (_, i) => first + i);
      setTrouble(null);
      setRun({ done: 0, of: frames.length });
      engine.bake(viewNow.current!(), frames, (b) => {
        const there = new Set(frames.slice(0, b.done));
        setFound((was) => ({
          ...was,
          states: Array.from({ length: lengthOf(hero) }, (_, f) =>
            there.has(f) ? 'baked' : (was.states[f] ?? null),
          ),
        }));
        setRun(b.ended ? null : { done: b.done, of: b.of });
        if (b.trouble) setTrouble(b.trouble);
      });
    },
    stop: () => engine.stopBaking(),
    clear() {
      engine.clearBaked();
      askAgain(asked + 1);
    },
  };
}
