/**
 * Reads a look document from anything: returns a valid document, or its faults with their paths.
 */
import { plainToInstance } from 'class-transformer';
import { validateSync } from 'class-validator';
import { PLACEMENT } from '../compositing';
import { matteOf, matteParameters, MATTES } from '../mattes';
import { isColour, type Parameter } from '../parameters';
import { type Step, stepOf, STEPS } from '../steps';
import { beyondBounds } from './bounds';
import { BINDINGS, bindingOf, type Named } from './bindings';
import {
  type Dial,
  type InnerLook,
  type Layer,
  LookDocument,
  type MatteUse,
  type PinAsk,
  type Setting,
  STRENGTH,
} from './document';
import { upToDate } from './migrations';
import { type Fault, faultsOf } from './fault';
import { innerDials, MIX, OPACITY } from './paths';
import { allLayers } from './settings';
import { layerTimeFaults, type SettingCheck, timeFaults } from './validate-time';

/** A valid look, or its faults. */
export type Read = { readonly look: LookDocument } | { readonly faults: readonly Fault[] };

const SETTINGS = BINDINGS.map((b) => `{ "${b.id}": … }`);
const SETTING_IS = `must be ${SETTINGS.slice(0, -1).join(', ')} or ${SETTINGS.at(-1)}`;

const settingFaults = (path: string, p: Parameter, s: Setting | undefined, named: Named): Fault[] =>
  bindingOf(s)?.faults(s!, p, path, named) ?? [{ path, message: SETTING_IS }];

/** Faults of a set of settings for these parameters. */
function parameterFaults(
  path: string,
  id: string,
  known: readonly Parameter[],
  settings: Record<string, Setting>,
  named: Named,
): Fault[] {
  return Object.entries(settings).flatMap(([name, s]) => {
    const p = known.find((q) => q.id === name);
    return p
      ? settingFaults(`${path}.${name}`, p, s, named)
      : [
          {
            path: `${path}.${name}`,
            message: `${id} has no parameter "${name}"; it has ${known.map((q) => q.id).join(', ')}`,
          },
        ];
  });
}

const stepFaults = (
  path: string,
  step: Step | undefined,
  id: string,
  parameters: Record<string, Setting>,
  named: Named,
): Fault[] =>
  step
    ? parameterFaults(`${path}.parameters`, step.id, step.parameters, parameters, named)
    : [
        {
          path: `${path}.step`,
          message: `there is no step "${id}"; the steps are ${STEPS.map((s) => s.id).join(', ')}`,
        },
      ];

const matteFaults = (
  path: string,
  mattes: readonly MatteUse[] | undefined,
  named: Named,
): Fault[] => [
  ...repeated(
    (mattes ?? []).map((m) => m.key),
    (i) => `${path}[${i}].key`,
  ),
  ...(mattes ?? []).flatMap((m, i): Fault[] => {
    const kind = matteOf(m.matte);
    if (!kind)
      return [
        {
          path: `${path}[${i}].matte`,
          message: `there is no matte "${m.matte}"; there are ${MATTES.map((k) => k.id).join(', ')}`,
        },
      ];
    if (kind.names === 'pin' && named.pins.get(m.from ?? '')?.kind !== 'matte')
      return [
        {
          path: `${path}[${i}].from`,
          message: 'must be the key of a matte pin that the look asks for',
        },
      ];
    return parameterFaults(
      `${path}[${i}].parameters`,
      kind.id,
      matteParameters(kind),
      m.parameters,
      named,
    );
  }),
];

function layerFaults(look: LookDocument, l: Layer, path: string, named: Named): Fault[] {
  const from = (): Fault[] => {
    const at = `${path}.from`;
    if (l.source === 'group' && !look.groups?.some((g) => g.key === l.from))
      return [{ path: at, message: 'must be the key of a group of the look' }];
    if (l.source === 'layer' && !allLayers(look).some((o) => o.key === l.from))
      return [{ path: at, message: 'must be the key of another layer' }];
    if (l.source === 'look' && !look.looks?.some((o) => o.key === l.from))
      return [{ path: at, message: 'must be the key of a look within the look' }];
    if (l.source === 'footage' && named.pins.get(l.from ?? '')?.kind !== 'footage')
      return [{ path: at, message: 'must be the key of a footage pin that the look asks for' }];
    return [];
  };
  return [
    ...from(),
    ...settingFaults(`${path}.opacity`, OPACITY, l.opacity, named),
    ...repeated(
      l.steps.map((s) => s.key),
      (k) => `${path}.steps[${k}].key`,
    ),
    ...l.steps.flatMap((s, k) => [
      ...(s.from !== undefined && !allLayers(look).some((o) => o.key === s.from)
        ? [{ path: `${path}.steps[${k}].from`, message: 'must be the key of another layer' }]
        : []),
      ...settingFaults(`${path}.steps[${k}].mix`, MIX, s.mix, named),
      ...stepFaults(`${path}.steps[${k}]`, stepOf(s.step), s.step, s.parameters, named),
      ...matteFaults(`${path}.steps[${k}].mattes`, s.mattes, named),
    ]),
    ...matteFaults(`${path}.mattes`, l.mattes, named),
    ...(l.dials && l.source === 'look'
      ? parameterFaults(
          `${path}.dials`,
          'the look it begins with',
          innerDials(look, l),
          l.dials,
          named,
        )
      : []),
    ...parameterFaults(`${path}.placement`, 'placement', PLACEMENT, l.placement ?? {}, named),
    ...layerTimeFaults(path, l, checkOf(named)),
  ];
}

/** The check of settings, for validation in time. */
const checkOf = (named: Named): SettingCheck => ({
  setting: (path, p, s) => settingFaults(path, p, s, named),
  settings: (path, name, known, all) => parameterFaults(path, name, known, all, named),
  isCue: (key) => named.pins.get(key ?? '')?.kind === 'cue',
});

/** Groups that contain themselves through the layers that use them. */
function groupFaults(look: LookDocument): Fault[] {
  const groups = look.groups ?? [];
  const uses = (key: string): string[] =>
    groups
      .find((g) => g.key === key)
      ?.layers.flatMap((l) => (l.source === 'group' ? [l.from ?? ''] : [])) ?? [];
  const leads = (key: string, to: string, seen: ReadonlySet<string>): boolean =>
    uses(key).some((k) => k === to || (!seen.has(k) && leads(k, to, new Set([...seen, k]))));
  return groups.flatMap((g, i) =>
    leads(g.key, g.key, new Set([g.key]))
      ? [{ path: `groups[${i}]`, message: `the group "${g.key}" is made from itself` }]
      : [],
  );
}

/** Greatest depth of looks inside looks, counting the outermost. */
const MOST_WITHIN = 4;
/**
 * Faults of inner looks: each must be a valid look and ask only for pins that the outer look asks
 * for.
 */
function innerFaults(look: LookDocument, depth: number): Fault[] {
  const lacking = ({ document }: InnerLook): PinAsk | undefined =>
    (document.pins ?? []).find((p) => look.pins?.find((own) => own.key === p.key)?.kind !== p.kind);
  return (look.looks ?? []).flatMap((inner, i): Fault[] => {
    const path = `looks[${i}].document`,
      pin = lacking(inner);
    if (depth === MOST_WITHIN)
      return [
        { path, message: `looks can lie ${MOST_WITHIN} deep within one another, not deeper` },
      ];
    return [
      ...(pin
        ? [
            {
              path,
              message: `asks for the ${pin.kind} pin "${pin.key}", which the look around it does not ask for`,
            },
          ]
        : []),
      ...meaningFaults(inner.document, depth + 1).map((f) => ({
        ...f,
        path: f.path ? `${path}.${f.path}` : path,
      })),
    ];
  });
}

function dialFaults(d: Dial, path: string): Fault[] {
  if (d.goal && d.kind !== 'number')
    return [{ path: `${path}.goal`, message: 'only a number dial can have a goal' }];
  if (d.kind === 'switch')
    return typeof d.value === 'boolean' ? [] : [{ path, message: 'a switch is true or false' }];
  if (d.kind === 'colour')
    return isColour(d.value) ? [] : [{ path, message: 'a colour is three numbers' }];
  if (d.min === undefined || d.max === undefined || d.min >= d.max)
    return [{ path, message: 'a number dial needs min below max' }];
  return typeof d.value === 'number' && d.value >= d.min && d.value <= d.max
    ? []
    : [{ path: `${path}.value`, message: `must be a number from ${d.min} to ${d.max}` }];
}

function repeated(keys: readonly string[], path: (i: number) => string): Fault[] {
  return keys.flatMap((k, i) =>
    keys.indexOf(k) < i ? [{ path: path(i), message: `the key "${k}" is used twice` }] : [],
  );
}

function meaningFaults(look: LookDocument, depth = 1): Fault[] {
  const dials = new Map(look.dials.map((d) => [d.key, d]));
  const pins = look.pins ?? [];
  const named = { look, dials, pins: new Map(pins.map((p) => [p.key, p])) };
  const strength = dials.get(STRENGTH);
  return [
    ...(strength?.kind === 'number' && strength.min === 0 && strength.max === 100
      ? []
      : [{ path: 'dials', message: 'a look has a number dial "strength" from 0 to 100' }]),
    ...repeated(
      look.dials.map((d) => d.key),
      (i) => `dials[${i}].key`,
    ),
    ...repeated(
      pins.map((p) => p.key),
      (i) => `pins[${i}].key`,
    ),
    ...repeated(
      (look.groups ?? []).map((g) => g.key),
      (i) => `groups[${i}].key`,
    ),
    ...repeated(
      (look.looks ?? []).map((l) => l.key),
      (i) => `looks[${i}].key`,
    ),
    ...innerFaults(look, depth),
    ...groupFaults(look),
    ...repeated(
      allLayers(look).map((l) => l.key),
      (i) => `layers[${i}].key`,
    ),
    ...look.dials.flatMap((d, i) => dialFaults(d, `dials[${i}]`)),
    ...look.layers.flatMap((l, i) => layerFaults(look, l, `layers[${i}]`, named)),
    ...(look.groups ?? []).flatMap((g, k) =>
      g.layers.flatMap((l, i) => layerFaults(look, l, `groups[${k}].layers[${i}]`, named)),
    ),
    ...repeated(
      (look.movers ?? []).map((m) => m.key),
      (i) => `movers[${i}].key`,
    ),
    ...timeFaults(look, checkOf(named)),
  ];
}

/** A look from parsed JSON. Never throws. */
export function readLook(json: unknown): Read {
  if (json === null || typeof json !== 'object' || Array.isArray(json))
    return { faults: [{ path: '', message: 'a look is a JSON object' }] };
  const beyond = beyondBounds(json);
  if (beyond) return { faults: [{ path: '', message: beyond }] };
  const look = plainToInstance(LookDocument, upToDate(json));
  const shape = faultsOf(
    validateSync(look, { whitelist: true, forbidNonWhitelisted: true, forbidUnknownValues: true }),
  );
  if (shape.length > 0) return { faults: shape };
  const faults = meaningFaults(look);
  return faults.length > 0
    ? { faults }
    : { look: JSON.parse(JSON.stringify(look)) as LookDocument };
}

/** Faults as one line of text. */
export const inWords = (faults: readonly Fault[]): string =>
  faults
    .slice(0, 3)
    .map((f) => (f.path ? `${f.path} ${f.message}` : f.message))
    .join('; ') + (faults.length > 3 ? ` (and ${faults.length - 3} more)` : '');
