/** A look's parameters at given dial values: plain numbers, colours and switches. */
import { type BlendId, PLACEMENT } from '../compositing';
import { type Combination, matteOf, matteParameters } from '../mattes';
import { CENTRE, type Ellipse, type Parameter, type ParameterValue, type Point, type Values, withDefaults } from '../parameters';
import { stepOf } from '../steps';
import { type Dial, type Layer, type LookDocument, type MatteUse, type Setting, type SourceId, STRENGTH } from './document';
import { beside, followed, matteWithCentre, standingOut } from './following';

export type DialValue = Dial['value'];
/** Values that stand in for the look's own, by dial. */
export type DialValues = Readonly<Record<string, DialValue>>;

export interface ResolvedStep {
  readonly key: string;
  readonly step: string;
  readonly on: boolean;
  readonly mix: number;
  readonly values: Values;
  readonly mattes: readonly ResolvedMatte[];
}
export interface ResolvedMatte {
  readonly matte: string;
  readonly combine: Combination;
  readonly invert: boolean;
  readonly from: string | undefined;
  /** One set for each place of the pin it is bound to. */
  readonly values: readonly Values[];
}
export interface ResolvedLayer {
  readonly key: string;
  readonly on: boolean;
  readonly source: SourceId;
  readonly from: string | undefined;
  readonly blend: BlendId;
  readonly opacity: number;
  readonly steps: readonly ResolvedStep[];
  readonly mattes: readonly ResolvedMatte[];
  readonly placement: Values | undefined;
}

/** A setting's value; pins stand at the centre until a clip's own are put in; a number dial is laid linearly from its own range onto `from`…`to`. */
export function resolve(look: LookDocument, setting: Setting, dials: DialValues): ParameterValue {
  if ('value' in setting) return setting.value;
  if ('follows' in setting) {
    const target = followed(look, setting.follows);
    return target ? beside(resolve(look, target.setting, dials), setting) : 0;
  }
  if ('clip' in setting) return standingOut(undefined);
  if ('centre' in setting) return shaped(setting.shape, centreOf(look, setting.centre, dials));
  // Where a clip has set nothing.
  if ('pin' in setting) return shaped(setting.shape, CENTRE);
  const dial = look.dials.find((d) => d.key === setting.dial)!;
  const value = dials[dial.key] ?? dial.value;
  if (typeof value !== 'number') return value;
  const share = (value - dial.min!) / (dial.max! - dial.min!);
  return setting.from! + share * (setting.to! - setting.from!);
}

const shaped = (shape: Ellipse | undefined, at: Point): ParameterValue => (shape ? [...at, shape[2], shape[3], shape[4]] : at);

function centreOf(look: LookDocument, path: string, dials: DialValues): Point {
  const use = matteWithCentre(look, path),
    kind = use && matteOf(use.matte);
  return kind?.centre?.(valuesOf(look, matteParameters(kind), use!.parameters, dials)) ?? CENTRE;
}

const share = (look: LookDocument, s: Setting, dials: DialValues): number => (resolve(look, s, dials) as number) / 100;

/** A list of parameters at their settings, the defaults where there is none. */
const valuesOf = (look: LookDocument, parameters: readonly Parameter[], settings: Record<string, Setting>, dials: DialValues): Values =>
  withDefaults({ parameters }, Object.fromEntries(Object.entries(settings).map(([id, s]) => [id, held(parameters, id, resolve(look, s, dials))])));

/** A number that follows another may lead out of its own range. */
function held(parameters: readonly Parameter[], id: string, v: ParameterValue): ParameterValue {
  const p = parameters.find((q) => q.id === id);
  return typeof v === 'number' && p?.kind === 'number' ? Math.max(p.min, Math.min(p.max, v)) : v;
}

const resolveMattes = (look: LookDocument, mattes: readonly MatteUse[] | undefined, dials: DialValues): ResolvedMatte[] =>
  (mattes ?? [])
    .filter((m) => m.on)
    .map((m) => ({
      matte: m.matte,
      combine: m.combine,
      invert: m.invert,
      from: m.from,
      values: [m.parameters, ...(m.also ?? [])].map((settings) => valuesOf(look, matteParameters(matteOf(m.matte)!), settings, dials)),
    }));

export function resolveLayer(look: LookDocument, layer: Layer, dials: DialValues): ResolvedLayer {
  return {
    key: layer.key,
    on: layer.on,
    source: layer.source,
    from: layer.from,
    blend: layer.blend,
    opacity: share(look, layer.opacity, dials),
    steps: layer.steps.map((use) => ({
      key: use.key,
      step: use.step,
      on: use.on,
      mix: share(look, use.mix, dials),
      values: valuesOf(look, stepOf(use.step)!.parameters, use.parameters, dials),
      mattes: resolveMattes(look, use.mattes, dials),
    })),
    mattes: resolveMattes(look, layer.mattes, dials),
    placement: layer.placement && valuesOf(look, PLACEMENT, layer.placement, dials),
  };
}

/** 0…1. */
export const strengthOf = (look: LookDocument, dials: DialValues): number =>
  ((dials[STRENGTH] ?? look.dials.find((d) => d.key === STRENGTH)!.value) as number) / 100;
