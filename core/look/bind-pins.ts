/** Binds a clip's pins to a look. */
import {
  type ClipFacts,
  type ClipPins,
  type FootagePin,
  inOutOf,
  type PinValue,
  pointsInFrame,
  type PointsInFrame,
} from '../clip';
import type { Framing } from '../image';
import { Remembered } from '../kernel';
import { CENTRE, type Ellipse, type Line, type Point } from '../parameters';
import { pinNamed } from './bindings';
import type { Asking, LookDocument, MatteUse, PinAsk, Setting, StepUse } from './document';
import { standingOut } from './following';
import { mapLayers, mapSettings, needsHue } from './settings';

/** The line of a clip that has not set it: level, through the middle. */
const LEVEL: Line = [0.2, 0.5, 0.8, 0.5];

/** The pins that a look asks for and the clip has not set. */
export const lackingPins = (look: Asking, pins: ClipPins): PinAsk[] =>
  (look.pins ?? []).filter(({ key, kind }) => !pins[key]?.some((p) => answers(p, kind)));
const NEEDS = {
  cue: 'frame',
  line: 'x2',
  matte: 'hash',
  footage: 'hash',
} as const satisfies Record<Exclude<PinAsk['kind'], 'point'>, string>;
/** Whether a value is of the requested kind; a line is not a point. */
const answers = (p: PinValue, kind: PinAsk['kind']): boolean =>
  kind === 'point' ? 'trace' in p || ('x' in p && !('x2' in p)) : NEEDS[kind] in p;

/**
 * The points and lines that a look asks for and the clip has set outside the visible frame (cropped
 * by filling it, say).
 */
export const pinsOutside = (look: Asking, pins: ClipPins, framing: Framing): PinAsk[] => {
  const points = pointsInFrame(pins, framing);
  const inside = (x: number, y: number) => x >= 0 && x <= 1 && y >= 0 && y <= 1;
  // A line may end outside the frame if its middle lies inside.
  const seen = ([x, y, x2 = x, y2 = y]: Point | Line) => inside((x + x2) / 2, (y + y2) / 2);
  return (look.pins ?? []).filter(
    ({ key, kind }) =>
      (kind === 'point' || kind === 'line') && points[key]?.some((place) => !seen(place)),
  );
};

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
  readonly points: PointsInFrame;
  readonly followed: ReadonlySet<string>;
}
/** Settings once per place of the pin that has the most places among those they are bound to. */
function atPlaces(
  parameters: Record<string, Setting>,
  { points, followed }: Places,
): Record<string, Setting>[] {
  const settings = Object.entries(parameters);
  const counts = settings.flatMap(([, s]) => {
    const pin = pinNamed(s);
    return pin === undefined ? [] : [points[pin]?.length ?? 0];
  });
  if (counts.length === 0) return [parameters];
  const place = (pin: string, i: number): Point | Line =>
    points[pin]?.[Math.min(i, points[pin].length - 1)] ?? CENTRE;
  return Array.from({ length: Math.max(1, ...counts) }, (_, i) =>
    Object.fromEntries(
      settings.map(([id, s]) => [
        id,
        !('pin' in s)
          ? s
          : followed.has(s.pin)
            ? { ...s, nth: i }
            : bound(s.shape, place(s.pin, i)),
      ]),
    ),
  );
}
/** A setting bound to a place: the point or line itself, or a shape centred on it. */
const bound = (shape: Ellipse | undefined, place: Point | Line): Setting => ({
  value: shape ? [place[0], place[1], shape[2], shape[3], shape[4]] : place,
});

/** A step once per place; the first keeps its key. */
const repeated = (use: StepUse, points: Places): StepUse[] =>
  atPlaces(use.parameters, points).map((parameters, i) => ({
    ...use,
    key: i === 0 ? use.key : `${use.key}~${i + 1}`,
    parameters,
    ...(use.mattes && { mattes: use.mattes.map((m) => covering(m, points)) }),
  }));

/** A matte that covers every place of the pin it is bound to. */
function covering(matte: MatteUse, points: Places): MatteUse {
  const [first, ...more] = atPlaces(matte.parameters, points);
  return { ...matte, parameters: first!, also: more };
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

const NONE: ReadonlySet<string> = new Set();
/**
 * The look with its pins bound: each setting bound to a pin gets its place, and is repeated where
 * there are several. Those of `followed` pins stay bound, and get their places at each frame
 * (`Evaluation.placeOf`): the look is the same for all of them.
 */
export function bindPins(
  look: LookDocument,
  set: PointsInFrame,
  followed: ReadonlySet<string> = NONE,
): LookDocument {
  if (!look.pins?.length) return look;
  const ofKind = ({ key, kind }: PinAsk) =>
    (set[key] ?? []).filter((place) => place.length === (kind === 'line' ? 4 : 2));
  const points: PointsInFrame = Object.fromEntries(
    look.pins.flatMap((p): [string, readonly (Point | Line)[]][] => {
      const own = ofKind(p);
      return own.length > 0 ? [[p.key, own]] : p.kind === 'line' ? [[p.key, [LEVEL]]] : [];
    }),
  );
  const known = Object.entries(points).map(([key, all]) =>
    followed.has(key) ? [key, all.length] : [key, all],
  );
  const places: Places = { points, followed };
  return derived(look, `pins ${JSON.stringify(known)}`, () =>
    mapLayers(look, (l) => ({
      ...l,
      steps: l.steps.flatMap((s) => repeated(s, places)),
      ...(l.mattes && { mattes: l.mattes.map((m) => covering(m, places)) }),
      ...(l.placement && { placement: atPlaces(l.placement, places)[0]! }),
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
