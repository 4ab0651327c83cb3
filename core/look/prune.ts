/**
 * Pruning of references: parts of a look as they can stand in another look, or in the same one
 * after something they named was removed.
 */
import { matteOf } from '../mattes';
import { bindingOf } from './bindings';
import type {
  InstantUse,
  Layer,
  LookDocument,
  MatteUse,
  PinAsk,
  Setting,
  SpanUse,
  StepUse,
} from './document';
import { allLayers } from './settings';

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

const asks = (look: LookDocument, key: string | undefined, kind: PinAsk['kind']): boolean =>
  look.pins?.some((p) => p.key === key && p.kind === kind) ?? false;

/**
 * A setting that is valid in a look: if it names something the look lacks, a constant, or undefined
 * for the default.
 */
const prunedSetting = (look: LookDocument, s: Setting): Setting | undefined =>
  bindingOf(s)?.pruned(s, look);
const prunedParameters = (
  look: LookDocument,
  parameters: Record<string, Setting>,
): Record<string, Setting> =>
  Object.fromEntries(
    Object.entries(parameters).flatMap(([id, v]) => {
      const own = prunedSetting(look, v);
      return own ? [[id, own]] : [];
    }),
  );
const prunedShare = (look: LookDocument, s: Setting): Setting =>
  prunedSetting(look, s) ?? { value: 100 };
/**
 * An instant that is valid in a look: if the look does not ask for its cue, it counts from the
 * clip's start.
 */
function prunedInstant(look: LookDocument, { offset, ...at }: InstantUse): InstantUse {
  const { cue, which: _, ...plain } = at;
  const own = offset && prunedSetting(look, offset);
  const there = at.from !== 'cue' || asks(look, cue, 'cue');
  return { ...(there ? at : { ...plain, from: 'start' as const }), ...(own && { offset: own }) };
}
function prunedSpan(look: LookDocument, span: SpanUse | undefined): { span?: SpanUse } {
  if (!span) return {};
  const { coming, going, ...s } = span;
  const [comes, goes] = [coming, going].map((x) => x && prunedSetting(look, x));
  return {
    span: {
      ...s,
      from: prunedInstant(look, s.from),
      to: prunedInstant(look, s.to),
      ...(comes && { coming: comes }),
      ...(goes && { going: goes }),
    },
  };
}
/**
 * Mattes that are valid in a look. One from a file that no pin asks for would cover the whole
 * frame, so it is dropped.
 */
export const prunedMattes = (
  look: LookDocument,
  mattes: readonly MatteUse[] | undefined,
): { mattes?: MatteUse[] } => {
  const left = (mattes ?? [])
    .filter((m) => matteOf(m.matte)?.names !== 'pin' || asks(look, m.from, 'matte'))
    .map((m) => ({ ...m, parameters: prunedParameters(look, m.parameters) }));
  return left.length > 0 ? { mattes: left } : {};
};
/** A step that is valid in a look. */
export function prunedStep(look: LookDocument, { mattes, from, ...s }: StepUse): StepUse {
  return {
    ...s,
    ...(from !== undefined && allLayers(look).some((l) => l.key === from) && { from }),
    ...prunedSpan(look, s.span),
    mix: prunedShare(look, s.mix),
    parameters: prunedParameters(look, s.parameters),
    ...prunedMattes(look, mattes),
  };
}
/** Sources that are named in `from`. */
const NAMING: readonly Layer['source'][] = ['layer', 'group', 'footage', 'look'];
/** A layer that is valid in a look. */
export function pruneReferences(look: LookDocument, { mattes, from, ...l }: Layer): Layer {
  const there =
    (l.source === 'group' && look.groups?.some((g) => g.key === from)) ||
    (l.source === 'look' && look.looks?.some((o) => o.key === from)) ||
    (l.source === 'layer' && allLayers(look).some((o) => o.key === from)) ||
    (l.source === 'footage' && asks(look, from, 'footage'));
  return {
    ...l,
    ...(there ? { from: from! } : NAMING.includes(l.source) && { source: 'clip' as const }),
    opacity: prunedShare(look, l.opacity),
    steps: l.steps.map((s) => prunedStep(look, s)),
    ...prunedMattes(look, mattes),
    ...(l.dials && { dials: prunedParameters(look, l.dials) }),
    ...(l.placement && { placement: prunedParameters(look, l.placement) }),
    ...(l.time && { time: prunedParameters(look, l.time) }),
    ...(l.timeFrom && { timeFrom: prunedInstant(look, l.timeFrom) }),
    ...prunedSpan(look, l.span),
  };
}
