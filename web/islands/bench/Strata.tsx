import type { ReactNode } from 'react';
import { allLayers, edit, keptMover, type SourceId, stepOf, withPiece } from '../../../core';
import { usePieces } from '../../data/queries';
import { Bedrock, type BedrockProps } from './Bedrock';
import { useBench, useStoreItself } from './context';
import { Suits } from './Goals';
import { Hints } from './Hints';
import { LayerRow } from './LayerRow';
import { isLook, useFollowedLooks, useShelfLooks } from './InnerLook';
import { LookPictures } from './LookPictures';
import { PLAIN_SOURCES, readyFor, SOURCE_WORDS } from './LayerSource';
import { Sortable } from './Sortable';
import { Finder } from '../../components/Finder';
import { useStored } from '../../components/useStored';
import { WidthHandle } from './WidthHandle';

/** Width of the strata in pixels: initial and largest. */
const NARROW = 322,
  WIDE = 620;
const isWidth = (v: unknown): v is number => typeof v === 'number' && v >= NARROW && v <= WIDE;

/** The stack as a column with the bedrock at the bottom. */
export function Strata({ children, ...bedrock }: BedrockProps & { children?: ReactNode }) {
  const look = useBench((s) => s.still),
    change = useBench((s) => s.change),
    fold = useBench((s) => s.fold),
    choose = useBench((s) => s.choose),
    trimming = useBench((s) => s.trimming !== null),
    trimFor = useBench((s) => s.trimFor),
    store = useStoreItself();
  const down = [...look.layers].reverse();
  // Kept movers are chosen at the parameters they can move.
  const pieces = (usePieces().data ?? []).filter((p) => !keptMover(p.document));
  const use = (id: string) => {
    const piece = pieces.find((p) => p.id === id)!;
    change(`piece ${piece.name}`, (now) => withPiece(now, piece.document));
    choose({ layer: store.getState().look.layers.at(-1)!.key });
  };
  const [width, setWidth] = useStored('strata-width', NARROW, isWidth);
  const shelf = useShelfLooks();
  useFollowedLooks(shelf);
  const addLook = async (choice: string) => {
    const look = await shelf.fetched(choice);
    if (!look) return;
    const named = edit.addLayer(
      store.getState().look,
      edit.newLayer(look.document.name, 'clip', []),
    );
    const key = named.layers.at(-1)!.key;
    change(`add ${look.document.name}`, edit.beginWithLook(named, key, look.document, look.of));
    fold(key, true);
    choose({ layer: key });
  };
  const add = (source: SourceId) => {
    const { look: now } = store.getState();
    const ready = readyFor(now, undefined, source);
    if (!ready) return;
    const steps = source === 'fill' ? [edit.newStep(stepOf('plain-colour')!, [])] : [];
    const layer = edit.newLayer(
      source === 'fill' || source === 'group' || source === 'footage' ? source : 'layer',
      source,
      allLayers(now).map((l) => l.key),
      steps,
    );
    const next = edit.addLayer(
      ready.look,
      ready.from === undefined ? layer : { ...layer, from: ready.from },
    );
    change('add layer', next);
    const key = next.layers.at(-1)!.key;
    fold(key, true);
    choose({ layer: key });
  };
  return (
    <section
      aria-label="Strata"
      className="relative flex-none border-r line bg-base-200 flex flex-col min-h-0 isolate"
      style={{ width }}
    >
      <WidthHandle
        label="Width of the strata"
        width={width}
        min={NARROW}
        max={WIDE}
        first={NARROW}
        onWidth={setWidth}
      />
      <div className="flex items-center gap-1 px-3 h-9 border-b line flex-none">
        <h2 className="font-semibold mr-auto">Strata</h2>
        <Finder
          label="Add a layer from"
          disabled={trimming}
          all={[
            ...PLAIN_SOURCES.map(([id, w]) => ({
              id,
              group: 'a layer from',
              label: w,
              help: '',
              pictured: false,
            })),
            ...shelf.looks.map((l) => ({
              id: `look:${l.id}`,
              group: 'another look',
              label: l.name,
              help: `v${l.versions[0]!.number}`,
            })),
            ...pieces.map((p) => ({
              id: p.id,
              group: 'a kept piece',
              label: p.name,
              help: '',
              pictured: false,
            })),
          ]}
          pictures={LookPictures}
          onChoose={(v) =>
            v in SOURCE_WORDS ? add(v as SourceId) : isLook(v) ? void addLook(v) : use(v)
          }
        >
          + layer
        </Finder>
      </div>
      {shelf.trouble && (
        <p role="alert" className="px-3 py-1.5 border-b line">
          {shelf.trouble}
        </p>
      )}
      {trimming && (
        <p role="status" className="px-3 py-1.5 border-b line quiet">
          The dials set {bedrock.hero.name} alone. The stack belongs to the look:{' '}
          <button className="underline" onClick={() => trimFor(null)}>
            go back to it
          </button>{' '}
          to change it.
        </p>
      )}
      <div className="flex-1 scrolls min-h-0">
        <ol className={trimming ? 'opacity-60' : ''} inert={trimming}>
          <Sortable
            keys={down.map((l) => l.key)}
            onMove={(key, to) =>
              change('move layer', (now) => edit.moveLayer(now, key, now.layers.length - 1 - to))
            }
          >
            {down.map((l) => (
              <LayerRow key={l.key} layer={l} />
            ))}
          </Sortable>
          {look.layers.length === 0 && (
            <li className="px-4 py-6 quiet">
              Nothing lies on the clip yet. Add a layer, then steps to it.
            </li>
          )}
        </ol>
        <Bedrock {...bedrock} />
      </div>
      {!trimming && <Hints />}
      {!trimming && (
        <div className="scrolls max-h-[40%] flex-none">
          {children}
          <Suits />
        </div>
      )}
    </section>
  );
}
