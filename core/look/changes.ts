/**
 * The differences between two looks, as short sentences: "Grain amount 20 → 35 %", "layer halo
 * added".
 */
import { BLEND_MODES, PLACEMENT } from '../compositing';
import { matteOf, matteParameters } from '../mattes';
import { type Colour, hexOf, type Parameter, type ParameterValue } from '../parameters';
import { stepOf } from '../steps';
import { LAYER_TIME } from '../time';
import { bindingOf, figure } from './bindings';
import type { DialValue, Layer, LookDocument, MatteUse, Setting, StepUse } from './document';
import { innerDials, MIX, OPACITY } from './paths';
import { allLayers } from './settings';

const same = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b);

/** A value without its unit; for values that have no short form, the name of their kind. */
function valueWords(p: Parameter | undefined, v: ParameterValue): string {
  if (typeof v === 'number') return figure(v);
  if (typeof v === 'boolean') return v ? 'on' : 'off';
  if (p?.kind === 'choice') return p.options.find((o) => o.id === v)?.label ?? String(v);
  if (p?.kind === 'colour') return hexOf(v as unknown as Colour);
  return '';
}
/** A description of what a setting is bound to; undefined for a constant. */
const boundWords = (look: LookDocument, s: Setting): string | undefined =>
  bindingOf(s)?.words?.(s, look);

type Both = readonly [before: LookDocument, after: LookDocument];
function settingWords(
  [before, after]: Both,
  name: string,
  p: Parameter | undefined,
  a: Setting | undefined,
  b: Setting | undefined,
): string[] {
  const [was, now] = [a, b].map((s): Setting | undefined => s ?? (p && { value: p.default }));
  if (!was || !now || same(was, now)) return [];
  const unit = p?.kind === 'number' && p.unit ? ` ${p.unit}` : '';
  const words = (look: LookDocument, s: Setting): string =>
    boundWords(look, s) ?? valueWords(p, (s as { value: ParameterValue }).value);
  const [from, to] = [words(before, was), words(after, now)];
  if (from === to || from === '' || to === '') return [`${name} changed`];
  return [`${name} ${from} → ${to}${'value' in now ? unit : ''}`];
}

function parameterWords(
  both: Both,
  of: string,
  known: readonly Parameter[],
  a: Record<string, Setting>,
  b: Record<string, Setting>,
): string[] {
  return known.flatMap((p) =>
    settingWords(both, `${of} ${p.label.toLowerCase()}`, p, a[p.id], b[p.id]),
  );
}

interface Keyed {
  readonly key: string;
}
/** Differences between lists of keyed items: added, removed, reordered, and changed. */
function listWords<T extends Keyed>(
  a: readonly T[],
  b: readonly T[],
  name: (t: T) => string,
  of: (was: T, now: T) => string[],
): string[] {
  const find = (all: readonly T[], key: string) => all.find((t) => t.key === key);
  const stayed = (all: readonly T[], other: readonly T[]) =>
    all.filter((t) => find(other, t.key)).map((t) => t.key);
  return [
    ...a.filter((t) => !find(b, t.key)).map((t) => `${name(t)} removed`),
    ...b.filter((t) => !find(a, t.key)).map((t) => `${name(t)} added`),
    ...(same(stayed(a, b), stayed(b, a)) ? [] : [`${name(b[0]!).split(' ')[0]}s in another order`]),
    ...b.flatMap((t) => {
      const was = find(a, t.key);
      return was ? of(was, t) : [];
    }),
  ];
}
const onOff = (name: string, a: { readonly on: boolean }, b: { readonly on: boolean }): string[] =>
  a.on === b.on ? [] : [`${name} ${b.on ? 'on' : 'off'}`];

const matteWords = (
  both: Both,
  owner: string,
  a: readonly MatteUse[],
  b: readonly MatteUse[],
): string[] =>
  listWords(
    a,
    b,
    (m) => `matte ${matteOf(m.matte)?.label.toLowerCase() ?? m.matte} of ${owner}`,
    (was, now) => {
      const kind = matteOf(now.matte),
        name = `${owner}’s ${kind?.label.toLowerCase() ?? now.matte}`;
      return [
        ...onOff(name, was, now),
        ...(was.combine === now.combine && was.invert === now.invert && was.from === now.from
          ? []
          : [`${name} joined otherwise`]),
        ...(kind
          ? parameterWords(both, name, matteParameters(kind), was.parameters, now.parameters)
          : []),
      ];
    },
  );

const stepWords = (
  both: Both,
  layer: string,
  a: readonly StepUse[],
  b: readonly StepUse[],
): string[] =>
  listWords(
    a,
    b,
    (s) => `step ${stepOf(s.step)?.label.toLowerCase() ?? s.step} of ${layer}`,
    (was, now) => {
      const step = stepOf(now.step),
        name = step?.label ?? now.step;
      return [
        ...onOff(name, was, now),
        ...(step
          ? parameterWords(both, name, step.parameters, was.parameters, now.parameters)
          : []),
        ...settingWords(both, `${name} mix`, MIX, was.mix, now.mix),
        ...(same(was.span, now.span) ? [] : [`${name} acts at another time`]),
        ...matteWords(both, name, was.mattes ?? [], now.mattes ?? []),
      ];
    },
  );

const layerWords = (both: Both, was: Layer, now: Layer): string[] => {
  const name = now.name;
  return [
    ...(was.name === name ? [] : [`layer ${was.name} is called ${name}`]),
    ...onOff(`layer ${name}`, was, now),
    ...(was.source === now.source && was.from === now.from
      ? []
      : [`layer ${name} begins with something else`]),
    ...(was.blend === now.blend
      ? []
      : [
          `layer ${name} ${BLEND_MODES[was.blend].label.toLowerCase()} → ${BLEND_MODES[now.blend].label.toLowerCase()}`,
        ]),
    ...parameterWords(both, `${name}:`, innerDials(both[1], now), was.dials ?? {}, now.dials ?? {}),
    ...(was.over === now.over
      ? []
      : [`${name} ${now.over ? 'over what is below' : 'over the clip'}`]),
    ...settingWords(both, `${name} opacity`, OPACITY, was.opacity, now.opacity),
    ...stepWords(both, name, was.steps, now.steps),
    ...matteWords(both, name, was.mattes ?? [], now.mattes ?? []),
    ...parameterWords(both, `${name} placed:`, PLACEMENT, was.placement ?? {}, now.placement ?? {}),
    ...parameterWords(both, `${name} in time:`, LAYER_TIME, was.time ?? {}, now.time ?? {}),
    ...(same(was.span, now.span) && same(was.timeFrom, now.timeFrom)
      ? []
      : [`${name} acts at another time`]),
  ];
};

const dialWords = (v: DialValue): string =>
  typeof v === 'number' ? figure(v) : typeof v === 'boolean' ? (v ? 'on' : 'off') : hexOf(v);

/** All differences from one look to another, layers first; empty if there are none. */
export function changesBetween(before: LookDocument, after: LookDocument): string[] {
  const both: Both = [before, after];
  const plain = (name: string, of: (l: LookDocument) => unknown): string[] =>
    same(of(before), of(after)) ? [] : [name];
  return [
    ...(before.name === after.name ? [] : [`called ${after.name}, was ${before.name}`]),
    ...listWords(
      allLayers(before),
      allLayers(after),
      (l) => `layer ${l.name}`,
      (was, now) => layerWords(both, was, now),
    ),
    ...listWords(
      before.dials,
      after.dials,
      (d) => `dial ${d.label}`,
      (was, now) => [
        ...(was.label === now.label ? [] : [`dial ${was.label} is called ${now.label}`]),
        ...(same(was.value, now.value)
          ? []
          : [
              `dial ${now.label} ${dialWords(was.value)} → ${dialWords(now.value)}${now.unit ? ` ${now.unit}` : ''}`,
            ]),
        ...(was.min === now.min && was.max === now.max ? [] : [`dial ${now.label} has other ends`]),
        ...(same(was.goal, now.goal) ? [] : [`dial ${now.label} has another goal`]),
      ],
    ),
    ...listWords(
      before.pins ?? [],
      after.pins ?? [],
      (p) => `pin ${p.label}`,
      (was, now) => (same(was, now) ? [] : [`pin ${now.label} changed`]),
    ),
    ...listWords(
      before.movers ?? [],
      after.movers ?? [],
      (m) => `mover ${m.name}`,
      (was, now) => [
        ...onOff(`mover ${now.name}`, was, now),
        ...(same({ ...was, on: true }, { ...now, on: true }) ? [] : [`mover ${now.name} changed`]),
      ],
    ),
    ...listWords(
      before.looks ?? [],
      after.looks ?? [],
      (l) => `look ${l.document.name} within`,
      (was, now) => [
        ...(was.of?.version === now.of?.version
          ? []
          : [
              `look ${now.document.name} within v${was.of?.version ?? '?'} → v${now.of?.version ?? '?'}`,
            ]),
        ...changesBetween(was.document, now.document).map((w) => `in ${now.document.name}: ${w}`),
      ],
    ),
    ...plain('another frame', (l) => l.frame),
    ...plain('what it suits', (l) => l.suits),
    ...plain('the flags it means', (l) => l.means),
    ...plain('when it acts', (l) => l.span),
    ...plain('how it lets clips run', (l) => l.retime),
    ...plain('whether it fills the frame', (l) => l.fills ?? false),
    ...plain('whether it stands on the bedrock', (l) => l.bedrock),
    ...plain('its seed', (l) => l.seed),
  ];
}
