import { useQueryClient } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import {
  edit,
  INNER,
  type InnerLook,
  innerDials,
  type Layer,
  liesWithin,
  type LookDocument,
  type LookVersion,
} from '../../../core';
import type { LookView } from '../../data/views';
import { Choice } from '../../components/Choice';
import { useLooks, versionQuery } from '../../data/queries';
import { useBench, useStill, useStoreItself } from './context';
import { ParameterControl } from './controls/ParameterControl';

/** Prefix of options that are looks of the Shelf. */
const LOOK = 'look:';
/** Whether an option is a look. */
export const isLook = (choice: string): boolean => choice.startsWith(LOOK);

/**
 * Looks of the Shelf as options for layers, and loading of their newest versions; failures are
 * shown.
 */
export function useShelfLooks() {
  const queries = useQueryClient(),
    own = useStoreItself().getState().opened.lookId;
  const [trouble, setTrouble] = useState<string | null>(null);
  const looks = (useLooks().data ?? []).filter((l) => l.id !== own && l.versions.length > 0);
  const fetched = async (
    choice: string,
  ): Promise<{ readonly document: LookDocument; readonly of: LookVersion } | null> => {
    setTrouble(null);
    const look = looks.find((l) => `${LOOK}${l.id}` === choice);
    if (!look) return null;
    try {
      const { document, number } = await queries.fetchQuery(versionQuery(look.versions[0]!.id));
      if (!liesWithin(document, own)) return { document, of: { look: look.id, version: number } };
      setTrouble(`${look.name} begins with this look itself: it cannot lie within it.`);
    } catch (e) {
      setTrouble((e as Error).message);
    }
    return null;
  };
  return { looks, fetched, trouble };
}
type ShelfLooks = ReturnType<typeof useShelfLooks>;

/** Updates an inner look to its newest version, as an undoable change. */
function useTakeUp(fetched: ShelfLooks['fetched']) {
  const change = useBench((s) => s.change);
  return async ({ key, of }: InnerLook): Promise<void> => {
    const next = of && (await fetched(`${LOOK}${of.look}`));
    if (next)
      change(`${next.document.name} v${next.of.version} taken up`, (now) =>
        edit.takenUp(now, key, next.document, next.of),
      );
  };
}
/** Updates inner looks that follow, once; after undo they stay. */
export function useFollowedLooks({ looks, fetched }: ShelfLooks): void {
  const takeUp = useTakeUp(fetched),
    done = useRef(new Set<string>());
  const behind = useStill((still) =>
    (still.looks ?? []).filter(
      (l) =>
        l.follows && looks.some((s) => s.id === l.of?.look && s.versions[0]!.number > l.of.version),
    ),
  );
  useEffect(() => {
    for (const inner of behind) {
      const name = `${inner.key} v${looks.find((l) => l.id === inner.of!.look)!.versions[0]!.number}`;
      if (done.current.has(name)) continue;
      done.current.add(name);
      void takeUp(inner);
    }
  });
}

/** Looks of the Shelf as options of a layer's source. */
export const lookOptions = (looks: readonly Pick<LookView, 'id' | 'name'>[]) =>
  looks.length > 0 && (
    <optgroup label="another look">
      {looks.map((l) => (
        <option key={l.id} value={`${LOOK}${l.id}`}>
          {l.name}
        </option>
      ))}
    </optgroup>
  );

/**
 * Controls of a layer that starts from another look: what it is applied to, its version, its dials.
 */
export function InnerLookOf({ layer }: { layer: Layer }) {
  const change = useBench((s) => s.change),
    inner = useStill((still) => still.looks?.find((l) => l.key === layer.from)),
    dials = useStill((still) => innerDials(still, layer));
  const { looks, fetched, trouble } = useShelfLooks(),
    takeUp = useTakeUp(fetched);
  const newest = looks.find((l) => l.id === inner?.of?.look)?.versions[0]?.number;
  const isBehind = newest !== undefined && inner?.of !== undefined && newest > inner.of.version;
  if (!inner) return null;
  const name = inner.document.name;
  return (
    <div className="border-t line mt-1 pt-1" data-inner={layer.key}>
      <div className="flex items-center gap-1.5 min-h-6">
        <span className="quiet">over</span>
        <Choice
          className="field min-w-0"
          aria-label={`What ${name} is laid on`}
          value={layer.over ?? 'clip'}
          onChange={(v) =>
            change(`what ${name} is laid on`, (now) =>
              edit.setOver(now, layer.key, v === 'below' ? 'below' : undefined),
            )
          }
        >
          <option value="clip">the clip</option>
          <option value="below">what is below</option>
        </Choice>
        <span className="ml-auto num quiet">{inner.of ? `v${inner.of.version}` : 'a copy'}</span>
        {inner.of && (
          <label
            className="flex items-center gap-1"
            title={`Goes on to newer versions of ${name} when this look is opened`}
          >
            <input
              type="checkbox"
              className="tick"
              checked={inner.follows ?? false}
              onChange={(e) =>
                change(`${name} ${e.target.checked ? 'follows' : 'stays'}`, (now) =>
                  edit.changeInner(now, inner.key, { follows: e.target.checked }),
                )
              }
            />
            <span className="quiet">follows</span>
          </label>
        )}
      </div>
      {isBehind && (
        <button className="word framed" onClick={() => void takeUp(inner)}>
          take up v{newest}
        </button>
      )}
      {trouble && <p role="alert">{trouble}</p>}
      {dials.map((p) => (
        <ParameterControl
          key={p.id}
          parameter={p}
          setting={layer.dials?.[p.id] ?? { value: p.default }}
          name={`${layer.name} ${p.label.toLowerCase()}`}
          reset={p.default}
          path={`${layer.key}/${INNER}/${p.id}`}
          onSetting={(doc, s) => edit.setInnerDial(doc, layer.key, p.id, s)}
        />
      ))}
    </div>
  );
}
