/** Binds a clip's pins to a look. */
import {
  type ClipFacts,
  type ClipPins,
  type FootagePin,
  inOutOf,
  placesInFrame,
  type PlacesInFrame,
} from '../clip';
import type { Framing } from '../image';
import { Remembered } from '../kernel';
import { matteOf } from '../mattes';
import type { Line, Path, Point } from '../parameters';
import { kindInFrame, type PlaceInFrame } from '../places';
import { pinNamed } from './bindings';
import { valueAt } from './bindings/pin';
import type { Asking, Fading, LookDocument, MatteUse, PinAsk, Setting, StepUse } from './document';
import { standingOut } from './following';
import { answeredBy, answers, asksPlace, SOME_OVAL } from './pin-kinds';
import { mapLayers, mapSettings, needsHue } from './settings';

/** The pins that a look asks for and the clip has not set. */
export const lackingPins = (look: Asking, pins: ClipPins): PinAsk[] =>
  (look.pins ?? []).filter(({ key, kind }) => !pins[key]?.some((p) => answers(p, kind)));
/**
 * The places that a look asks for and the clip has set outside the visible frame (cropped by
 * filling it, say). What reaches beyond the frame lies where its middle does.
 */
export const pinsOutside = (look: Asking, pins: ClipPins, framing: Framing): PinAsk[] => {
  const places = placesInFrame(pins, framing);
  return (look.pins ?? []).filter(
    ({ key, kind }) => asksPlace(kind) && places[key]?.some((place) => !isInside(middleOf(place))),
  );
};
const isInside = ([x, y]: Point): boolean => x >= 0 && x <= 1 && y >= 0 && y <= 1;
/** The middle of a place in the frame; of an outline, that of its nodes. */
function middleOf(place: PlaceInFrame): Point {
  const kind = kindInFrame(place);
  if (kind === 'outline') {
    const nodes = place as Path,
      sum = (axis: 0 | 1): number => nodes.reduce((all, n) => all + n[axis], 0) / nodes.length;
    return [sum(0), sum(1)];
  }
  const [x, y, x2, y2] = place as Line;
  return kind === 'line' ? [(x + x2) / 2, (y + y2) / 2] : [x, y];
}

/**
 * The frame of the footage at the first cue that a look asks for and the clip has set. Default: the
 * clip's middle.
 */
export function cueFrame(
  look: LookDocument | null,
  clip: Pick<ClipFacts, 'frames' | 'inOut'> & { readonly pins: ClipPins },
): number {
  const ends = inOutOf(clip);
  const cues = (look?.pins ?? [])
    .flatMap((p) => (p.kind === 'cue' ? (clip.pins[p.key] ?? []) : []))
    .flatMap((v) => ('frame' in v ? [v.frame] : []));
  const frame = cues
    .map((f) => Math.min(clip.frames - 1, f))
    .find((f) => f >= ends.in && f <= ends.out);
  return frame ?? Math.floor((ends.in + ends.out + 1) / 2);
}

/** Places of pins, and the pins whose places are known only at each frame. */
interface Places {
  readonly places: PlacesInFrame;
  readonly followed: ReadonlySet<string>;
  readonly kinds: ReadonlyMap<string, PinAsk['kind']>;
  readonly fading: ReadonlySet<string>;
}
/** The place that something with these settings fades with: the first of a pin that does. */
function fadingIn(
  parameters: Record<string, Setting>,
  nth: number,
  { fading }: Places,
): Fading | undefined {
  if (fading.size === 0) return undefined;
  // A place that is taken once does not come and go.
  const pin = Object.values(parameters)
    .map((s) => ('pin' in s && !s.once ? s.pin : undefined))
    .find((key) => key !== undefined && fading.has(key));
  return pin === undefined ? undefined : { pin, nth };
}
/** Settings once per place of the pin that has the most places among those they are bound to. */
function atPlaces(
  parameters: Record<string, Setting>,
  { places, followed, kinds }: Places,
): Record<string, Setting>[] {
  const settings = Object.entries(parameters);
  const counts = settings.flatMap(([, s]) => {
    const pin = pinNamed(s);
    return pin === undefined ? [] : [places[pin]?.length ?? 0];
  });
  if (counts.length === 0) return [parameters];
  const place = (pin: string, i: number): PlaceInFrame | undefined =>
    places[pin]?.[Math.min(i, places[pin].length - 1)];
  return Array.from({ length: Math.max(1, ...counts) }, (_, i) =>
    Object.fromEntries(
      settings.map(([id, s]) => [
        id,
        !('pin' in s)
          ? s
          : followed.has(s.pin)
            ? { ...s, nth: i }
            : { value: valueAt(s, place(s.pin, i), kinds.get(s.pin)) },
      ]),
    ),
  );
}

/** A step once per place; the first keeps its key. */
const repeated = (use: StepUse, places: Places): StepUse[] =>
  atPlaces(use.parameters, places).map((parameters, i) => ({
    ...use,
    key: i === 0 ? use.key : `${use.key}~${i + 1}`,
    parameters,
    ...(use.mattes && { mattes: use.mattes.map((m) => covering(m, places)) }),
    ...fadesWith(fadingIn(use.parameters, i, places)),
  }));
const fadesWith = (fades: Fading | undefined): { readonly fades?: Fading } =>
  fades ? { fades } : {};

/** A matte that covers every place of the pin it is bound to. */
function covering(matte: MatteUse, places: Places): MatteUse {
  const own = drawnByHand(matte, places);
  const [first, ...more] = atPlaces(own.parameters, places);
  const fades = [first, ...more].map((_, i) => fadingIn(own.parameters, i, places));
  return {
    ...own,
    parameters: first!,
    also: more,
    ...(fades.some((f) => f !== undefined) && { fades }),
  };
}
/** The matte of a pin that a clip answers by an outline or an oval instead of footage: a shape. */
function drawnByHand(matte: MatteUse, { places, kinds }: Places): MatteUse {
  const pin = matteOf(matte.matte)?.names === 'pin' ? matte.from : undefined,
    place = pin && kinds.get(pin) === 'matte' ? places[pin]?.[0] : undefined;
  if (!pin || !place) return matte;
  const shape: [string, string, Setting] =
    kindInFrame(place) === 'oval'
      ? ['ellipse', 'shape', { pin, shape: SOME_OVAL }]
      : ['path', 'path', { pin }];
  const [kind, id, setting] = shape;
  const { from: _, ...rest } = matte;
  return { ...rest, matte: kind, parameters: { ...matte.parameters, [id]: setting } };
}

const looks = new WeakMap<LookDocument, Remembered<LookDocument>>();
/** A look made from another for a clip: the same object for every frame of the clip. */
function derived(look: LookDocument, of: string, make: () => LookDocument): LookDocument {
  const known = looks.get(look) ?? new Remembered<LookDocument>(64);
  looks.set(look, known);
  return known.of(of, make);
}

/** The look with the contrasting colour of this clip in place of each setting bound to it. */
export const withClipColours = (
  look: LookDocument,
  main: { readonly magenta: number; readonly warmth: number } | undefined,
): LookDocument =>
  needsHue(look)
    ? derived(look, `hue ${main?.magenta} ${main?.warmth}`, () =>
        mapSettings(look, (s) => ('clip' in s ? { value: standingOut(main) } : s)),
      )
    : look;

/** Pins of a clip whose places are known only at each frame. */
export interface FollowedPins {
  readonly pins: ReadonlySet<string>;
  /** Those of them whose places are not always there: what hangs on them fades. */
  readonly fading: ReadonlySet<string>;
}
const NONE: FollowedPins = { pins: new Set(), fading: new Set() };
/**
 * The look with its pins bound: each setting bound to a pin gets its place, and is repeated where
 * there are several. Those of followed pins stay bound, and get their places at each frame
 * (`Evaluation.placeOf`): the look is the same for all of them.
 */
export function bindPins(
  look: LookDocument,
  set: PlacesInFrame,
  { pins: followed, fading }: FollowedPins = NONE,
): LookDocument {
  if (!look.pins?.length) return look;
  const answered: PlacesInFrame = Object.fromEntries(
    look.pins.flatMap(({ key, kind }): [string, readonly PlaceInFrame[]][] => {
      const own = (set[key] ?? [])
        .map((place) => answeredBy(kind, place))
        .filter((p) => p !== undefined);
      return own.length > 0 ? [[key, own]] : [];
    }),
  );
  const known = Object.entries(answered).map(([key, all]) =>
    followed.has(key) ? [key, all.map(kindInFrame), fading.has(key)] : [key, all],
  );
  const places: Places = {
    places: answered,
    followed,
    kinds: new Map(look.pins.map((p) => [p.key, p.kind])),
    fading,
  };
  return derived(look, `pins ${JSON.stringify(known)}`, () =>
    mapLayers(look, (l) => ({
      ...l,
      steps: l.steps.flatMap((s) => repeated(s, places)),
      ...(l.mattes && { mattes: l.mattes.map((m) => covering(m, places)) }),
      ...(l.placement && {
        placement: atPlaces(l.placement, places)[0]!,
        ...fadesWith(fadingIn(l.placement, 0, places)),
      }),
    })),
  );
}

/**
 * The first matte that a look asks for and the clip has set, as its pin. Measures of motion count
 * what it covers.
 */
export const matteCovering = (
  look: Asking | null | undefined,
  pins: ClipPins | undefined,
): string | undefined =>
  look?.pins?.find((p) => p.kind === 'matte' && pins?.[p.key]?.some((v) => 'hash' in v))?.key;

/** The footage (or matte files) that a look asks for and the clip has set, by the pin's key. */
export const footagePins = (
  look: Asking | null | undefined,
  pins: ClipPins | undefined,
): [string, FootagePin][] =>
  (look?.pins ?? []).flatMap((p): [string, FootagePin][] => {
    const value = p.kind === 'footage' || p.kind === 'matte' ? pins?.[p.key]?.[0] : undefined;
    return value && 'hash' in value ? [[p.key, value]] : [];
  });
