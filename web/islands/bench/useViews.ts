/**
 * Requests the Bench's views from the engine: the hero first, then companions; the strata's
 * pictures when idle.
 */
import { useEffect, useState } from 'react';
import { useStore } from 'zustand';
import { allLayers, type FieldView, type LookDocument, soloed, withTrims } from '../../../core';
import type { ClipView, ProjectView } from '../../data/views';
import { bareLook } from '../../domain/bare-look';
import { restingFrame, sized } from '../../domain/views';
import type { EngineClient } from '../../engine/client/client';
import type { ScopesWanted, View } from '../../engine/protocol';
import type { BeforeShot } from './comparison';
import type { BenchState, BenchStore, MatteShown } from './store';
import type { TrimsByClip } from './trim-values';

/** What the Bench shows. */
export interface Looking {
  readonly hero: ClipView;
  readonly frame: number;
  readonly companions: readonly ClipView[];
  /** While playing: height in lines, and the next frames. */
  readonly playing: { readonly lines: number; readonly ahead: readonly number[] } | undefined;
  /** What *before* is, if shown; with a gain, the difference from it. */
  readonly before: BeforeShot | undefined;
  readonly gain: number | undefined;
  readonly marks: boolean;
  /** Looks to show the hero under, small. */
  readonly trials: readonly LookDocument[];
  readonly full: boolean;
  readonly scopes: ScopesWanted | undefined;
}

/** True when the subject has not changed for a while. */
function useQuiet(subject: string, wait: number): boolean {
  const [quiet, setQuiet] = useState<string | null>(null);
  useEffect(() => {
    const timer = setTimeout(() => setQuiet(subject), wait);
    return () => clearTimeout(timer);
  }, [subject, wait]);
  return quiet === subject;
}

/** Delay (ms) of the strata's pictures after a change; during a drag they would delay the hero. */
const SETTLED = 450;

type Dialled = Pick<BenchState, 'look' | 'trims'>;
const isSettled = (store: BenchStore, settled: Dialled | null): boolean => {
  const { look, trims } = store.getState();
  return look === settled?.look && trims === settled.trims;
};
/**
 * Look and trims after they have not changed for a while. Components do not re-render while they
 * change.
 */
export function useSettled(store: BenchStore): Dialled | null {
  const [settled, setSettled] = useState<Dialled | null>(null);
  useEffect(() => {
    let timer: ReturnType<typeof setTimeout> | undefined;
    const wait = () => {
      clearTimeout(timer);
      timer = setTimeout(() => setSettled(store.getState()), SETTLED);
    };
    wait();
    const stop = store.subscribe((s, before) => {
      if (s.look !== before.look || s.trims !== before.trims) wait();
    });
    return () => {
      stop();
      clearTimeout(timer);
    };
  }, [store]);
  return settled;
}

/** The engine is asked as soon as the look changes, before the page re-renders. */
export function useViews(
  engine: EngineClient,
  project: ProjectView,
  store: BenchStore,
  looking: Looking,
): void {
  const { hero, frame, companions, playing, before, gain, marks, trials, full, scopes } = looking;
  const solo = useStore(store, (s) => s.solo),
    matte = useStore(store, (s) => s.matteShown) ?? undefined,
    field = useStore(store, (s) => s.fieldShown) ?? undefined;
  const parked = useQuiet(`${hero.id}:${hero.encoding}:${frame}:${!!playing}`, 180) && !playing;
  const settled = useSettled(store);
  useEffect(() => {
    engine.clips([...project.clips, ...project.plates]);
  }, [engine, project.clips, project.plates]);
  useEffect(() => {
    const ask = () => {
      const { look: now, trims, solo, matteShown, fieldShown } = store.getState();
      const seen = { hero, frame, companions, playing, before, gain, marks, trials, full, scopes };
      const alone = solo === null ? now : soloed(now, solo);
      engine.request(
        viewsOf(project, alone, trims, seen, parked, isSettled(store, settled), {
          matte: matteShown,
          field: fieldShown,
        }),
        scopes,
        playing?.ahead,
      );
    };
    ask();
    return store.subscribe((s, before) => {
      if (s.look !== before.look || s.trims !== before.trims) ask();
    });
  }, [
    engine,
    project,
    store,
    hero,
    frame,
    companions,
    playing,
    before,
    gain,
    marks,
    trials,
    full,
    scopes,
    parked,
    settled,
    solo,
    matte,
    field,
  ]);
  useEffect(() => {
    if (!settled || !isSettled(store, settled) || playing) return;
    const [w, h] = sized(project, IDLE_LINES);
    const shot = {
      clip: hero.id,
      frame,
      look: withTrims(settled.look, settled.trims[hero.id]),
      from: 540,
    } as const;
    engine.ask(shot, w, h, (idle) => store.getState().show({ idle }));
  }, [engine, project, store, hero, frame, playing, settled]);
}

/** Height in lines at which effects are measured. */
const IDLE_LINES = 90;

/** Height in lines at which the hero is computed, unless it is shown at full size. */
export const WORKING_LINES = 540;
/** The proxy for a height. */
export const sourceFor = (lines: number): 540 | 270 => (lines > 270 ? 540 : 270);

/** Views of each clip under the look with its own trims. */
function viewsOf(
  project: ProjectView,
  plain: LookDocument,
  trims: TrimsByClip,
  looking: Looking,
  parked: boolean,
  quiet: boolean,
  { matte, field }: { readonly matte: MatteShown | null; readonly field: FieldView | null },
): View[] {
  const { hero, frame, companions, playing, before, gain, marks, trials, full } = looking;
  const look = withTrims(plain, trims[hero.id]);
  const [width, height] = sized(
      project,
      playing ? playing.lines : full ? project.height : WORKING_LINES,
    ),
    [w, h] = sized(project, 270);
  const main = {
    clip: hero.id,
    frame,
    width,
    height,
    from: parked ? 'exact' : playing ? sourceFor(playing.lines) : 540,
  } as const;
  const views: View[] = [
    {
      ...main,
      id: 'hero',
      look,
      ...(marks && { marks }),
      ...(matte && { matte }),
      ...(field && { field }),
    },
  ];
  const was = before && { ...before, look: before.look ?? bareLook(look) };
  if (was && gain !== undefined)
    views.push({ ...main, id: 'difference', look, against: { ...main, ...was, gain } });
  else if (was) views.push({ ...main, id: 'before', ...was });
  if (playing) return views;
  const [vw, vh] = sized(project, 180);
  trials.forEach((v, i) =>
    views.push({ ...main, id: `trial:${i}`, look: v, width: vw, height: vh, from: 270 }),
  );
  for (const c of companions) {
    const own = withTrims(plain, trims[c.id]);
    views.push({
      id: `companion:${c.id}`,
      clip: c.id,
      frame: restingFrame(c, own),
      width: w,
      height: h,
      look: own,
      from: 270,
    });
  }
  if (quiet)
    for (const key of ['', ...allLayers(look).map((l) => l.key)])
      views.push({ ...main, id: `stratum:${key}`, look, layer: key });
  return views;
}
