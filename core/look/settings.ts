/** Visits all settings in a layer: one way to list them and one way to change them. */
import type {
  EaseUse,
  InstantUse,
  Layer,
  LookDocument,
  MatteUse,
  Mover,
  RetimeUse,
  Setting,
  SpanUse,
  StepUse,
} from './document';

type Change = (s: Setting) => Setting;
const each = (parameters: Record<string, Setting>, f: Change): Record<string, Setting> =>
  Object.fromEntries(Object.entries(parameters).map(([id, s]) => [id, f(s)]));

const mapMattes = (mattes: readonly MatteUse[], f: Change): MatteUse[] =>
  mattes.map((m) => ({ ...m, parameters: each(m.parameters, f) }));
/** A step with every setting changed. */
export const mapStep = (s: StepUse, f: Change): StepUse => ({
  ...s,
  mix: f(s.mix),
  parameters: each(s.parameters, f),
  ...(s.mattes && { mattes: mapMattes(s.mattes, f) }),
  ...(s.span && { span: mapSpan(s.span, f) }),
});
const mapInstant = (at: InstantUse, f: Change): InstantUse =>
  at.offset ? { ...at, offset: f(at.offset) } : at;
const mapEase = (ease: EaseUse, f: Change): EaseUse =>
  ease.by ? { ...ease, by: f(ease.by) } : ease;
const mapSpan = (s: SpanUse, f: Change): SpanUse => ({
  ...s,
  from: mapInstant(s.from, f),
  to: mapInstant(s.to, f),
  ...(s.coming && { coming: f(s.coming) }),
  ...(s.going && { going: f(s.going) }),
  ...(s.ease && { ease: mapEase(s.ease, f) }),
});
const mapRetime = (r: RetimeUse, f: Change): RetimeUse => ({
  ...r,
  places: r.places.map((p) => ({
    ...p,
    at: mapInstant(p.at, f),
    speed: f(p.speed),
    ...(p.hold && { hold: f(p.hold) }),
  })),
});
/** A mover with every setting changed. */
export const mapMover = (m: Mover, f: Change): Mover => ({
  ...m,
  parameters: each(m.parameters, f),
  ...(m.instants && {
    instants: Object.fromEntries(
      Object.entries(m.instants).map(([id, all]) => [id, all.map((i) => mapInstant(i, f))]),
    ),
  }),
  ...(m.keys && {
    keys: m.keys.map((k) => ({
      ...k,
      at: mapInstant(k.at, f),
      ...(k.ease && { ease: mapEase(k.ease, f) }),
    })),
  }),
  targets: m.targets.map((t) => (t.amount ? { ...t, amount: f(t.amount) } : t)),
});
/** All settings in a mover. */
export function settingsOfMover(m: Mover): Setting[] {
  const found: Setting[] = [];
  mapMover(m, (s) => (found.push(s), s));
  return found;
}
/** A look with every setting changed. */
export const mapSettings = (look: LookDocument, f: Change): LookDocument => ({
  ...mapLayers(look, (l) => mapLayer(l, f)),
  ...(look.movers && { movers: look.movers.map((m) => mapMover(m, f)) }),
  ...(look.span && { span: mapSpan(look.span, f) }),
  ...(look.retime && { retime: mapRetime(look.retime, f) }),
});
/** A look with every instant changed. */
export function mapInstants(look: LookDocument, f: (at: InstantUse) => InstantUse): LookDocument {
  const span = <T extends { span?: SpanUse }>(o: T): T =>
    o.span ? { ...o, span: { ...o.span, from: f(o.span.from), to: f(o.span.to) } } : o;
  const movers = look.movers?.map((m) => ({
    ...m,
    ...(m.instants && {
      instants: Object.fromEntries(Object.entries(m.instants).map(([id, all]) => [id, all.map(f)])),
    }),
    ...(m.keys && { keys: m.keys.map((k) => ({ ...k, at: f(k.at) })) }),
  }));
  return span({
    ...mapLayers(look, (l) =>
      span({ ...l, steps: l.steps.map(span), ...(l.timeFrom && { timeFrom: f(l.timeFrom) }) }),
    ),
    ...(movers && { movers }),
    ...(look.retime && {
      retime: { ...look.retime, places: look.retime.places.map((p) => ({ ...p, at: f(p.at) })) },
    }),
  });
}
/** All settings in a layer. */
export function settingsOf(l: Layer): Setting[] {
  const found: Setting[] = [];
  mapLayer(l, (s) => (found.push(s), s));
  return found;
}
/** All mattes in a layer, its own and those of its steps. */
export const mattesOf = (l: Layer): MatteUse[] => [
  ...(l.mattes ?? []),
  ...l.steps.flatMap((s) => s.mattes ?? []),
];
/** A layer with every setting changed. */
export const mapLayer = (l: Layer, f: Change): Layer => ({
  ...l,
  opacity: f(l.opacity),
  steps: l.steps.map((s) => mapStep(s, f)),
  ...(l.mattes && { mattes: mapMattes(l.mattes, f) }),
  ...(l.dials && { dials: each(l.dials, f) }),
  ...(l.placement && { placement: each(l.placement, f) }),
  ...(l.time && { time: each(l.time, f) }),
  ...(l.timeFrom && { timeFrom: mapInstant(l.timeFrom, f) }),
  ...(l.span && { span: mapSpan(l.span, f) }),
});
/** A look with every layer changed, also in its groups. */
export const mapLayers = (look: LookDocument, f: (l: Layer) => Layer): LookDocument => ({
  ...look,
  layers: look.layers.map(f),
  ...(look.groups && { groups: look.groups.map((g) => ({ ...g, layers: g.layers.map(f) })) }),
});
/** All layers: the look's own, then those of its groups. */
export const allLayers = (look: LookDocument): Layer[] => [
  ...look.layers,
  ...(look.groups ?? []).flatMap((g) => g.layers),
];

/** All looks inside a look, at any depth. */
export const looksWithin = (look: LookDocument): LookDocument[] =>
  (look.looks ?? []).flatMap((l) => [l.document, ...looksWithin(l.document)]);
/** Whether something holds for a look or for one inside it. */
export const anyLook = (look: LookDocument, holds: (l: LookDocument) => boolean): boolean =>
  holds(look) || looksWithin(look).some(holds);

/** Whether a colour of the look contrasts with each clip's main hue. */
export function needsHue(look: LookDocument): boolean {
  const known = hueNeeded.get(look);
  if (known !== undefined) return known;
  const needed =
    allLayers(look).some((l) => settingsOf(l).some((s) => 'clip' in s)) ||
    !!look.movers?.some((m) => settingsOfMover(m).some((s) => 'clip' in s));
  hueNeeded.set(look, needed);
  return needed;
}
/** Answers of `needsHue`: planning asks for every frame. */
const hueNeeded = new WeakMap<LookDocument, boolean>();

/**
 * Whether the clip's statistics are needed: a matte counts in percentiles, or a colour contrasts
 * with the clip.
 */
export const needsStatistics = (look: LookDocument): boolean =>
  anyLook(look, (l) => needsHue(l) || countsInShares(l));
const countsInShares = (look: LookDocument): boolean =>
  allLayers(look).some((l) => mattesOf(l).some((m) => isConstant(m.parameters['count'], 'share')));
const isConstant = (s: Setting | undefined, v: unknown): boolean =>
  s !== undefined && 'value' in s && s.value === v;

/**
 * The look with one layer alone on the bedrock. The other layers of its stack are off; a group it
 * is in is shown wherever it is used.
 */
export function soloed(look: LookDocument, key: string): LookDocument {
  const only = (layers: Layer[]): Layer[] =>
    layers.some((l) => l.key === key)
      ? layers.map((l) => (l.key === key ? { ...l, on: true } : { ...l, on: false }))
      : layers;
  const group = look.groups?.find((g) => g.layers.some((l) => l.key === key));
  const shows = (l: Layer): boolean => l.source === 'group' && l.from === group?.key;
  return {
    ...look,
    layers: group
      ? look.layers.map((l) => (shows(l) ? l : { ...l, on: false }))
      : only(look.layers),
    ...(look.groups && { groups: look.groups.map((g) => ({ ...g, layers: only(g.layers) })) }),
  };
}
