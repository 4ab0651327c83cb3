/** Pins: what a clip says of itself where a look asks for it. */
import { type Fit, type Framing, lieOf } from '../image/framing';
import { CENTRE, type Ellipse, type Line, type Point } from '../steps';
import type { Balance } from '../plan/balance';
import type { Asking, LookDocument, MatteUse, PinAsk, Setting, StepUse } from './document';
import { standingOut } from './following';
import { mapLayer, mapLayers, needsHue } from './settings';

/**
 * An instant, as a frame of the clip counted from its first; a place, as shares of the clip's own picture from its upper
 * left corner; a line by its two ends; or footage.
 */
export type PinValue = { readonly frame: number } | PlacePin | LinePin | FootagePin;
export interface PlacePin {
  readonly x: number;
  readonly y: number;
}
export interface LinePin extends PlacePin {
  readonly x2: number;
  readonly y2: number;
}
/** Another clip of the project, by its content: which of its frames is seen at a moment of the clip, and at how many of its seconds to one of the clip's it goes on. */
export interface FootagePin {
  readonly hash: string;
  readonly start: number;
  readonly speed: number;
  /** What is there before its first frame and after its last; by default it begins again. */
  readonly beyond?: Beyond;
  /** Brings it to the clip it stands beside, in place of its own balance. */
  readonly balance?: Balance;
  /** How it is brought into the look's frame; by default as it is as a clip. */
  readonly fit?: Fit;
  /** The moment of the clip at which `start` is seen: its last frame, or a cue (by its pin's key); by default its first frame. */
  readonly at?: 'end' | { readonly cue: string };
}
export const BEYOND = ['again', 'to-and-fro', 'hold', 'end'] as const;
export type Beyond = (typeof BEYOND)[number];
/** A clip's pins by the key a look asks for them by; the same key serves every look that asks for it. */
export type ClipPins = Readonly<Record<string, readonly PinValue[]>>;

/** Point and line pins as places in the look frame. */
export type PointsInFrame = Readonly<Record<string, readonly (Point | Line)[]>>;
/** A line that a clip has not set: level, through the middle. */
const LEVEL: Line = [0.2, 0.5, 0.8, 0.5];

/** A place of the clip's picture as one of the frame, and back. */
export function placeInFrame([x, y]: Point, framing: Framing): Point {
  const { size, middle } = lieOf(framing);
  return [0.5 + (x - middle[0]) * size[0], 0.5 + (y - middle[1]) * size[1]];
}
export function placeInClip([x, y]: Point, framing: Framing): Point {
  const { size, middle } = lieOf(framing);
  return [middle[0] + (x - 0.5) / size[0], middle[1] + (y - 0.5) / size[1]];
}
export const pointsInFrame = (pins: ClipPins, framing: Framing): PointsInFrame =>
  Object.fromEntries(Object.entries(pins).map(([key, all]) => [key, all.flatMap((p) => ('x' in p ? [inFrame(p, framing)] : []))]));
const inFrame = (p: PlacePin | LinePin, framing: Framing): Point | Line => {
  const from = placeInFrame([p.x, p.y], framing);
  return 'x2' in p ? [...from, ...placeInFrame([p.x2, p.y2], framing)] : from;
};

/** The pins that a look asks for and a clip has not set. */
export const lackingPins = (look: Asking, pins: ClipPins): PinAsk[] =>
  (look.pins ?? []).filter(({ key, kind }) => !pins[key]?.some((p) => answers(p, kind)));
const NEEDS = { cue: 'frame', point: 'x', line: 'x2', matte: 'hash', footage: 'hash' } as const satisfies Record<PinAsk['kind'], string>;
/** Whether a value is of the kind that is asked for: a line is no point. */
const answers = (p: PinValue, kind: PinAsk['kind']): boolean => NEEDS[kind] in p && !(kind === 'point' && 'x2' in p);

/** The points and lines that a look asks for and a clip has set where the frame does not show them (cropped by filling it, say). */
export const pinsOutside = (look: Asking, pins: ClipPins, framing: Framing): PinAsk[] => {
  const points = pointsInFrame(pins, framing);
  const inside = (x: number, y: number) => x >= 0 && x <= 1 && y >= 0 && y <= 1;
  // A line may end beyond the frame, if its middle lies within.
  const seen = ([x, y, x2 = x, y2 = y]: Point | Line) => inside((x + x2) / 2, (y + y2) / 2);
  return (look.pins ?? []).filter(({ key, kind }) => (kind === 'point' || kind === 'line') && points[key]?.some((place) => !seen(place)));
};

/** The frame of the first cue that a look asks for and a clip has set; by default its middle one. */
export function cueFrame(look: LookDocument | null, pins: ClipPins, frames: number): number {
  const cue = (look?.pins ?? []).flatMap((p) => (p.kind === 'cue' ? (pins[p.key] ?? []) : [])).find((v) => 'frame' in v);
  return Math.max(0, Math.min(frames - 1, cue && 'frame' in cue ? cue.frame : Math.floor(frames / 2)));
}

const boundTo = (s: Setting): string | null => ('pin' in s ? s.pin : null);

/** Settings once for each place of the pin with the most places among those they are bound to. */
function atPlaces(parameters: Record<string, Setting>, points: PointsInFrame): Record<string, Setting>[] {
  const settings = Object.entries(parameters);
  const counts = settings.flatMap(([, s]) => (boundTo(s) === null ? [] : [points[boundTo(s)!]?.length ?? 0]));
  if (counts.length === 0) return [parameters];
  const place = (pin: string, i: number): Point | Line => points[pin]?.[Math.min(i, points[pin].length - 1)] ?? CENTRE;
  return Array.from({ length: Math.max(1, ...counts) }, (_, i) =>
    Object.fromEntries(settings.map(([id, s]) => [id, 'pin' in s ? bound(s.shape, place(s.pin, i)) : s])),
  );
}
/** A setting bound to a place: the point or line itself, or a shape whose centre it is. */
const bound = (shape: Ellipse | undefined, place: Point | Line): Setting => ({
  value: shape ? [place[0], place[1], shape[2], shape[3], shape[4]] : place,
});

/** A step once for each place; the first keeps its key. */
const repeated = (use: StepUse, points: PointsInFrame): StepUse[] =>
  atPlaces(use.parameters, points).map((parameters, i) => ({
    ...use,
    key: i === 0 ? use.key : `${use.key}~${i + 1}`,
    parameters,
    ...(use.mattes && { mattes: use.mattes.map((m) => covering(m, points)) }),
  }));

/** A matte that covers every place of the pin it is bound to. */
function covering(matte: MatteUse, points: PointsInFrame): MatteUse {
  const [first, ...more] = atPlaces(matte.parameters, points);
  return { ...matte, parameters: first!, also: more };
}

/** The look with what each clip says of its colours put in. */
export const coloured = (look: LookDocument, main: { readonly magenta: number; readonly warmth: number } | undefined): LookDocument =>
  needsHue(look) ? mapLayers(look, (l) => mapLayer(l, (s) => ('clip' in s ? { value: standingOut(main) } : s))) : look;

/** The look with its pins put in: what is bound to one stands at its place, repeated for each where there are several. */
export function pinned(look: LookDocument, set: PointsInFrame): LookDocument {
  if (!look.pins?.length) return look;
  const ofKind = ({ key, kind }: PinAsk) => (set[key] ?? []).filter((place) => place.length === (kind === 'line' ? 4 : 2));
  const points: PointsInFrame = Object.fromEntries(
    look.pins.flatMap((p): [string, readonly (Point | Line)[]][] => {
      const own = ofKind(p);
      return own.length > 0 ? [[p.key, own]] : p.kind === 'line' ? [[p.key, [LEVEL]]] : [];
    }),
  );
  return mapLayers(look, (l) => ({
    ...l,
    steps: l.steps.flatMap((s) => repeated(s, points)),
    ...(l.mattes && { mattes: l.mattes.map((m) => covering(m, points)) }),
    ...(l.placement && { placement: atPlaces(l.placement, points)[0]! }),
  }));
}
