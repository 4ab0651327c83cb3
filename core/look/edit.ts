/** Changes to a look document, each a new document: what the Bench does and undoes. */
import { type MatteKind, matteOf } from '../mattes';
import { CENTRE, type Ellipse, type ParameterValue, type Step } from '../steps';
import type { Dial, Goal, Layer, LookDocument, MatteUse, PinAsk, Setting, StepUse, Suit } from './document';
import { followed, matteAt } from './following';
import { type DialValue, resolve } from './resolve';
import { allLayers, mapLayer, mapLayers } from './settings';

/** `base`, or `base-2`, `base-3` … if it is taken. */
export function freshKey(base: string, taken: readonly string[]): string {
  const plain =
    base
      .toLowerCase()
      .replace(/[^a-z0-9]+/g, '-')
      .replace(/^-+|-+$/g, '')
      .slice(0, 32) || 'layer';
  if (!taken.includes(plain)) return plain;
  let n = 2;
  while (taken.includes(`${plain}-${n}`)) n++;
  return `${plain}-${n}`;
}

/** The list that holds a layer changed: the look's own, or that of the group it is in. */
const listOf = (look: LookDocument, key: string, f: (l: Layer[]) => Layer[]): LookDocument =>
  look.layers.some((l) => l.key === key)
    ? { ...look, layers: f(look.layers) }
    : { ...look, ...(look.groups && { groups: look.groups.map((g) => (g.layers.some((l) => l.key === key) ? { ...g, layers: f(g.layers) } : g)) }) };
const inLayer = (look: LookDocument, key: string, f: (l: Layer) => Layer): LookDocument => mapLayers(look, (l) => (l.key === key ? f(l) : l));
const inStep = (look: LookDocument, layer: string, step: string, f: (s: StepUse) => StepUse): LookDocument =>
  inLayer(look, layer, (l) => ({ ...l, steps: l.steps.map((s) => (s.key === step ? f(s) : s)) }));
const moved = <T>(list: readonly T[], from: number, to: number): T[] => {
  const out = [...list];
  out.splice(to, 0, ...out.splice(from, 1));
  return out;
};

export const newStep = (step: Step, taken: readonly string[]): StepUse => ({
  key: freshKey(step.id, taken),
  step: step.id,
  on: true,
  mix: { value: 100 },
  parameters: {},
});
export const newLayer = (name: string, source: Layer['source'], taken: readonly string[], steps: StepUse[] = []): Layer => ({
  key: freshKey(name, taken),
  name,
  on: true,
  source,
  blend: 'normal',
  opacity: { value: 100 },
  steps,
});

/**
 * Adds a layer above `above` (or at the top of the look or of a group), under a key of its own; what it names and the
 * look lacks (dials, pins, a group, another layer) becomes constants or the clip.
 */
export function addLayer(look: LookDocument, layer: Layer, above?: string, group?: string): LookDocument {
  const fresh = {
    ...detached(look, layer),
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
  return { ...look, groups: (look.groups ?? []).map((g) => (g.key === group ? { ...g, layers: placed(g.layers) } : g)) };
}

/** What a pin has left: its shape in the middle, or (undefined) the default. */
const withoutPin = ({ shape }: { readonly shape?: Ellipse }): Setting | undefined => shape && { value: [...CENTRE, shape[2], shape[3], shape[4]] };

/** Whether the look has the dial, and of a kind that suits: only numbers are driven over a range. */
const drives = (look: LookDocument, s: { readonly dial: string; readonly from?: number }): boolean =>
  look.dials.some((d) => d.key === s.dial && (d.kind === 'number') === (s.from !== undefined));

const asks = (look: LookDocument, key: string | undefined, kind: PinAsk['kind']): boolean =>
  look.pins?.some((p) => p.key === key && p.kind === kind) ?? false;

/** A setting as it can stand in a look: what it names and the look lacks becomes a constant, or (undefined) the default. */
function detachedSetting(look: LookDocument, s: Setting): Setting | undefined {
  if ('value' in s || 'clip' in s) return s;
  if ('pin' in s) return asks(look, s.pin, 'point') || asks(look, s.pin, 'line') ? s : withoutPin(s);
  if ('follows' in s) return followed(look, s.follows) ? s : undefined;
  if ('centre' in s) return matteAt(look, s.centre) ? s : withoutPin(s);
  if (drives(look, s)) return s;
  return s.from === undefined ? undefined : { value: (s.from + (s.to ?? s.from)) / 2 };
}
const detachedParameters = (look: LookDocument, parameters: Record<string, Setting>): Record<string, Setting> =>
  Object.fromEntries(
    Object.entries(parameters).flatMap(([id, v]) => {
      const own = detachedSetting(look, v);
      return own ? [[id, own]] : [];
    }),
  );
const detachedShare = (look: LookDocument, s: Setting): Setting => detachedSetting(look, s) ?? { value: 100 };
/** Mattes as they can stand in a look; one from a file that no pin asks for covers the whole frame, and goes. */
const detachedMattes = (look: LookDocument, mattes: readonly MatteUse[] | undefined): { mattes?: MatteUse[] } => {
  const left = (mattes ?? [])
    .filter((m) => matteOf(m.matte)?.names !== 'pin' || asks(look, m.from, 'matte'))
    .map((m) => ({ ...m, parameters: detachedParameters(look, m.parameters) }));
  return left.length > 0 ? { mattes: left } : {};
};
function detachedStep(look: LookDocument, { mattes, ...s }: StepUse): StepUse {
  return { ...s, mix: detachedShare(look, s.mix), parameters: detachedParameters(look, s.parameters), ...detachedMattes(look, mattes) };
}
/** Sources that say in `from` which. */
const NAMING: readonly Layer['source'][] = ['layer', 'group', 'footage'];
function detached(look: LookDocument, { mattes, from, ...l }: Layer): Layer {
  const there =
    (l.source === 'group' && look.groups?.some((g) => g.key === from)) ||
    (l.source === 'layer' && allLayers(look).some((o) => o.key === from)) ||
    (l.source === 'footage' && asks(look, from, 'footage'));
  return {
    ...l,
    ...(there ? { from: from! } : NAMING.includes(l.source) && { source: 'clip' as const }),
    opacity: detachedShare(look, l.opacity),
    steps: l.steps.map((s) => detachedStep(look, s)),
    ...detachedMattes(look, mattes),
    ...(l.placement && { placement: detachedParameters(look, l.placement) }),
  };
}

export function addStep(look: LookDocument, layer: string, step: StepUse): LookDocument {
  return inLayer(look, layer, (l) => ({
    ...l,
    steps: [
      ...l.steps,
      {
        ...detachedStep(look, step),
        key: freshKey(
          step.step,
          l.steps.map((s) => s.key),
        ),
      },
    ],
  }));
}
/** After something was taken away: what followed it keeps its value, what began with it begins with the clip. */
function settled(before: LookDocument, after: LookDocument): LookDocument {
  const lost = (s: Setting): boolean => ('follows' in s && !followed(after, s.follows)) || ('centre' in s && !matteAt(after, s.centre));
  const free = (s: Setting): Setting => (lost(s) ? { value: resolve(before, s, {}) } : s);
  return mapLayers(after, (l) => {
    const own = mapLayer(l, free);
    if (own.source !== 'layer' || layerOf(after, own.from ?? '')) return own;
    const { from: _, ...plain } = own;
    return { ...plain, source: 'clip' };
  });
}

export const duplicateLayer = (look: LookDocument, key: string): LookDocument => {
  const layer = allLayers(look).find((l) => l.key === key);
  return layer ? addLayer(look, { ...layer, name: `${layer.name} copy` }, key) : look;
};
/** Takes a layer away, and the group that only it showed. */
export const removeLayer = (look: LookDocument, key: string): LookDocument =>
  settled(look, withoutIdleGroups(listOf(look, key, (all) => all.filter((l) => l.key !== key))));
export const moveLayer = (look: LookDocument, key: string, to: number): LookDocument =>
  listOf(look, key, (all) =>
    moved(
      all,
      all.findIndex((l) => l.key === key),
      to,
    ),
  );
export const changeLayer = (look: LookDocument, key: string, change: Partial<Omit<Layer, 'key' | 'steps' | 'mattes' | 'placement'>>): LookDocument =>
  inLayer(look, key, (l) => ({ ...l, ...change }));
export const layerOf = (look: LookDocument, key: string): Layer | undefined => allLayers(look).find((l) => l.key === key);
/** A layer whose source needs no further word. */
export const withoutFrom = (look: LookDocument, key: string): LookDocument =>
  inLayer(look, key, (l) => {
    const { from: _, ...plain } = l;
    return plain;
  });
export const removeStep = (look: LookDocument, layer: string, step: string): LookDocument =>
  settled(
    look,
    inLayer(look, layer, (l) => ({ ...l, steps: l.steps.filter((s) => s.key !== step) })),
  );
export const moveStep = (look: LookDocument, layer: string, step: string, to: number): LookDocument =>
  inLayer(look, layer, (l) => ({
    ...l,
    steps: moved(
      l.steps,
      l.steps.findIndex((s) => s.key === step),
      to,
    ),
  }));
export const changeStep = (look: LookDocument, layer: string, step: string, change: Partial<Pick<StepUse, 'on' | 'mix'>>): LookDocument =>
  inStep(look, layer, step, (s) => ({ ...s, ...change }));
export const setParameter = (look: LookDocument, layer: string, step: string, id: string, setting: Setting): LookDocument =>
  inStep(look, layer, step, (s) => ({ ...s, parameters: { ...s.parameters, [id]: setting } }));
export const setConstant = (look: LookDocument, layer: string, step: string, id: string, value: ParameterValue): LookDocument =>
  setParameter(look, layer, step, id, { value });
export const resetParameter = (look: LookDocument, layer: string, step: string, id: string): LookDocument =>
  inStep(look, layer, step, (s) => ({ ...s, parameters: Object.fromEntries(Object.entries(s.parameters).filter(([k]) => k !== id)) }));
/** Where mattes hang: on a layer, or on a step of it. */
export interface Owner {
  readonly layer: string;
  readonly step?: string | undefined;
}
const inMattes = (look: LookDocument, { layer, step }: Owner, f: (m: readonly MatteUse[]) => readonly MatteUse[]): LookDocument => {
  const changed = <T extends { mattes?: MatteUse[] }>(owner: T): T => {
    const { mattes, ...plain } = owner;
    const next = [...f(mattes ?? [])];
    return (next.length > 0 ? { ...plain, mattes: next } : plain) as T;
  };
  return step === undefined ? inLayer(look, layer, changed) : inStep(look, layer, step, changed);
};
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
export const changeMatte = (look: LookDocument, owner: Owner, key: string, change: Partial<Omit<MatteUse, 'key' | 'matte'>>): LookDocument =>
  inMattes(look, owner, (all) => all.map((m) => (m.key === key ? { ...m, ...change } : m)));
export const setMatteParameter = (look: LookDocument, owner: Owner, key: string, id: string, setting: Setting): LookDocument =>
  inMattes(look, owner, (all) => all.map((m) => (m.key === key ? { ...m, parameters: { ...m.parameters, [id]: setting } } : m)));
export const removeMatte = (look: LookDocument, owner: Owner, key: string): LookDocument =>
  settled(
    look,
    inMattes(look, owner, (all) => all.filter((m) => m.key !== key)),
  );

/** Sets one of a layer's parameters of placement; without any it lies as it is. */
export const setPlacement = (look: LookDocument, layer: string, id: string, setting: Setting): LookDocument =>
  inLayer(look, layer, (l) => ({ ...l, placement: { ...l.placement, [id]: setting } }));
/** Begins to place a layer, or lets it lie as it is again. */
export const placeLayer = (look: LookDocument, layer: string, on: boolean): LookDocument =>
  inLayer(look, layer, (l) => {
    const { placement, ...plain } = l;
    return on ? { ...plain, placement: placement ?? {} } : plain;
  });

/** Makes a group of a layer: it goes into the group, and a layer that shows the group takes its place. */
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
    // Nothing lies below it there.
    layers: [{ ...layer, source: layer.source === 'below' ? ('clip' as const) : layer.source, blend: 'normal' as const, opacity: { value: 100 } }],
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
  return { ...listOf(look, key, (all) => all.map((l) => (l.key === key ? outer : l))), groups: [...groups, group] };
}
/** Groups that nobody uses (any more) go. */
function withoutIdleGroups(look: LookDocument): LookDocument {
  const used = new Set(allLayers(look).flatMap((l) => (l.source === 'group' ? [l.from] : [])));
  if (!look.groups?.some((g) => !used.has(g.key))) return look;
  const { groups, ...plain } = look;
  const left = groups.filter((g) => used.has(g.key));
  return withoutIdleGroups(left.length > 0 ? { ...plain, groups: left } : plain);
}

export const setDial = (look: LookDocument, key: string, value: DialValue): LookDocument => ({
  ...look,
  dials: look.dials.map((d) => (d.key === key ? { ...d, value } : d)),
});
/** Sets a dial's goal, or takes it off. */
export const setGoal = (look: LookDocument, key: string, goal: Goal | undefined): LookDocument => ({
  ...look,
  dials: look.dials.map((d) => {
    if (d.key !== key) return d;
    const { goal: _, ...plain } = d;
    return goal ? { ...plain, goal } : plain;
  }),
});
/** Adds a pin that is asked for, under a key of its own. */
export const addPin = (look: LookDocument, pin: PinAsk): LookDocument => {
  const pins = look.pins ?? [];
  return {
    ...look,
    pins: [
      ...pins,
      {
        ...pin,
        key: freshKey(
          pin.key,
          pins.map((p) => p.key),
        ),
      },
    ],
  };
};
export const changePin = (look: LookDocument, key: string, change: Partial<Pick<PinAsk, 'label' | 'many'>>): LookDocument => ({
  ...look,
  pins: (look.pins ?? []).map((p) => (p.key === key ? { ...p, ...change } : p)),
});
/** Asks for a pin no longer; what was bound to it stands at the centre. */
export function removePin(look: LookDocument, key: string): LookDocument {
  const { pins, ...plain } = look;
  const left = (pins ?? []).filter((p) => p.key !== key);
  const without: LookDocument = left.length > 0 ? { ...plain, pins: left } : plain;
  return mapLayers(without, (l) => detached(without, l));
}
export const setSuits = (look: LookDocument, suits: readonly Suit[]): LookDocument => {
  const { suits: _, ...plain } = look;
  return suits.length > 0 ? { ...plain, suits: [...suits] } : plain;
};
export const addDial = (look: LookDocument, dial: Dial): LookDocument => ({
  ...look,
  dials: [
    ...look.dials,
    {
      ...dial,
      key: freshKey(
        dial.key,
        look.dials.map((d) => d.key),
      ),
    },
  ],
});

/** Takes a dial off; what it drove keeps the value it has. */
export function removeDial(look: LookDocument, key: string, valueOf: (s: Setting) => ParameterValue): LookDocument {
  const free = (s: Setting): Setting => ('dial' in s && s.dial === key ? { value: valueOf(s) } : s);
  const loose = mapLayers(look, (l) => mapLayer(l, free));
  return { ...loose, dials: loose.dials.filter((d) => d.key !== key) };
}
