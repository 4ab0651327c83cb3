/**
 * Evaluates a look at a frame of a clip: movers, spans and instants become plain values here and
 * nowhere else.
 */
import type { PlacesInFrame } from '../clip';
import { seedOf } from '../graph';
import {
  type ColourPlace,
  mixValues,
  num,
  type Parameter,
  type ParameterValue,
  type Path,
  withDefaults,
} from '../parameters';
import {
  type ClipTime,
  type Ease,
  excess,
  type Fitted,
  fitted,
  fittedKeys,
  type FrameIndex,
  framesOf,
  frameOf,
  inFrames,
  type Instant,
  keyedValue,
  keysExcess,
  lengthOfMover,
  levelAt,
  type MoverKind,
  moverOf,
  seedNames,
  snapped,
  type Stretch,
  wholeOf,
} from '../time';
import type {
  DialValue,
  DialValues,
  EaseUse,
  InstantUse,
  LookDocument,
  Mover,
  MoverTarget,
  Setting,
  SpanUse,
  Way,
} from './document';
import { KEYS, WAYS } from './document';
import { DIALS, parameterAt } from './paths';
import { anyLook } from './settings';
import type { Evaluation } from './at-frame';
import { resolve } from './resolve';

/** The frame of a clip that a look is evaluated at. */
export interface FrameTime extends ClipTime {
  readonly frame: FrameIndex;
  /** Content hash of the clip, for seeds. */
  readonly content: string;
  /** Width ÷ height of the look frame. */
  readonly aspect: number;
  /** Followed pins at this frame or another of the clip. */
  readonly followed?: ((frame: FrameIndex) => FollowedPlaces) | undefined;
}
/** Followed pins at a frame. */
export interface FollowedPlaces {
  /** In the look frame. */
  readonly places: PlacesInFrame;
  /** How far they are there, 0…1, of those that fade where they are lost. */
  readonly present?: Readonly<Record<string, readonly number[]>>;
}

const numberAt = (
  look: LookDocument,
  s: Setting | undefined,
  dials: DialValues,
  without: number,
): number => (s ? (resolve(look, s, dials) as number) : without);

/** An instant with its offset as a number. */
export const instantOf = (look: LookDocument, at: InstantUse, dials: DialValues): Instant => ({
  from: at.from,
  cue: at.cue,
  which: at.which,
  share: at.share,
  offset: numberAt(look, at.offset, dials, 0),
  unit: at.unit ?? 'seconds',
});
/** An ease with its strength as a number. */
export const easeOf = (look: LookDocument, ease: EaseUse | undefined, dials: DialValues): Ease =>
  ease
    ? { kind: ease.kind, by: numberAt(look, ease.by, dials, 50), handles: ease.handles }
    : { kind: 'linear' };

/** First and last frame of a span on a clip. */
export const stretchOf = (
  look: LookDocument,
  span: SpanUse | undefined,
  dials: DialValues,
  clip: ClipTime,
): Stretch =>
  span
    ? {
        first: frameOf(instantOf(look, span.from, dials), clip),
        last: frameOf(instantOf(look, span.to, dials), clip),
      }
    : wholeOf(clip);

function levelOf(look: LookDocument, span: SpanUse, dials: DialValues, at: FrameTime): number {
  const length = (s: Setting | undefined): number =>
    inFrames(numberAt(look, s, dials, 0), span.unit ?? 'seconds', at);
  return levelAt(
    {
      ...stretchOf(look, span, dials, at),
      coming: length(span.coming),
      going: length(span.going),
      ease: easeOf(look, span.ease, dials),
    },
    at.frame,
  );
}

/** The effect of one mover on one value at a frame. */
type Effect = (p: Parameter, v: ParameterValue) => ParameterValue;

const numbersIn = (v: unknown): v is readonly number[] =>
  Array.isArray(v) && v.every((x) => typeof x === 'number');
/** A place moved by lines; shapes and paths move as a whole. */
function placeMoved(
  p: Parameter,
  v: ParameterValue,
  [x, y]: readonly [number, number],
  aspect: number,
): ParameterValue {
  const [dx, dy] = [x / (1080 * aspect), y / 1080];
  if (p.kind === 'path')
    return (v as Path).map(([a, b, ...handles]) => [a + dx, b + dy, ...handles] as const);
  if (p.kind === 'colours')
    return (v as readonly ColourPlace[]).map(([a, b, ...c]): ColourPlace => [a + dx, b + dy, ...c]);
  if (!numbersIn(v)) return v;
  const ends = p.kind === 'line' ? 4 : 2;
  return v.map((n, i) => (i < ends ? n + (i % 2 === 0 ? dx : dy) : n)) as unknown as ParameterValue;
}
/** Kinds of parameters that hold places. */
export const PLACES: readonly Parameter['kind'][] = ['point', 'line', 'ellipse', 'path', 'colours'];
/** Whether a parameter's value holds places. */
export const isPlaceKind = (p: Pick<Parameter, 'kind'>): boolean => PLACES.includes(p.kind);

function acting(
  how: Way,
  kind: MoverKind,
  u: (axis: 0 | 1) => number,
  amount: ParameterValue,
  aspect: number,
): Effect {
  return (p, v) => {
    const own = u(0);
    if (how === 'replace') return mixValues(p, v, amount, kind.signed ? (own + 1) / 2 : own);
    const by = amount as number;
    if (how === 'multiply') {
      const times = 1 + (by / 100) * (kind.signed ? own : own - 1);
      if (typeof v === 'number') return v * times;
      return p.kind === 'colour' && numbersIn(v)
        ? (v.map((c) => c * times) as unknown as ParameterValue)
        : v;
    }
    if (typeof v === 'number') return v + by * own;
    if (isPlaceKind(p)) return placeMoved(p, v, [by * own, by * u(1)], aspect);
    return p.kind === 'colour' && numbersIn(v)
      ? (v.map((c) => c + by * own) as unknown as ParameterValue)
      : v;
  };
}

function keyed(
  look: LookDocument,
  mover: Mover,
  how: Way,
  dials: DialValues,
  at: FrameTime,
  span: Stretch,
): Effect {
  const keys = (mover.keys ?? []).flatMap((k) =>
    framesOf(instantOf(look, k.at, dials), at, span).map((frame) => ({
      frame,
      value: k.value,
      ease: easeOf(look, k.ease, dials),
    })),
  );
  const frames = fittedKeys(
    mover.fits ?? 'cut',
    keys.map((k) => k.frame),
    span,
  );
  const placed = keys.map((k, i) => ({ ...k, frame: frames[i]! }));
  return (p, v) => {
    const own = keyedValue(p, placed, at.frame, mover.mixing);
    if (how === 'replace' || typeof own !== 'number' || typeof v !== 'number') return own;
    return how === 'multiply' ? (v * own) / 100 : v + own;
  };
}

/** A mover's parameters and the frames of its instants, on a clip. */
function moverOn(
  look: LookDocument,
  mover: Mover,
  kind: MoverKind,
  span: Stretch,
  dials: DialValues,
  at: ClipTime,
): Fitted {
  const set = Object.entries(mover.parameters).map(([id, s]) => [id, resolve(look, s, dials)]);
  const framesAt = (id: string): FrameIndex[] =>
    (mover.instants?.[id] ?? [START])
      .flatMap((i) => framesOf(instantOf(look, i, dials), at, span))
      .sort((a, b) => a - b);
  return {
    values: withDefaults(kind, Object.fromEntries(set)),
    events: Object.fromEntries(kind.instants.map(({ id }) => [id, framesAt(id)])),
  };
}
/** Number of frames by which a mover outlasts the clip; 0 if it fits. */
export function moverExcess(look: LookDocument, mover: Mover, clip: ClipTime): number {
  const target = mover.targets[0];
  if (!mover.on || !target) return 0;
  const span = stretchOf(look, parameterAt(look, target.path)?.spans[0] ?? look.span, {}, clip);
  if (mover.kind === KEYS)
    return Math.round(
      keysExcess(
        mover.keys!.flatMap((k) => framesOf(instantOf(look, k.at, {}), clip, span)),
        span,
      ),
    );
  const kind = moverOf(mover.kind);
  if (!kind?.lasts) return 0;
  const { values, events } = moverOn(look, mover, kind, span, {}, clip);
  return Math.round(excess(lengthOfMover(kind, values, clip)!, Object.values(events).flat(), span));
}

function effectOf(
  look: LookDocument,
  mover: Mover,
  { how, amount, part }: MoverTarget,
  path: string,
  span: Stretch,
  dials: DialValues,
  at: FrameTime,
): Effect | undefined {
  if (mover.kind === KEYS) return keyed(look, mover, how, dials, at, span);
  const kind = moverOf(mover.kind);
  if (!kind || !amount) return undefined;
  const { values, events } = fitted(
    kind,
    mover.fits ?? 'cut',
    moverOn(look, mover, kind, span, dials, at),
    span,
    at,
  );
  const seed = seedOf(
    look.seed,
    'mover',
    mover.key,
    ...seedNames(at.content, at),
    values['own'] === true ? path : '',
  );
  return (p, v) => {
    const u = (axis: 0 | 1): number =>
      kind.at(values, {
        ...at,
        seed,
        events,
        axis,
        isPlace: isPlaceKind(p),
        part: part ?? kind.parts?.[0]!.id ?? '',
      });
    return acting(how, kind, u, resolve(look, amount, dials), at.aspect)(p, v);
  };
}
const START: InstantUse = { from: 'start' };

/**
 * The path without the marks of repetition for several places: repeated parts move like the
 * original.
 */
export const unrepeated = (path: string): string => path.replace(/~\d+/g, '');
const held = (p: Parameter, v: ParameterValue): ParameterValue => {
  if (p.kind === 'number' && typeof v === 'number') return Math.max(p.min, Math.min(p.max, v));
  return p.kind === 'ellipse' && numbersIn(v)
    ? (v.map((x, i) => (i === 2 || i === 3 ? Math.max(0, x) : x)) as unknown as ParameterValue)
    : v;
};

/**
 * The evaluation of a look at a frame. A mover's own numbers use the dials as they are set, not as
 * they are moved, so no mover can move itself.
 */
export function evaluationAt(look: LookDocument, set: DialValues, at: FrameTime): Evaluation {
  const targets = new Map<string, { readonly mover: Mover; readonly target: MoverTarget }[]>();
  for (const mover of look.movers ?? [])
    if (mover.on)
      for (const target of mover.targets)
        targets.set(target.path, [...(targets.get(target.path) ?? []), { mover, target }]);
  const spanAt = (path: string): Stretch =>
    stretchOf(look, parameterAt(look, path)?.spans[0] ?? look.span, set, at);
  const moved = (path: string, p: Parameter, v: ParameterValue): ParameterValue => {
    const own = targets.size === 0 ? undefined : targets.get(unrepeated(path));
    if (!own) return v;
    let value = v;
    for (const way of WAYS)
      for (const { mover, target } of own) {
        if (target.how !== way) continue;
        const effect = effectOf(look, mover, target, path, spanAt(target.path), set, at);
        if (effect) value = effect(p, value);
      }
    return held(p, value);
  };
  const movedDials: Record<string, DialValue> = {};
  for (const path of targets.keys()) {
    if (!path.startsWith(`${DIALS}/`)) continue;
    const found = parameterAt(look, path);
    if (found)
      movedDials[found.parameter.id] = moved(
        path,
        found.parameter,
        set[found.parameter.id] ?? (resolve(look, found.setting, set) as DialValue),
      ) as DialValue;
  }
  return {
    dials: targets.size === 0 ? set : { ...set, ...movedDials },
    isStill: targets.size === 0,
    ...(at.followed && placesIn(at.followed, at)),
    moved,
    level: (span) => (span ? levelOf(look, span, set, at) : 1),
    frameOf: (instant) => snapped(instant ? frameOf(instantOf(look, instant, set), at) : 0),
  };
}

/** Followed places at a frame; those of each instant are read once. */
function placesIn(
  followed: (frame: FrameIndex) => FollowedPlaces,
  { frame, frames }: Pick<FrameTime, 'frame' | 'frames'>,
): Pick<Evaluation, 'placeOf' | 'presenceOf'> {
  const frameAt = { start: 0, middle: Math.floor(frames / 2), end: frames - 1 };
  const read = new Map<FrameIndex, FollowedPlaces>();
  const at = (frame: FrameIndex): FollowedPlaces => {
    const known = read.get(frame) ?? followed(frame);
    read.set(frame, known);
    return known;
  };
  return {
    placeOf(pin, nth, once) {
      const all = at(once ? frameAt[once] : frame).places[pin] ?? [];
      return all[Math.min(nth, all.length - 1)];
    },
    presenceOf: ({ pin, nth }) => at(frame).present?.[pin]?.[nth] ?? 1,
  };
}

/** How far a look acts at a frame, 0…1: its moved strength times its span. */
export const strengthAt = (look: LookDocument, at: Evaluation): number => {
  const dial = look.dials.find((d) => d.key === 'strength')!;
  return (num({ v: at.dials[dial.key] ?? dial.value }, 'v') / 100) * at.level(look.span);
};

/**
 * Whether a look is the same at every frame, except for its steps' random numbers: no movers, spans
 * or layer times.
 */
export const isTimelessLook = (look: LookDocument): boolean =>
  !anyLook(look, (l) => !isTimelessAlone(l));
const isTimelessAlone = (look: LookDocument): boolean =>
  !look.movers?.length &&
  !look.span &&
  !look.retime &&
  [...look.layers, ...(look.groups ?? []).flatMap((g) => g.layers)].every(
    (l) => !l.span && !l.time && l.steps.every((s) => !s.span),
  );
