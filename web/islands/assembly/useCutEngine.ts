/** The engine with the cut, its clips and their looks. */
import { useQueries } from '@tanstack/react-query';
import { useEffect, useMemo, useState } from 'react';
import {
  allPlaces,
  type Cut,
  type CutClip,
  type CutDocument,
  type LookDocument,
  transitionNamed,
  withTrims,
} from '../../../core';
import { dataOf, versionQuery } from '../../data/queries';
import type { ProjectView } from '../../data/views';
import { EngineClient } from '../../engine/client/client';

let named = 0;

/** The looks of all clips, with their trims: null for none, missing while they are loaded. */
export function useWornLooks(project: ProjectView): Readonly<Record<string, LookDocument | null>> {
  const ids = useMemo(
    () => [...new Set(project.clips.flatMap((c) => (c.look ? [c.look.versionId] : [])))],
    [project.clips],
  );
  const versions = useQueries({ queries: ids.map(versionQuery), combine: dataOf });
  return useMemo(
    () =>
      Object.fromEntries(
        [...project.clips, ...project.plates].flatMap((c): [string, LookDocument | null][] => {
          if (!c.look) return [[c.id, null]];
          const version = versions.find((v) => v.id === c.look!.versionId);
          return version ? [[c.id, withTrims(version.document, c.trims[version.lookId])]] : [];
        }),
      ),
    [project.clips, project.plates, versions],
  );
}

/** The cut with everything that it names, for what is computed on the page. */
export function useCut(
  project: ProjectView,
  document: CutDocument,
  worn: Readonly<Record<string, LookDocument | null>>,
): Cut {
  const clips = useMemo(
    () =>
      Object.fromEntries(
        [...project.clips, ...project.plates].flatMap((c) => {
          const look = worn[c.id];
          return look === undefined ? [] : [[c.id, { ...c, look } satisfies CutClip] as const];
        }),
      ),
    [project.clips, project.plates, worn],
  );
  const names = useMemo(
    () => [
      ...new Set(
        [document.whole, ...allPlaces(document).map((p) => p.enters)].flatMap((l) =>
          l ? [l.look] : [],
        ),
      ),
    ],
    [document],
  );
  // Versions never change; the same ones are the same data.
  const versions = useQueries({
    queries: names.filter((n) => !transitionNamed(n)).map(versionQuery),
    combine: dataOf,
  });
  const key = names.join(' ');
  const looks = useMemo(
    () =>
      Object.fromEntries(
        key.split(' ').flatMap((name) => {
          const found =
            transitionNamed(name)?.look ?? versions.find((v) => v.id === name)?.document;
          return found ? [[name, found] as const] : [];
        }),
      ),
    [key, versions],
  );
  return useMemo(
    () => ({ document, rate: project.rate, clips, looks }),
    [document, project.rate, clips, looks],
  );
}

/** Time after which a change reaches the engine, ms: what is dragged is drawn first. */
const LATER = 80;
/** A value as it was when it last changed and then rested for a moment; the first at once. */
function useRested<T>(value: T): T {
  const [rested, setRested] = useState(value);
  useEffect(() => {
    if (value === rested) return;
    const timer = setTimeout(() => setRested(value), LATER);
    return () => clearTimeout(timer);
  }, [value, rested]);
  return rested;
}

/** An engine that knows the cut; `cut`: its name in views. */
export function useCutEngine(
  project: ProjectView,
  cut: Cut,
  worn: Readonly<Record<string, LookDocument | null>>,
): { readonly engine: EngineClient; readonly cut: string } {
  const engine = useMemo(() => new EngineClient('bt709'), []);
  useEffect(() => () => engine.close(), [engine]);
  const rested = useRested(useMemo(() => ({ cut, worn }), [cut, worn]));
  const known = useMemo(() => ({ id: `cut ${named++}`, ...rested }), [rested]);
  // Effects of what names the cut in views come after these.
  useEffect(() => {
    engine.clips([...project.clips, ...project.plates], project.id);
  }, [engine, project]);
  useEffect(() => {
    const { id, cut: of, worn: looks } = known;
    const text = JSON.stringify(of.document);
    engine.cut({ id, text, rate: of.rate, looks: of.looks, worn: looks });
  }, [engine, known]);
  return { engine, cut: known.id };
}
