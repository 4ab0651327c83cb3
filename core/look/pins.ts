/** Pins: what a clip says of itself where a look asks for it. */
import { CENTRE, type Ellipse, type Point } from '../steps';
import type { LookDocument, MatteUse, PinAsk, Setting, StepUse } from './document';
import { standingOut } from './following';
import { mapLayer, mapLayers, needsHue } from './settings';

/** An instant, as a frame of the clip counted from its first; or a place, as shares of the clip's own picture from its upper left corner. */
export type PinValue = { readonly frame: number } | { readonly x: number; readonly y: number } | FootagePin;
/** Another clip of the project, by its content: from which of its frames, at how many of its seconds to one of this clip's. */
export interface FootagePin {
  readonly hash: string;
  readonly start: number;
  readonly speed: number;
  /** What is there before its first frame and after its last; by default it begins again. */
  readonly beyond?: Beyond;
}
export const BEYOND = ['again', 'to-and-fro', 'hold', 'end'] as const;
export type Beyond = (typeof BEYOND)[number];
/** A clip's pins by the key a look asks for them by; the same key serves every look that asks for it. */
export type ClipPins = Readonly<Record<string, readonly PinValue[]>>;

/** Point pins as places in the look frame. */
export type PointsInFrame = Readonly<Record<string, readonly Point[]>>;

export interface Framing {
  /** The clip's own picture as it is shown (pixels as wide as high) and the frame it is brought into. */
  readonly clip: readonly [number, number];
  readonly frame: readonly [number, number];
  readonly fit: 'fit' | 'fill';
}
/** Width and height of the clip's picture in shares of the frame. */
function extent({ clip, frame, fit }: Framing): readonly [number, number] {
  const ratios = [frame[0] / clip[0], frame[1] / clip[1]] as const;
  const scale = fit === 'fit' ? Math.min(...ratios) : Math.max(...ratios);
  return [(clip[0] * scale) / frame[0], (clip[1] * scale) / frame[1]];
}
/** A place of the clip's picture as one of the frame, and back. */
export function placeInFrame([x, y]: Point, framing: Framing): Point {
  const [w, h] = extent(framing);
  return [0.5 + (x - 0.5) * w, 0.5 + (y - 0.5) * h];
}
export function placeInClip([x, y]: Point, framing: Framing): Point {
  const [w, h] = extent(framing);
  return [0.5 + (x - 0.5) / w, 0.5 + (y - 0.5) / h];
}
export const pointsInFrame = (pins: ClipPins, framing: Framing): PointsInFrame =>
  Object.fromEntries(Object.entries(pins).map(([key, all]) => [key, all.flatMap((p) => ('x' in p ? [placeInFrame([p.x, p.y], framing)] : []))]));

/** The pins that a look asks for and a clip has not set. */
export const lackingPins = (look: LookDocument, pins: ClipPins): PinAsk[] =>
  (look.pins ?? []).filter(({ key, kind }) => !pins[key]?.some((p) => NEEDS[kind] in p));
const NEEDS = { cue: 'frame', point: 'x', matte: 'hash', footage: 'hash' } as const satisfies Record<PinAsk['kind'], string>;

/** The point pins that a look asks for and a clip has set where the frame does not show them (cropped by filling it, say). */
export const pinsOutside = (look: LookDocument, pins: ClipPins, framing: Framing): PinAsk[] => {
  const points = pointsInFrame(pins, framing);
  const inside = (v: number) => v >= 0 && v <= 1;
  return (look.pins ?? []).filter(({ key, kind }) => kind === 'point' && points[key]?.some(([x, y]) => !inside(x) || !inside(y)));
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
  const place = (pin: string, i: number): Point => points[pin]?.[Math.min(i, points[pin].length - 1)] ?? CENTRE;
  return Array.from({ length: Math.max(1, ...counts) }, (_, i) =>
    Object.fromEntries(settings.map(([id, s]) => [id, 'pin' in s ? bound(s.shape, place(s.pin, i)) : s])),
  );
}
/** A setting bound to a place: the point itself, or a shape whose centre it is. */
const bound = (shape: Ellipse | undefined, [x, y]: Point): Setting => ({ value: shape ? [x, y, shape[2], shape[3], shape[4]] : [x, y] });

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
export function pinned(look: LookDocument, points: PointsInFrame): LookDocument {
  if (!look.pins?.length) return look;
  return mapLayers(look, (l) => ({
    ...l,
    steps: l.steps.flatMap((s) => repeated(s, points)),
    ...(l.mattes && { mattes: l.mattes.map((m) => covering(m, points)) }),
    ...(l.placement && { placement: atPlaces(l.placement, points)[0]! }),
  }));
}
