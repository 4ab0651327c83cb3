import { useMemo } from 'react';
import { BLEND_IDS, BLEND_MODES, edit, type LookDocument } from '../../../core';
import { useBench } from './context';
import { Pictures } from './Pictures';
import type { BenchStore } from './store';
import { useTrimmedLook } from './useTrials';

const COLUMNS = 5;
const NONE: readonly LookDocument[] = [];

/** The clip's look with a layer in each blend mode, while the sheet is open. */
export function useModes(
  store: BenchStore,
  clip: string,
  layer: string | null,
): readonly LookDocument[] {
  const look = useTrimmedLook(store, clip, layer !== null);
  return useMemo(
    () =>
      layer === null ? NONE : BLEND_IDS.map((blend) => edit.changeLayer(look, layer, { blend })),
    [look, layer],
  );
}

/** The hero in every blend mode of a layer; a click chooses one. */
export function Modes({ layer, shape }: { layer: string; shape: readonly [number, number] }) {
  const look = useBench((s) => s.still),
    change = useBench((s) => s.change),
    show = useBench((s) => s.show);
  const own = edit.layerOf(look, layer);
  if (!own) return null;
  const tiles = BLEND_IDS.map((id) => ({
    words: BLEND_MODES[id].label,
    short: `${BLEND_MODES[id].label.toLowerCase()}${id === own.blend ? ' (now)' : ''}`,
  }));
  const close = () => show({ modesOf: null });
  return (
    <section
      aria-label="Blend modes"
      className="absolute inset-0 z-10 bg-base-300 flex flex-col"
      onKeyDown={(e) => {
        if (e.key === 'Escape') close();
      }}
    >
      <div className="flex-none flex items-center px-3 py-1.5 border-b line bg-base-200">
        <span>
          <span className="font-medium">{own.name}</span>{' '}
          <span className="quiet">laid down by each mode</span>
        </span>
        <button className="word ml-auto" autoFocus onClick={close}>
          close <span className="num quiet">Esc</span>
        </button>
      </div>
      <Pictures
        tiles={tiles}
        columns={COLUMNS}
        shape={shape}
        onTake={(i) => {
          change(`${own.name} ${tiles[i]!.words.toLowerCase()}`, (now) =>
            edit.changeLayer(now, layer, { blend: BLEND_IDS[i]! }),
          );
          close();
        }}
      />
    </section>
  );
}
