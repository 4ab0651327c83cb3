/** Validates a look's movers, spans and instants beyond what the document's classes check. */
import { type Parameter, unsuited } from '../parameters';
import {
  FASTEST,
  INSTANT_UNITS,
  LAYER_TIME,
  LONGEST_HOLD,
  moverOf,
  MOVERS,
  ORIGINS,
  SLOWEST,
  WHICH,
} from '../time';
import type {
  EaseUse,
  InstantUse,
  Layer,
  LookDocument,
  Mover,
  MoverTarget,
  RetimeUse,
  Setting,
  SpanUse,
} from './document';
import { KEYS } from './document';
import { isPlaceKind } from './evaluation';
import { parameterAt } from './paths';
import type { Fault } from './fault';

/** Checks of settings, given by the validation that calls this. */
export interface SettingCheck {
  readonly setting: (path: string, p: Parameter, s: Setting) => Fault[];
  readonly settings: (
    path: string,
    name: string,
    known: readonly Parameter[],
    all: Record<string, Setting>,
  ) => Fault[];
  readonly isCue: (key: string | undefined) => boolean;
}

const LENGTH: Parameter = {
  kind: 'number',
  id: 'length',
  label: 'Length',
  unit: '',
  min: 0,
  max: 10_000,
  default: 0,
};
const OFFSET: Parameter = {
  kind: 'number',
  id: 'offset',
  label: 'Offset',
  unit: '',
  min: -100_000,
  max: 100_000,
  default: 0,
};
const BY: Parameter = {
  kind: 'number',
  id: 'by',
  label: 'How strongly',
  unit: '%',
  min: 0,
  max: 100,
  default: 50,
};

/** Faults of an instant. */
export function instantFaults(path: string, at: unknown, check: SettingCheck): Fault[] {
  if (at === null || typeof at !== 'object')
    return [
      {
        path,
        message: `must be an instant: { "from": ${ORIGINS.map((o) => `"${o}"`).join(' | ')}, … }`,
      },
    ];
  const { from, cue, which, share, offset, unit } = at as InstantUse;
  if (!ORIGINS.includes(from))
    return [{ path: `${path}.from`, message: `must be one of ${ORIGINS.join(', ')}` }];
  if (from === 'cue' && !check.isCue(cue))
    return [
      {
        path: `${path}.cue`,
        message: `names "${String(cue)}", which is no cue that the look asks for`,
      },
    ];
  if (which !== undefined && !WHICH.includes(which))
    return [{ path: `${path}.which`, message: `must be one of ${WHICH.join(', ')}` }];
  if (share !== undefined && !(typeof share === 'number' && share >= 0 && share <= 100))
    return [{ path: `${path}.share`, message: 'must be a number from 0 to 100' }];
  if (unit !== undefined && !INSTANT_UNITS.includes(unit))
    return [{ path: `${path}.unit`, message: `must be one of ${INSTANT_UNITS.join(', ')}` }];
  return offset === undefined ? [] : check.setting(`${path}.offset`, OFFSET, offset);
}

const easeFaults = (path: string, ease: EaseUse | undefined, check: SettingCheck): Fault[] =>
  ease?.by === undefined ? [] : check.setting(`${path}.by`, BY, ease.by);

/** Faults of a span. */
export function spanFaults(path: string, span: SpanUse | undefined, check: SettingCheck): Fault[] {
  if (!span) return [];
  const ends = (['from', 'to'] as const).flatMap((end) => {
    const own = instantFaults(`${path}.${end}`, span[end], check);
    return own.length > 0 || !span[end].from.startsWith('span')
      ? own
      : [{ path: `${path}.${end}.from`, message: 'cannot count from its own span' }];
  });
  return [
    ...ends,
    ...(span.coming ? check.setting(`${path}.coming`, LENGTH, span.coming) : []),
    ...(span.going ? check.setting(`${path}.going`, LENGTH, span.going) : []),
    ...easeFaults(`${path}.ease`, span.ease, check),
  ];
}

/** Faults of a layer's time. */
export const layerTimeFaults = (path: string, l: Layer, check: SettingCheck): Fault[] => [
  ...check.settings(`${path}.time`, 'layer time', LAYER_TIME, l.time ?? {}),
  ...(l.timeFrom ? instantFaults(`${path}.timeFrom`, l.timeFrom, check) : []),
  ...spanFaults(`${path}.span`, l.span, check),
  ...l.steps.flatMap((s, i) => spanFaults(`${path}.steps[${i}].span`, s.span, check)),
];

/** The range of an addition: the whole range of the parameter or, for places, across the frame. */
const addition = (p: Parameter): Parameter => {
  if (p.kind === 'number') return { ...p, min: p.min - p.max, max: p.max - p.min };
  return {
    kind: 'number',
    id: 'amount',
    label: 'Amount',
    unit: '',
    min: -4000,
    max: 4000,
    default: 0,
  };
};
const PER_CENT: Parameter = {
  kind: 'number',
  id: 'amount',
  label: 'Amount',
  unit: '%',
  min: -1000,
  max: 1000,
  default: 100,
};

/**
 * The parameter that describes a target's amount, by the way it acts; undefined if that way cannot
 * act on the parameter.
 */
export function amountOf(p: Parameter, how: MoverTarget['how']): Parameter | undefined {
  if (how === 'replace') return p;
  if (how === 'multiply') return p.kind === 'number' || p.kind === 'colour' ? PER_CENT : undefined;
  return p.kind === 'number' || p.kind === 'colour' || isPlaceKind(p) ? addition(p) : undefined;
}

function keyFaults(
  path: string,
  mover: Mover,
  kinds: readonly Parameter[],
  check: SettingCheck,
): Fault[] {
  const keys = mover.keys ?? [];
  if (keys.length === 0) return [{ path: `${path}.keys`, message: 'must be 1 key or more' }];
  const values = keys.flatMap((k, i) =>
    kinds.slice(0, 1).flatMap((own): Fault[] => {
      const p = amountOf(own, mover.targets[0]!.how) ?? own;
      const message = unsuited(p, k.value);
      return message ? [{ path: `${path}.keys[${i}].value`, message }] : [];
    }),
  );
  const paths =
    kinds[0]?.kind === 'path' ? keys.map((k) => (Array.isArray(k.value) ? k.value.length : 0)) : [];
  const uneven = paths.findIndex((n) => n !== paths[0]);
  return [
    ...keys.flatMap((k, i) => [
      ...instantFaults(`${path}.keys[${i}].at`, k.at, check),
      ...easeFaults(`${path}.keys[${i}].ease`, k.ease, check),
    ]),
    ...values,
    ...(uneven > 0
      ? [
          {
            path: `${path}.keys[${uneven}].value`,
            message: `has ${paths[uneven]} nodes and the first key ${paths[0]}: paths of keys have as many`,
          },
        ]
      : []),
  ];
}

function targetFaults(
  path: string,
  look: LookDocument,
  mover: Mover,
  target: MoverTarget,
  check: SettingCheck,
): Fault[] {
  const found = parameterAt(look, target.path);
  if (!found)
    return [
      { path: `${path}.path`, message: `names "${target.path}", which the look does not have` },
    ];
  const p = found.parameter,
    amount = amountOf(p, target.how);
  if (!amount) return [{ path: `${path}.how`, message: `a ${p.kind} can only be replaced` }];
  const kind = moverOf(mover.kind);
  if (target.part !== undefined && !kind?.parts?.some((part) => part.id === target.part))
    return [
      {
        path: `${path}.part`,
        message: kind?.parts
          ? `must be one of ${kind.parts.map((x) => x.id).join(', ')}`
          : 'this mover has no parts',
      },
    ];
  if (mover.kind === KEYS)
    return target.how !== 'replace' && p.kind !== 'number'
      ? [{ path: `${path}.how`, message: `keys of a ${p.kind} can only replace` }]
      : [];
  return target.amount
    ? check.setting(`${path}.amount`, amount, target.amount)
    : [{ path: `${path}.amount`, message: 'must say how far' }];
}

function moverFaults(path: string, look: LookDocument, mover: Mover, check: SettingCheck): Fault[] {
  const kind = moverOf(mover.kind);
  const targets = mover.targets.flatMap((t, i) =>
    targetFaults(`${path}.targets[${i}]`, look, mover, t, check),
  );
  if (mover.kind === KEYS) {
    const kinds = mover.targets.flatMap((t) => parameterAt(look, t.path)?.parameter ?? []);
    const mixed = kinds.findIndex((p) => p.kind !== kinds[0]!.kind);
    return [
      ...targets,
      ...(mixed > 0
        ? [
            {
              path: `${path}.targets[${mixed}]`,
              message: `is a ${kinds[mixed]!.kind}, the first a ${kinds[0]!.kind}: keys move one kind`,
            },
          ]
        : []),
      ...check.settings(`${path}.parameters`, KEYS, [], mover.parameters),
      ...keyFaults(path, mover, kinds, check),
    ];
  }
  if (!kind)
    return [
      {
        path: `${path}.kind`,
        message: `there is no mover "${mover.kind}"; there are ${KEYS}, ${MOVERS.map((m) => m.id).join(', ')}`,
      },
    ];
  const instants = Object.entries(mover.instants ?? {}).flatMap(([id, all]): Fault[] => {
    const known = kind.instants.find((i) => i.id === id);
    const at = `${path}.instants.${id}`;
    if (!known) return [{ path: at, message: `${kind.id} does not count from "${id}"` }];
    if (
      !Array.isArray(all) ||
      all.length < 1 ||
      all.length > 200 ||
      (all.length > 1 && !known.many)
    )
      return [
        {
          path: at,
          message: known.many ? 'must be 1 to 200 instants' : 'must be one instant in a list',
        },
      ];
    return all.flatMap((i, k) => instantFaults(`${at}[${k}]`, i, check));
  });
  return [
    ...targets,
    ...check.settings(`${path}.parameters`, kind.id, kind.parameters, mover.parameters),
    ...instants,
  ];
}

/** Speed at a place of a look's retime. */
export const RETIME_SPEED: Parameter = {
  kind: 'number',
  id: 'speed',
  label: 'Speed',
  unit: '%',
  min: SLOWEST,
  max: FASTEST,
  soft: [10, 400],
  default: 100,
};
/** Hold at a place of a look's retime. */
export const RETIME_HOLD: Parameter = {
  kind: 'number',
  id: 'hold',
  label: 'Stands still',
  unit: 'seconds',
  min: 0,
  max: LONGEST_HOLD,
  soft: [0, 4],
  default: 0,
};

function retimeFaults(retime: RetimeUse | undefined, check: SettingCheck): Fault[] {
  return (retime?.places ?? []).flatMap(({ at, speed, hold }, i) => {
    const path = `retime.places[${i}]`;
    const own = instantFaults(`${path}.at`, at, check);
    return [
      ...(own.length === 0 && at.from.startsWith('span')
        ? [{ path: `${path}.at.from`, message: 'cannot count from a span' }]
        : own),
      ...check.setting(`${path}.speed`, RETIME_SPEED, speed),
      ...(hold === undefined ? [] : check.setting(`${path}.hold`, RETIME_HOLD, hold)),
    ];
  });
}

/** All faults of a look that concern time. */
export const timeFaults = (look: LookDocument, check: SettingCheck): Fault[] => [
  ...spanFaults('span', look.span, check),
  ...retimeFaults(look.retime, check),
  ...(look.movers ?? []).flatMap((m, i) => moverFaults(`movers[${i}]`, look, m, check)),
];
