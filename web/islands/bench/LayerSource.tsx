import { allLayers, edit, type Layer, type LookDocument, type SourceId } from '../../../core';
import { useBench, useStill } from './context';
import { isLook, lookOptions, useShelfLooks } from './InnerLook';
import { Choice } from '../../components/Choice';

/** Sources as text; the last three need a further choice. */
export const SOURCE_WORDS: Record<SourceId, string> = {
  clip: 'the clip',
  shot: 'the clip as shot',
  recorded: 'its recorded code values',
  below: 'what is below',
  fill: 'nothing (a fill)',
  layer: 'another layer',
  group: 'a group',
  footage: 'other footage',
  look: 'another look',
};
/** Sources chosen by name alone; looks are listed one by one. */
export const PLAIN_SOURCES = Object.entries(SOURCE_WORDS).filter(([id]) => id !== 'look');

/** What `from` may name for a source. */
function named(
  look: LookDocument,
  layer: Layer | undefined,
  source: SourceId,
): { readonly key: string; readonly label: string }[] {
  if (source === 'group')
    return (look.groups ?? [])
      .filter((g) => !g.layers.some((l) => l === layer))
      .map((g) => ({ key: g.key, label: g.name }));
  if (source === 'layer')
    return allLayers(look).flatMap((l) => (l === layer ? [] : [{ key: l.key, label: l.name }]));
  if (source === 'footage')
    return (look.pins ?? []).flatMap((p) =>
      p.kind === 'footage' ? [{ key: p.key, label: p.label }] : [],
    );
  return [];
}

/**
 * A look prepared for a source, and the value of `from`: adds a pin or a group if there is none.
 */
export function readyFor(
  look: LookDocument,
  layer: Layer | undefined,
  source: SourceId,
): { readonly look: LookDocument; readonly from?: string } | null {
  const [first] = named(look, layer, source);
  if (first) return { look, from: first.key };
  if (source === 'footage') {
    const asked = edit.addPin(look, {
      key: 'second',
      label: 'Second footage',
      kind: 'footage',
      many: false,
    });
    return { look: asked, from: asked.pins!.at(-1)!.key };
  }
  if (source === 'group') {
    const groups = look.groups ?? [];
    const key = edit.freshKey(
      'group',
      groups.map((g) => g.key),
    );
    return { look: { ...look, groups: [...groups, { key, name: key, layers: [] }] }, from: key };
  }
  return source === 'layer' ? null : { look };
}

/** Chooses what a layer starts from. */
export function LayerSource({ layer }: { layer: Layer }) {
  const change = useBench((s) => s.change),
    choices = useStill((still) => named(still, layer, layer.source)),
    alone = useStill((still) => allLayers(still).length < 2),
    inner = useStill((still) =>
      layer.source === 'look' ? still.looks?.find((l) => l.key === layer.from) : undefined,
    );
  const { looks, fetched, trouble } = useShelfLooks();
  const chosen = inner ? `look:${inner.of?.look ?? inner.key}` : layer.source;
  const listed =
    inner && !looks.some((l) => l.id === inner.of?.look)
      ? [...looks, { id: inner.of?.look ?? inner.key, name: inner.document.name }]
      : looks;
  const beginWith = async (choice: string) => {
    const look = await fetched(choice);
    if (look)
      change(`${layer.name} source`, (now) =>
        edit.beginWithLook(now, layer.key, look.document, look.of),
      );
  };
  const begin = (source: SourceId) => {
    change(`${layer.name} source`, (now) => {
      const ready = readyFor(now, layer, source);
      if (!ready) return now;
      const set = edit.changeLayer(ready.look, layer.key, {
        source,
        ...(ready.from !== undefined && { from: ready.from }),
      });
      return edit.withoutIdleLooks(
        ready.from === undefined ? edit.withoutFrom(set, layer.key) : set,
      );
    });
  };
  return (
    <div className="col-span-2 grid grid-cols-[66px_1fr] items-center gap-1.5">
      <span className="quiet">works on</span>
      <Choice
        className="field min-w-0"
        aria-label="Source"
        value={chosen}
        onChange={(v) => (isLook(v) ? void beginWith(v) : begin(v as SourceId))}
      >
        {PLAIN_SOURCES.map(([id, w]) => (
          <option key={id} value={id} disabled={id === 'layer' && alone}>
            {w}
          </option>
        ))}
        {lookOptions(listed)}
      </Choice>
      {trouble && (
        <p role="alert" className="col-span-2">
          {trouble}
        </p>
      )}
      {choices.length > 0 && (
        <Choice
          className="field min-w-0 col-start-2"
          aria-label="Which"
          value={layer.from ?? ''}
          onChange={(v) =>
            change(`${layer.name} source`, (now) => edit.changeLayer(now, layer.key, { from: v }))
          }
        >
          {choices.map((c) => (
            <option key={c.key} value={c.key}>
              {c.label}
            </option>
          ))}
        </Choice>
      )}
    </div>
  );
}
