/** Edits of what moves in a look, and of when its parts act. */
import type { ParameterValue } from '../parameters';
import {
  type ClipTime,
  countedFrom,
  frameOf,
  type FrameIndex,
  type Instant,
  moverOf,
} from '../time';
import {
  type InstantUse,
  type KeyUse,
  KEYS,
  type LookDocument,
  type Mover,
  type MoverTarget,
  type RetimePlaceUse,
  type RetimeUse,
  type Setting,
  type SpanUse,
} from './document';
import { instantOf, isPlaceKind } from './evaluation';
import { parameterAt } from './paths';
import { freshKey } from './prune';
import { mapLayers } from './settings';

const withMovers = (look: LookDocument, movers: readonly Mover[]): LookDocument => {
  const { movers: _, ...plain } = look;
  return movers.length > 0 ? { ...plain, movers: [...movers] } : plain;
};
const inMover = (look: LookDocument, key: string, f: (m: Mover) => Mover): LookDocument =>
  withMovers(
    look,
    (look.movers ?? []).map((m) => (m.key === key ? f(m) : m)),
  );

/**
 * The initial target of a mover: strong enough to be seen, with the current value in the middle.
 */
export function firstTarget(
  look: LookDocument,
  kind: string,
  path: string,
): MoverTarget | undefined {
  const found = parameterAt(look, path);
  if (!found) return undefined;
  const { parameter: p } = found;
  if (kind === KEYS) return { path, how: 'replace' };
  const signed = moverOf(kind)?.signed ?? true;
  if (isPlaceKind(p)) return { path, how: 'add', amount: { value: 40 } };
  if (p.kind !== 'number') return { path, how: 'replace', amount: { value: p.default } };
  if (!signed) return { path, how: 'multiply', amount: { value: 100 } };
  const [low, high] = p.soft ?? [p.min, p.max];
  return { path, how: 'add', amount: { value: Math.round((high - low) * 10) / 100 } };
}

/** An instant at a cue; at each cue if the pin holds several and the instant may be many. */
export function onCue(look: LookDocument, key: string, many: boolean): InstantUse {
  const each = many && look.pins?.find((p) => p.key === key)?.many === true;
  return { from: 'cue', cue: key, ...(each && { which: 'each' as const }) };
}

/**
 * Initial instants of a mover that starts at instants: the first cue that the look asks for, if
 * any.
 */
function firstInstants(look: LookDocument, kind: string): Pick<Mover, 'instants'> {
  const cue = look.pins?.find((p) => p.kind === 'cue'),
    struck = moverOf(kind)?.instants.filter((i) => i.many) ?? [];
  if (!cue || struck.length === 0) return {};
  return { instants: Object.fromEntries(struck.map((i) => [i.id, [onCue(look, cue.key, true)]])) };
}

/**
 * Adds a mover of a kind for a path. Keys start with one key at the given instant and the current
 * value. Pulses, ramps and shakes start at the first cue that the look asks for, or at the clip's
 * start.
 */
export function addMover(
  look: LookDocument,
  kind: string,
  path: string,
  first?: KeyUse,
): LookDocument {
  const target = firstTarget(look, kind, path);
  if (!target) return look;
  const label = moverOf(kind)?.label ?? 'Keys';
  const movers = look.movers ?? [];
  const mover: Mover = {
    key: freshKey(
      label,
      movers.map((m) => m.key),
    ),
    name: kind === KEYS ? (parameterAt(look, path)?.parameter.label ?? label) : label,
    on: true,
    kind,
    parameters: {},
    ...firstInstants(look, kind),
    ...(kind === KEYS && {
      keys: [first ?? { at: { from: 'start' as const }, value: startOf(look, path) }],
    }),
    targets: [target],
  };
  return withMovers(look, [...movers, mover]);
}
const startOf = (look: LookDocument, path: string): ParameterValue => {
  const { setting, parameter } = parameterAt(look, path)!;
  return 'value' in setting ? setting.value : parameter.default;
};

/** The mover with this key. */
export const moverNamed = (look: LookDocument, key: string): Mover | undefined =>
  look.movers?.find((m) => m.key === key);
/** Removes a mover. */
export const removeMover = (look: LookDocument, key: string): LookDocument =>
  withMovers(
    look,
    (look.movers ?? []).filter((m) => m.key !== key),
  );
/** Changes fields of a mover. */
export const changeMover = (
  look: LookDocument,
  key: string,
  change: Partial<Omit<Mover, 'key' | 'kind'>>,
): LookDocument => inMover(look, key, (m) => ({ ...m, ...change }));
/** Sets a parameter of a mover. */
export const setMoverParameter = (
  look: LookDocument,
  key: string,
  id: string,
  setting: Setting,
): LookDocument =>
  inMover(look, key, (m) => ({ ...m, parameters: { ...m.parameters, [id]: setting } }));
/** Sets the instants of a mover, by the id of the instant. */
export const setInstants = (
  look: LookDocument,
  key: string,
  id: string,
  instants: readonly InstantUse[],
): LookDocument =>
  inMover(look, key, (m) => ({ ...m, instants: { ...m.instants, [id]: [...instants] } }));
/** Adds a target to a mover, or changes it. */
export const setTarget = (look: LookDocument, key: string, target: MoverTarget): LookDocument =>
  inMover(look, key, (m) => ({
    ...m,
    targets: m.targets.some((t) => t.path === target.path)
      ? m.targets.map((t) => (t.path === target.path ? target : t))
      : [...m.targets, target],
  }));
/** Removes a target of a mover; a mover without targets is removed. */
export function removeTarget(look: LookDocument, key: string, path: string): LookDocument {
  const left = moverNamed(look, key)?.targets.filter((t) => t.path !== path) ?? [];
  return left.length > 0
    ? inMover(look, key, (m) => ({ ...m, targets: left }))
    : removeMover(look, key);
}
/** The movers that move a path. */
export const moversOf = (look: LookDocument, path: string): Mover[] =>
  (look.movers ?? []).filter((m) => m.targets.some((t) => t.path === path));

/** Removes targets that no longer exist, and movers without targets. */
export function withoutLostTargets(look: LookDocument): LookDocument {
  if (!look.movers) return look;
  const movers = look.movers.map((m) => ({
    ...m,
    targets: m.targets.filter((t) => parameterAt(look, t.path) !== undefined),
  }));
  return withMovers(
    look,
    movers.filter((m) => m.targets.length > 0),
  );
}

const frameOfKey = (look: LookDocument, k: KeyUse, clip: ClipTime): FrameIndex =>
  frameOf(instantOf(look, k.at, {}), clip);

/** The keys of a mover in the order of time on a clip, with their frames. */
export const keysOnClip = (
  look: LookDocument,
  mover: Mover,
  clip: ClipTime,
): readonly { readonly frame: FrameIndex; readonly index: number }[] =>
  (mover.keys ?? [])
    .map((k, index) => ({ frame: frameOfKey(look, k, clip), index }))
    .sort((a, b) => a.frame - b.frame);

/**
 * An instant at a frame of a clip, with the origin and unit of `like`. Default: counted from the
 * clip's start.
 */
export function instantAt(
  look: LookDocument,
  frame: FrameIndex,
  clip: ClipTime,
  like?: InstantUse,
): InstantUse {
  const from: Instant = like
    ? instantOf(look, like, {})
    : { from: 'start', offset: 0, unit: 'clip-frames' };
  const { offset, unit, cue, which, share } = countedFrom(frame, from, clip);
  return {
    from: from.from,
    ...(cue !== undefined && { cue }),
    ...(which !== undefined && { which }),
    ...(share !== undefined && { share }),
    offset: { value: offset },
    unit,
  };
}

/**
 * Sets the key at a frame of a clip: the existing one, or a new one with its neighbour's origin.
 */
export function setKey(
  look: LookDocument,
  mover: string,
  frame: FrameIndex,
  clip: ClipTime,
  value: ParameterValue,
): LookDocument {
  return inMover(look, mover, (m) => {
    const keys = m.keys ?? [],
      there = keysOnClip(look, m, clip);
    const same = there.find((k) => k.frame === frame);
    if (same) return { ...m, keys: keys.map((k, i) => (i === same.index ? { ...k, value } : k)) };
    const before = there.filter((k) => k.frame < frame).at(-1) ?? there[0];
    const like = before && keys[before.index];
    const fresh: KeyUse = {
      at: instantAt(look, frame, clip, like?.at),
      value,
      ...(like?.ease && { ease: like.ease }),
    };
    return { ...m, keys: [...keys, fresh] };
  });
}
/** Removes keys by their indices; a mover without keys is removed. */
export function removeKeys(
  look: LookDocument,
  mover: string,
  which: readonly number[],
): LookDocument {
  const left = (moverNamed(look, mover)?.keys ?? []).filter((_, i) => !which.includes(i));
  return left.length > 0
    ? inMover(look, mover, (m) => ({ ...m, keys: left }))
    : removeMover(look, mover);
}
/** Changes fields of a key. */
export const changeKey = (
  look: LookDocument,
  mover: string,
  index: number,
  change: Partial<KeyUse>,
): LookDocument =>
  inMover(look, mover, (m) => ({
    ...m,
    keys: (m.keys ?? []).map((k, i) => (i === index ? { ...k, ...change } : k)),
  }));
/** Moves a key to a frame of a clip; its origin stays. */
export function moveKey(
  look: LookDocument,
  mover: string,
  index: number,
  frame: FrameIndex,
  clip: ClipTime,
): LookDocument {
  const key = moverNamed(look, mover)?.keys?.[index];
  return key ? changeKey(look, mover, index, { at: instantAt(look, frame, clip, key.at) }) : look;
}
/** Changes the origin of an instant; on this clip it stays on its frame. */
export function countFrom(
  look: LookDocument,
  at: InstantUse,
  to: Pick<InstantUse, 'from' | 'cue' | 'which' | 'share'>,
  clip: ClipTime,
): InstantUse {
  const frame = frameOf(instantOf(look, at, {}), clip);
  return instantAt(look, frame, clip, { ...to, ...(at.unit && { unit: at.unit }) });
}

/** Sets the span of a layer, a step (by its key) or the whole look; undefined removes it. */
export function setSpan(
  look: LookDocument,
  of: { readonly layer?: string; readonly step?: string | undefined },
  span: SpanUse | undefined,
): LookDocument {
  const set = <T extends { span?: SpanUse }>(o: T): T => {
    const { span: _, ...plain } = o;
    return (span ? { ...plain, span } : plain) as T;
  };
  if (of.layer === undefined) return set(look);
  return mapLayers(look, (l) => {
    if (l.key !== of.layer) return l;
    return of.step === undefined
      ? set(l)
      : { ...l, steps: l.steps.map((s) => (s.key === of.step ? set(s) : s)) };
  });
}
/** Sets one of a layer's time parameters. */
export const setLayerTime = (
  look: LookDocument,
  layer: string,
  id: string,
  setting: Setting,
): LookDocument =>
  mapLayers(look, (l) => (l.key === layer ? { ...l, time: { ...l.time, [id]: setting } } : l));
/** Gives a layer a time of its own, or removes it. */
export const timeLayer = (look: LookDocument, layer: string, on: boolean): LookDocument =>
  mapLayers(look, (l) => {
    if (l.key !== layer) return l;
    const { time, timeFrom: _, ...plain } = l;
    return on ? { ...plain, time: time ?? {} } : plain;
  });
/** Sets the origin of a layer's speed and cadence. */
export const setTimeFrom = (
  look: LookDocument,
  layer: string,
  from: InstantUse | undefined,
): LookDocument =>
  mapLayers(look, (l) => {
    if (l.key !== layer) return l;
    const { timeFrom: _, ...plain } = l;
    return from ? { ...plain, timeFrom: from } : plain;
  });
/** Sets or removes the look's retime. */
export function setRetime(look: LookDocument, retime: RetimeUse | undefined): LookDocument {
  const { retime: _, ...plain } = look;
  return retime ? { ...plain, retime } : plain;
}
/** Changes one place of the look's retime. */
export const changeRetimePlace = (
  look: LookDocument,
  index: number,
  change: Partial<RetimePlaceUse>,
): LookDocument =>
  look.retime
    ? {
        ...look,
        retime: {
          ...look.retime,
          places: look.retime.places.map((p, i) => (i === index ? { ...p, ...change } : p)),
        },
      }
    : look;
