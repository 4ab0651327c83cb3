/** Edits of a look document. Each returns a new document; the Bench does and undoes them. */
import type { MatteKind } from '../mattes';
import type { ParameterValue, Values } from '../parameters';
import { type Step, stepOf } from '../steps';
import { pruneReferences, prunedStep, freshKey } from './prune';
import { bindingOf } from './bindings';
import type { Layer, LookDocument, LookVersion, MatteUse, Setting, StepUse } from './document';
import { resolve } from './resolve';
import { withoutLostTargets } from './edit-time';
import { changeInner, takenUp, withInner, withoutIdleLooks } from './inner';
import { allLayers, mapLayers, mapSettings } from './settings';

export { freshKey };
export * from './edit-face';
export * from './edit-keys';
export * from './edit-time';
export { changeInner, takenUp, withInner, withoutIdleLooks };

/** Applies `f` to the list that holds a layer: the look's own or a group's. */
const listOf = (look: LookDocument, key: string, f: (l: Layer[]) => Layer[]): LookDocument =>
  look.layers.some((l) => l.key === key)
    ? { ...look, layers: f(look.layers) }
    : {
        ...look,
        ...(look.groups && {
          groups: look.groups.map((g) =>
            g.layers.some((l) => l.key === key) ? { ...g, layers: f(g.layers) } : g,
          ),
        }),
      };
const inLayer = (look: LookDocument, key: string, f: (l: Layer) => Layer): LookDocument =>
  mapLayers(look, (l) => (l.key === key ? f(l) : l));
const inStep = (
  look: LookDocument,
  layer: string,
  step: string,
  f: (s: StepUse) => StepUse,
): LookDocument =>
  inLayer(look, layer, (l) => ({ ...l, steps: l.steps.map((s) => (s.key === step ? f(s) : s)) }));
const moved = <T>(list: readonly T[], from: number, to: number): T[] => {
  const out = [...list];
  out.splice(to, 0, ...out.splice(from, 1));
  return out;
};

/** A step with default values, under a fresh key. */
export const newStep = (step: Step, taken: readonly string[]): StepUse => ({
  key: freshKey(step.id, taken),
  step: step.id,
  on: true,
  mix: { value: 100 },
  parameters: {},
});
/** A step as it is added by hand: with values that are visible. */
export const startedStep = (step: Step, taken: readonly string[]): StepUse => ({
  ...newStep(step, taken),
  parameters: Object.fromEntries(
    Object.entries(step.start ?? {}).map(([id, value]) => [id, { value }]),
  ),
});
/** A step for a picture that shows what it does. */
export const shownSteps = (step: Step): StepUse[] => {
  const use = (of: Step, values: Values, taken: readonly string[]): StepUse => ({
    ...newStep(of, taken),
    parameters: Object.fromEntries(Object.entries(values).map(([id, value]) => [id, { value }])),
  });
  const below = (step.exampleOn ?? []).map((b) => use(stepOf(b.step)!, b.values, [step.id]));
  return [...below, step.example ? use(step, step.example, []) : startedStep(step, [])];
};
/** A layer without steps. */
export const newLayer = (
  name: string,
  source: Layer['source'],
  taken: readonly string[],
  steps: StepUse[] = [],
): Layer => ({
  key: freshKey(name, taken),
  name,
  on: true,
  source,
  blend: 'normal',
  opacity: { value: 100 },
  steps,
});

/**
 * Adds a layer above `above` (or at the top of the look or of a group), under a fresh key. What it
 * names and the look lacks (dials, pins, a group, another layer) becomes a constant or the clip.
 */
export function addLayer(
  look: LookDocument,
  layer: Layer,
  above?: string,
  group?: string,
): LookDocument {
  const fresh = {
    ...pruneReferences(look, layer),
    key: freshKey(
      layer.key,
      allLayers(look).map((l) => l.key),
    ),
  };
  const placed = (all: Layer[]): Layer[] => {
    const at = above === undefined ? all.length : all.findIndex((l) => l.key === above) + 1;
    return [...all.slice(0, at), fresh, ...all.slice(at)];
  };
  if (above !== undefined) return listOf(look, above, placed);
  if (group === undefined) return { ...look, layers: placed(look.layers) };
  return {
    ...look,
    groups: (look.groups ?? []).map((g) =>
      g.key === group ? { ...g, layers: placed(g.layers) } : g,
    ),
  };
}

/** Adds a step at the end of a layer. */
export function addStep(look: LookDocument, layer: string, step: StepUse): LookDocument {
  return inLayer(look, layer, (l) => ({
    ...l,
    steps: [
      ...l.steps,
      {
        ...prunedStep(look, step),
        key: freshKey(
          step.step,
          l.steps.map((s) => s.key),
        ),
      },
    ],
  }));
}
const withoutWord = ({ from: _, ...plain }: StepUse): StepUse => plain;
/**
 * Repairs a look after a removal: settings that were linked to the removed part keep their value,
 * layers that started from it start from the clip.
 */
function settled(before: LookDocument, after: LookDocument): LookDocument {
  const lost = (s: Setting): boolean => {
    const kind = bindingOf(s);
    return kind?.isWithinLook === true && kind.pruned(s, after) !== s;
  };
  const free = (s: Setting): Setting => (lost(s) ? { value: resolve(before, s, {}) } : s);
  return mapLayers(withoutLostTargets(mapSettings(after, free)), (layer) => {
    const own = {
      ...layer,
      steps: layer.steps.map((s) =>
        s.from === undefined || layerOf(after, s.from) ? s : withoutWord(s),
      ),
    };
    if (own.source !== 'layer' || layerOf(after, own.from ?? '')) return own;
    const { from: _, ...plain } = own;
    return { ...plain, source: 'clip' };
  });
}

/** Adds a copy of a layer above it. */
export const duplicateLayer = (look: LookDocument, key: string): LookDocument => {
  const layer = allLayers(look).find((l) => l.key === key);
  return layer ? addLayer(look, { ...layer, name: `${layer.name} copy` }, key) : look;
};
/** Removes a layer, and the group that only it showed. */
export const removeLayer = (look: LookDocument, key: string): LookDocument =>
  settled(
    look,
    withoutIdleLooks(
      withoutIdleGroups(listOf(look, key, (all) => all.filter((l) => l.key !== key))),
    ),
  );
/** Moves a layer to an index in its list. */
export const moveLayer = (look: LookDocument, key: string, to: number): LookDocument =>
  listOf(look, key, (all) =>
    moved(
      all,
      all.findIndex((l) => l.key === key),
      to,
    ),
  );
/** Changes fields of a layer. */
export const changeLayer = (
  look: LookDocument,
  key: string,
  change: Partial<Omit<Layer, 'key' | 'steps' | 'mattes' | 'placement'>>,
): LookDocument => inLayer(look, key, (l) => ({ ...l, ...change }));
/** The layer with this key, also inside groups. */
export const layerOf = (look: LookDocument, key: string): Layer | undefined =>
  allLayers(look).find((l) => l.key === key);
/** Removes a layer's `from`, for sources that need none. */
export const withoutFrom = (look: LookDocument, key: string): LookDocument =>
  inLayer(look, key, (l) => {
    const { from: _, ...plain } = l;
    return plain;
  });
/** Removes a step. */
export const removeStep = (look: LookDocument, layer: string, step: string): LookDocument =>
  settled(
    look,
    inLayer(look, layer, (l) => ({ ...l, steps: l.steps.filter((s) => s.key !== step) })),
  );
/** Moves a step to an index in its layer. */
export const moveStep = (
  look: LookDocument,
  layer: string,
  step: string,
  to: number,
): LookDocument =>
  inLayer(look, layer, (l) => ({
    ...l,
    steps: moved(
      l.steps,
      l.steps.findIndex((s) => s.key === step),
      to,
    ),
  }));
/** Changes fields of a step. */
export const changeStep = (
  look: LookDocument,
  layer: string,
  step: string,
  change: Partial<Pick<StepUse, 'on' | 'mix' | 'from'>>,
): LookDocument => inStep(look, layer, step, (s) => ({ ...s, ...change }));
/** Sets a parameter of a step. */
export const setParameter = (
  look: LookDocument,
  layer: string,
  step: string,
  id: string,
  setting: Setting,
): LookDocument =>
  inStep(look, layer, step, (s) => ({ ...s, parameters: { ...s.parameters, [id]: setting } }));
/** Sets a parameter of a step to a constant. */
export const setConstant = (
  look: LookDocument,
  layer: string,
  step: string,
  id: string,
  value: ParameterValue,
): LookDocument => setParameter(look, layer, step, id, { value });
/** Sets a parameter of a step back to its default. */
export const resetParameter = (
  look: LookDocument,
  layer: string,
  step: string,
  id: string,
): LookDocument =>
  inStep(look, layer, step, (s) => ({
    ...s,
    parameters: Object.fromEntries(Object.entries(s.parameters).filter(([k]) => k !== id)),
  }));
/** What mattes belong to: a layer, or a step of it. */
export interface Owner {
  readonly layer: string;
  readonly step?: string | undefined;
}
const inMattes = (
  look: LookDocument,
  { layer, step }: Owner,
  f: (m: readonly MatteUse[]) => readonly MatteUse[],
): LookDocument => {
  const changed = <T extends { mattes?: MatteUse[] }>(owner: T): T => {
    const { mattes, ...plain } = owner;
    const next = [...f(mattes ?? [])];
    return (next.length > 0 ? { ...plain, mattes: next } : plain) as T;
  };
  return step === undefined ? inLayer(look, layer, changed) : inStep(look, layer, step, changed);
};
/** Adds a matte to an owner, under a fresh key. */
export const addMatte = (
  look: LookDocument,
  owner: Owner,
  kind: MatteKind,
  more: Partial<Pick<MatteUse, 'from' | 'parameters'>> = {},
): LookDocument =>
  inMattes(look, owner, (all) => [
    ...all,
    {
      key: freshKey(
        kind.id,
        all.map((m) => m.key),
      ),
      matte: kind.id,
      on: true,
      combine: 'or',
      invert: false,
      parameters: {},
      ...more,
    },
  ]);
/** Changes fields of a matte. */
export const changeMatte = (
  look: LookDocument,
  owner: Owner,
  key: string,
  change: Partial<Omit<MatteUse, 'key' | 'matte'>>,
): LookDocument =>
  inMattes(look, owner, (all) => all.map((m) => (m.key === key ? { ...m, ...change } : m)));
/** Sets a parameter of a matte. */
export const setMatteParameter = (
  look: LookDocument,
  owner: Owner,
  key: string,
  id: string,
  setting: Setting,
): LookDocument =>
  inMattes(look, owner, (all) =>
    all.map((m) => (m.key === key ? { ...m, parameters: { ...m.parameters, [id]: setting } } : m)),
  );
/** Removes a matte. */
export const removeMatte = (look: LookDocument, owner: Owner, key: string): LookDocument =>
  settled(
    look,
    inMattes(look, owner, (all) => all.filter((m) => m.key !== key)),
  );

/** Sets a dial of the inner look that a layer starts from. */
export const setInnerDial = (
  look: LookDocument,
  layer: string,
  id: string,
  setting: Setting,
): LookDocument => inLayer(look, layer, (l) => ({ ...l, dials: { ...l.dials, [id]: setting } }));
/** Sets what the inner look of a layer is applied to. */
export const setOver = (look: LookDocument, layer: string, over: Layer['over']): LookDocument =>
  inLayer(look, layer, ({ over: _, ...l }) => (over ? { ...l, over } : l));
/** Makes a layer start from another look, which is copied into this one. */
export function beginWithLook(
  look: LookDocument,
  layer: string,
  document: LookDocument,
  of?: LookVersion,
): LookDocument {
  const { look: ready, key } = withInner(look, document, of);
  return withoutIdleLooks(
    inLayer(ready, layer, ({ dials: _, ...l }) => ({ ...l, source: 'look', from: key })),
  );
}

/** Sets one of a layer's placement parameters. */
export const setPlacement = (
  look: LookDocument,
  layer: string,
  id: string,
  setting: Setting,
): LookDocument =>
  inLayer(look, layer, (l) => ({ ...l, placement: { ...l.placement, [id]: setting } }));
/** Gives a layer a placement, or removes it. */
export const placeLayer = (look: LookDocument, layer: string, on: boolean): LookDocument =>
  inLayer(look, layer, (l) => {
    const { placement, ...plain } = l;
    return on ? { ...plain, placement: placement ?? {} } : plain;
  });

/**
 * Turns a layer into a group: it moves into the group, and a layer that shows the group takes its
 * place.
 */
export function groupLayer(look: LookDocument, key: string): LookDocument {
  const layer = allLayers(look).find((l) => l.key === key);
  if (!layer) return look;
  const groups = look.groups ?? [];
  const group = {
    key: freshKey(
      `${layer.name}-group`,
      groups.map((g) => g.key),
    ),
    name: layer.name,
    // Nothing lies below it inside the group.
    layers: [
      {
        ...layer,
        source: layer.source === 'below' ? ('clip' as const) : layer.source,
        blend: 'normal' as const,
        opacity: { value: 100 },
      },
    ],
  };
  const outer: Layer = {
    ...newLayer(
      `${layer.name}-group`,
      'group',
      allLayers(look).map((l) => l.key),
    ),
    name: layer.name,
    from: group.key,
    blend: layer.blend,
    opacity: layer.opacity,
  };
  // The layer may itself be in a group.
  const replaced = listOf(look, key, (all) => all.map((l) => (l.key === key ? outer : l)));
  return { ...replaced, groups: [...(replaced.groups ?? []), group] };
}
/** Removes groups that no layer uses. */
function withoutIdleGroups(look: LookDocument): LookDocument {
  const used = new Set(allLayers(look).flatMap((l) => (l.source === 'group' ? [l.from] : [])));
  if (!look.groups?.some((g) => !used.has(g.key))) return look;
  const { groups, ...plain } = look;
  const left = groups.filter((g) => used.has(g.key));
  return withoutIdleGroups(left.length > 0 ? { ...plain, groups: left } : plain);
}
