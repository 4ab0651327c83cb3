/** The settings in a layer, wherever they stand: one way to look through them and one to change them all. */
import type { Layer, LookDocument, MatteUse, Setting, StepUse } from './document';

type Change = (s: Setting) => Setting;
const each = (parameters: Record<string, Setting>, f: Change): Record<string, Setting> =>
  Object.fromEntries(Object.entries(parameters).map(([id, s]) => [id, f(s)]));

const mapMattes = (mattes: readonly MatteUse[], f: Change): MatteUse[] => mattes.map((m) => ({ ...m, parameters: each(m.parameters, f) }));
export const mapStep = (s: StepUse, f: Change): StepUse => ({
  ...s,
  mix: f(s.mix),
  parameters: each(s.parameters, f),
  ...(s.mattes && { mattes: mapMattes(s.mattes, f) }),
});
/** Every setting in a layer. */
export const settingsOf = (l: Layer): Setting[] => [
  l.opacity,
  ...l.steps.flatMap((s) => [s.mix, ...Object.values(s.parameters)]),
  ...mattesOf(l).flatMap((m) => Object.values(m.parameters)),
  ...Object.values(l.placement ?? {}),
];
/** Every matte in a layer, its own and those of its steps. */
export const mattesOf = (l: Layer): MatteUse[] => [...(l.mattes ?? []), ...l.steps.flatMap((s) => s.mattes ?? [])];
/** The layer with every setting changed. */
export const mapLayer = (l: Layer, f: Change): Layer => ({
  ...l,
  opacity: f(l.opacity),
  steps: l.steps.map((s) => mapStep(s, f)),
  ...(l.mattes && { mattes: mapMattes(l.mattes, f) }),
  ...(l.placement && { placement: each(l.placement, f) }),
});
/** Every layer of a look changed, those of its groups too. */
export const mapLayers = (look: LookDocument, f: (l: Layer) => Layer): LookDocument => ({
  ...look,
  layers: look.layers.map(f),
  ...(look.groups && { groups: look.groups.map((g) => ({ ...g, layers: g.layers.map(f) })) }),
});
/** All layers, those of groups after the look's own. */
export const allLayers = (look: LookDocument): Layer[] => [...look.layers, ...(look.groups ?? []).flatMap((g) => g.layers)];

/** Whether a colour is what stands out from each clip. */
export const needsHue = (look: LookDocument): boolean => allLayers(look).some((l) => settingsOf(l).some((s) => 'clip' in s));
/** Whether the clip's statistics are needed: where a matte counts in shares of it, or a colour stands out from it. */
export const needsStatistics = (look: LookDocument): boolean => needsHue(look) || countsInShares(look);
const countsInShares = (look: LookDocument): boolean =>
  allLayers(look).some((l) => mattesOf(l).some((m) => isConstant(m.parameters['count'], 'share')));
const isConstant = (s: Setting | undefined, v: unknown): boolean => s !== undefined && 'value' in s && s.value === v;

/** The look with one layer alone on the bedrock: of the stack it is in, the others are off; a group it is in is shown wherever it is used. */
export function soloed(look: LookDocument, key: string): LookDocument {
  const only = (layers: Layer[]): Layer[] =>
    layers.some((l) => l.key === key) ? layers.map((l) => (l.key === key ? { ...l, on: true } : { ...l, on: false })) : layers;
  const group = look.groups?.find((g) => g.layers.some((l) => l.key === key));
  const shows = (l: Layer): boolean => l.source === 'group' && l.from === group?.key;
  return {
    ...look,
    layers: group ? look.layers.map((l) => (shows(l) ? l : { ...l, on: false })) : only(look.layers),
    ...(look.groups && { groups: look.groups.map((g) => ({ ...g, layers: only(g.layers) })) }),
  };
}
