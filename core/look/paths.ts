/**
 * Paths to what a look can move: `layer/opacity`, `layer/step/mix`, `layer/step/parameter`,
 * `layer/@matte/parameter`, `layer/step/@matte/parameter`, `layer/+placement/parameter`,
 * `layer/+time/parameter`, `layer/+look/dial` and `+dials/key`.
 */
import { PLACEMENT } from '../compositing';
import { matteOf, matteParameters } from '../mattes';
import { number, type Parameter } from '../parameters';
import { stepOf } from '../steps';
import { LAYER_TIME } from '../time';
import type { Dial, Layer, LookDocument, MatteUse, Setting, SpanUse } from './document';
import { allLayers } from './settings';

/** Opacity of a layer, as a parameter. */
export const OPACITY: Parameter = number('opacity', 'Opacity', '%', 0, 100, 100);
/** Mix of a step, as a parameter. */
export const MIX: Parameter = number('mix', 'Mix', '%', 0, 100, 100);
/** Prefixes in paths: placement, layer time, dials of an inner look, dials of the look. */
export const PLACED = '+placement',
  TIMED = '+time',
  INNER = '+look',
  DIALS = '+dials';

/** What a path leads to: the parameter and its setting. */
export interface Found {
  readonly parameter: Parameter;
  readonly setting: Setting;
  /** The spans it lies in, innermost first. */
  readonly spans: readonly SpanUse[];
  /** Names of the layer and step, for people. */
  readonly of: string;
}

/** A dial as a parameter. */
export const dialParameter = (d: Dial): Parameter => {
  if (d.kind === 'number')
    return number(
      d.key,
      d.label,
      d.unit === '%' ? '%' : '',
      d.min ?? 0,
      d.max ?? 1,
      d.value as number,
    );
  if (d.kind === 'switch')
    return { kind: 'switch', id: d.key, label: d.label, default: d.value as boolean };
  return {
    kind: 'colour',
    id: d.key,
    label: d.label,
    default: d.value as readonly [number, number, number],
  };
};

const among = (
  parameters: readonly Parameter[],
  settings: Readonly<Record<string, Setting>> | undefined,
  id: string | undefined,
) => {
  const parameter = parameters.find((p) => p.id === id);
  return (
    parameter && { parameter, setting: settings?.[parameter.id] ?? { value: parameter.default } }
  );
};
const inMatte = (mattes: readonly MatteUse[] | undefined, key: string, id: string | undefined) => {
  const use = mattes?.find((m) => m.key === key),
    kind = use && matteOf(use.matte);
  return kind && among(matteParameters(kind), use.parameters, id);
};

/** Dials of the look that a layer starts from, as parameters of the layer. */
export const innerDials = (
  look: LookDocument,
  layer: Pick<Layer, 'source' | 'from'>,
): readonly Parameter[] =>
  layer.source === 'look'
    ? (look.looks?.find((l) => l.key === layer.from)?.document.dials.map(dialParameter) ?? [])
    : [];

function within(
  look: LookDocument,
  layer: Layer,
  [first = '', second, third]: readonly string[],
): Omit<Found, 'of'> | undefined {
  const spans = layer.span ? [layer.span] : [];
  const as = (
    found: Pick<Found, 'parameter' | 'setting'> | undefined,
    more: readonly SpanUse[] = [],
  ) => found && { ...found, spans: [...more, ...spans] };
  if (first === 'opacity' && second === undefined)
    return { parameter: OPACITY, setting: layer.opacity, spans };
  if (first === PLACED) return as(among(PLACEMENT, layer.placement, second));
  if (first === INNER) return as(among(innerDials(look, layer), layer.dials, second));
  if (first === TIMED) return as(among(LAYER_TIME, layer.time, second));
  if (first.startsWith('@')) return as(inMatte(layer.mattes, first.slice(1), second));
  const use = layer.steps.find((s) => s.key === first);
  if (!use) return undefined;
  const own = use.span ? [use.span] : [];
  if (second === 'mix' && third === undefined) return as({ parameter: MIX, setting: use.mix }, own);
  if (second?.startsWith('@')) return as(inMatte(use.mattes, second.slice(1), third), own);
  return third === undefined
    ? as(among(stepOf(use.step)?.parameters ?? [], use.parameters, second), own)
    : undefined;
}

/** What a path leads to; undefined if the look has no such thing. */
export function parameterAt(look: LookDocument, path: string): Found | undefined {
  const [first, ...rest] = path.split('/');
  if (first === DIALS) {
    const dial = rest.length === 1 ? look.dials.find((d) => d.key === rest[0]) : undefined;
    return (
      dial && {
        parameter: dialParameter(dial),
        setting: { value: dial.value },
        spans: [],
        of: 'dial',
      }
    );
  }
  const layer = allLayers(look).find((l) => l.key === first);
  const found = layer && within(look, layer, rest);
  if (!found) return undefined;
  const step = layer.steps.find((s) => s.key === rest[0]);
  return {
    ...found,
    of: step ? `${layer.name}, ${stepOf(step.step)?.label ?? step.step}` : layer.name,
  };
}
