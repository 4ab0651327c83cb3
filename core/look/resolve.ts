/** A look's parameters at given dial values: plain numbers, colours and switches. */
import { CENTRE, type ParameterValue, stepOf, type Values, withDefaults } from '../steps';
import type { BlendId } from '../plan/blend';
import { type Dial, type Layer, type LookDocument, type Setting, type SourceId, STRENGTH } from './document';

export type DialValue = Dial['value'];
/** Values that stand in for the look's own, by dial. */
export type DialValues = Readonly<Record<string, DialValue>>;

export interface ResolvedStep {
  readonly key: string;
  readonly step: string;
  readonly on: boolean;
  readonly mix: number;
  readonly values: Values;
}
export interface ResolvedLayer {
  readonly key: string;
  readonly on: boolean;
  readonly source: SourceId;
  readonly blend: BlendId;
  readonly opacity: number;
  readonly steps: readonly ResolvedStep[];
}

/** A setting's value; pins stand at the centre until a clip's own are put in; a number dial is laid linearly from its own range onto `from`…`to`. */
export function resolve(look: LookDocument, setting: Setting, dials: DialValues): ParameterValue {
  if ('value' in setting) return setting.value;
  // Where a clip has set nothing.
  if ('pin' in setting) return CENTRE;
  const dial = look.dials.find((d) => d.key === setting.dial)!;
  const value = dials[dial.key] ?? dial.value;
  if (typeof value !== 'number') return value;
  const share = (value - dial.min!) / (dial.max! - dial.min!);
  return setting.from! + share * (setting.to! - setting.from!);
}

const share = (look: LookDocument, s: Setting, dials: DialValues): number => (resolve(look, s, dials) as number) / 100;

export function resolveLayer(look: LookDocument, layer: Layer, dials: DialValues): ResolvedLayer {
  return {
    key: layer.key,
    on: layer.on,
    source: layer.source,
    blend: layer.blend,
    opacity: share(look, layer.opacity, dials),
    steps: layer.steps.map((use) => ({
      key: use.key,
      step: use.step,
      on: use.on,
      mix: share(look, use.mix, dials),
      values: withDefaults(stepOf(use.step)!, Object.fromEntries(Object.entries(use.parameters).map(([id, s]) => [id, resolve(look, s, dials)]))),
    })),
  };
}

/** 0…1. */
export const strengthOf = (look: LookDocument, dials: DialValues): number =>
  ((dials[STRENGTH] ?? look.dials.find((d) => d.key === STRENGTH)!.value) as number) / 100;
