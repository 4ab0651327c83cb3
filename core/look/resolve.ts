/** Resolves a look's parameters at given dial values to plain numbers, colours and switches. */
import { LAYER_TIME, type LayerTime } from '../time';
import { type Evaluation, still } from './at-frame';
import { INNER, innerDials, MIX, OPACITY, PLACED, TIMED } from './paths';
import { type BlendId, PLACEMENT, type PlacementValues } from '../compositing';
import { type Combination, matteOf, matteParameters } from '../mattes';
import {
  CENTRE,
  num,
  type Parameter,
  type ParameterValue,
  type Point,
  type Values,
  type ValuesOf,
  withDefaults,
} from '../parameters';
import { stepOf } from '../steps';
import { bindingOf } from './bindings';
import type {
  DialValues,
  Fading,
  Layer,
  LookDocument,
  MatteUse,
  Setting,
  SourceId,
} from './document';
import { matteWithCentre, ownerOf } from './following';

/** A step in plain values. */
export interface ResolvedStep {
  readonly key: string;
  readonly step: string;
  readonly on: boolean;
  readonly from: string | undefined;
  readonly mix: number;
  readonly values: Values;
  readonly mattes: readonly ResolvedMatte[];
}
/** A matte in plain values. */
export interface ResolvedMatte {
  readonly matte: string;
  readonly combine: Combination;
  readonly invert: boolean;
  readonly from: string | undefined;
  /** One set of values per place of the pin it is bound to. */
  readonly values: readonly Values[];
}
/** A layer in plain values. */
export interface ResolvedLayer {
  readonly key: string;
  readonly on: boolean;
  readonly source: SourceId;
  readonly from: string | undefined;
  /** Dial values of the look it starts from. */
  readonly dials: DialValues;
  readonly over: 'below' | undefined;
  readonly blend: BlendId;
  readonly opacity: number;
  readonly steps: readonly ResolvedStep[];
  readonly mattes: readonly ResolvedMatte[];
  readonly placement: PlacementValues | undefined;
  /** Time of its source. Default: the frame itself. */
  readonly time: LayerTime | undefined;
}

/** A setting's value at given dials. Places and colours that clips set have their defaults. */
export function resolve(
  look: LookDocument,
  setting: Setting,
  dials: DialValues,
  known: Partial<Pick<Evaluation, 'moved' | 'placeOf'>> = {},
): ParameterValue {
  const { moved, placeOf } = known;
  const at = { ...still(dials), ...(moved && { moved }), placeOf };
  return bindingOf(setting)!.resolve(setting, look, {
    at,
    valueOf: (s) => resolve(look, s, dials, known),
    middleOf: (path) => centreOf(look, path, at),
  });
}

function centreOf(look: LookDocument, path: string, at: Evaluation): Point {
  const use = matteWithCentre(look, path),
    kind = use && matteOf(use.matte);
  return (
    kind?.centre?.(
      valuesOf(look, matteParameters(kind), use!.parameters, `${ownerOf(path)}/@${use!.key}`, at),
    ) ?? CENTRE
  );
}

const share = (
  look: LookDocument,
  s: Setting,
  p: Parameter,
  path: string,
  at: Evaluation,
): number => (at.moved(path, p, resolve(look, s, at.dials, at)) as number) / 100;

/**
 * The values of a list of parameters after all movers; defaults where there is no setting. `path`
 * is the prefix of their paths.
 */
function valuesOf<P extends readonly Parameter[]>(
  look: LookDocument,
  parameters: P,
  settings: Record<string, Setting>,
  path: string,
  at: Evaluation,
): ValuesOf<P> {
  const set: Values = withDefaults<readonly Parameter[]>(
    { parameters },
    Object.fromEntries(
      Object.entries(settings).map(([id, s]) => [
        id,
        held(parameters, id, resolve(look, s, at.dials, at)),
      ]),
    ),
  );
  return Object.fromEntries(
    parameters.map((p) => [p.id, at.moved(`${path}/${p.id}`, p, set[p.id]!)]),
  ) as ValuesOf<P>;
}

/** A linked number may exceed its own range. */
function held(parameters: readonly Parameter[], id: string, v: ParameterValue): ParameterValue {
  const p = parameters.find((q) => q.id === id);
  return typeof v === 'number' && p?.kind === 'number' ? Math.max(p.min, Math.min(p.max, v)) : v;
}

/** How far something that fades with a place is there, 0…1. */
const presence = (fades: Fading | undefined, at: Evaluation): number =>
  fades ? (at.presenceOf?.(fades) ?? 1) : 1;
/** The values of a matte that is there to a share. */
const faded = (v: Values, by: number): Values =>
  by === 1 ? v : { ...v, strength: num(v, 'strength') * by };

/** Mattes that are on, in plain values. `owner`: path of their layer or step. */
export const resolveMattes = (
  look: LookDocument,
  mattes: readonly MatteUse[] | undefined,
  owner: string,
  at: Evaluation,
): ResolvedMatte[] =>
  (mattes ?? [])
    .filter((m) => m.on)
    .map((m) => ({
      matte: m.matte,
      combine: m.combine,
      invert: m.invert,
      from: m.from,
      values: [m.parameters, ...(m.also ?? [])].map((settings, i) =>
        faded(
          valuesOf(look, matteParameters(matteOf(m.matte)!), settings, `${owner}/@${m.key}`, at),
          presence(m.fades?.[i], at),
        ),
      ),
    }));

/** Resolved layers of looks in which nothing moves, by look, dial values and layer. */
const stillLayers = new WeakMap<LookDocument, WeakMap<DialValues, Map<Layer, ResolvedLayer>>>();

/**
 * A layer at a frame, in plain values. Parts outside their spans are off. A layer that is the same
 * at every frame is resolved once for a look and dial values.
 */
export function resolveLayer(look: LookDocument, layer: Layer, at: Evaluation): ResolvedLayer {
  if (!at.isStill || layer.span || layer.steps.some((use) => use.span))
    return resolved(look, layer, at);
  const byDials = stillLayers.get(look) ?? new WeakMap<DialValues, Map<Layer, ResolvedLayer>>();
  stillLayers.set(look, byDials);
  const byLayer = byDials.get(at.dials) ?? new Map<Layer, ResolvedLayer>();
  byDials.set(at.dials, byLayer);
  const known =
    byLayer.get(layer) ??
    resolved(look, layer, {
      ...at,
      placeOf: undefined,
      presenceOf: undefined,
    });
  byLayer.set(layer, known);
  return at.placeOf ? withPlaces(look, layer, known, at) : known;
}

/** Settings of a layer's steps that followed pins decide, by step and parameter. */
interface FollowedSettings {
  readonly steps: readonly {
    readonly step: number;
    readonly id: string;
    readonly setting: Setting;
  }[];
  /** Something else than a step's own parameter depends on them: mattes, placement, centres. */
  readonly more: boolean;
}
const followedSettings = new WeakMap<Layer, FollowedSettings>();
function followedIn(layer: Layer): FollowedSettings {
  const known = followedSettings.get(layer);
  if (known) return known;
  const isFollowed = (s: Setting): boolean => 'pin' in s && s.nth !== undefined;
  const decides = (s: Setting): boolean => isFollowed(s) || 'centre' in s;
  const within = (mattes: readonly MatteUse[] = []): boolean =>
    mattes.some((m) =>
      [m.parameters, ...(m.also ?? [])].some((p) => Object.values(p).some(decides)),
    );
  const found: FollowedSettings = {
    steps: layer.steps.flatMap((use, step) =>
      Object.entries(use.parameters).flatMap(([id, setting]) =>
        isFollowed(setting) ? [{ step, id, setting }] : [],
      ),
    ),
    more:
      layer.fades !== undefined ||
      layer.steps.some((use) => use.fades !== undefined) ||
      within(layer.mattes) ||
      Object.values(layer.placement ?? {}).some(decides) ||
      layer.steps.some(
        (use) => within(use.mattes) || Object.values(use.parameters).some((s) => 'centre' in s),
      ),
  };
  followedSettings.set(layer, found);
  return found;
}
/** A layer that is the same at every frame but for followed places, at a frame. */
function withPlaces(
  look: LookDocument,
  layer: Layer,
  known: ResolvedLayer,
  at: Evaluation,
): ResolvedLayer {
  const { steps, more } = followedIn(layer);
  if (more) return resolved(look, layer, at);
  if (steps.length === 0) return known;
  const all = [...known.steps];
  for (const { step, id, setting } of steps) {
    const use = all[step]!;
    const value = held(stepOf(use.step)!.parameters, id, resolve(look, setting, at.dials, at));
    const values = { ...use.values, [id]: value };
    all[step] = { ...use, values };
  }
  return { ...known, steps: all };
}

function resolved(look: LookDocument, layer: Layer, at: Evaluation): ResolvedLayer {
  const level = at.level(layer.span);
  return {
    key: layer.key,
    on: layer.on && level > 0,
    source: layer.source,
    from: layer.from,
    dials: valuesOf(
      look,
      innerDials(look, layer),
      layer.dials ?? {},
      `${layer.key}/${INNER}`,
      at,
    ) as DialValues,
    over: layer.over,
    blend: layer.blend,
    opacity:
      share(look, layer.opacity, OPACITY, `${layer.key}/opacity`, at) *
      level *
      presence(layer.fades, at),
    steps: layer.steps.map((use) => {
      const path = `${layer.key}/${use.key}`;
      return {
        key: use.key,
        step: use.step,
        on: use.on,
        from: use.from,
        mix:
          share(look, use.mix, MIX, `${path}/mix`, at) *
          at.level(use.span) *
          presence(use.fades, at),
        values: valuesOf(look, stepOf(use.step)!.parameters, use.parameters, path, at),
        mattes: resolveMattes(look, use.mattes, path, at),
      };
    }),
    mattes: resolveMattes(look, layer.mattes, layer.key, at),
    placement:
      layer.placement && valuesOf(look, PLACEMENT, layer.placement, `${layer.key}/${PLACED}`, at),
    time: layer.time && valuesOf(look, LAYER_TIME, layer.time, `${layer.key}/${TIMED}`, at),
  };
}
