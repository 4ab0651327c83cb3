/** Pins: what a clip says of itself where a look asks for it. */
import { CENTRE, type Point } from '../steps';
import type { Layer, LookDocument, PinAsk, Setting, StepUse } from './document';

/** An instant, as a frame of the clip counted from its first; or a place, as shares of the clip's own picture from its upper left corner. */
export type PinValue = { readonly frame: number } | { readonly x: number; readonly y: number };
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
  (look.pins ?? []).filter(({ key, kind }) => !pins[key]?.some((p) => (kind === 'cue' ? 'frame' in p : 'x' in p)));

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

/** A step once for each place of the pin with the most places among those it is bound to; the first keeps its key. */
function repeated(use: StepUse, points: PointsInFrame): StepUse[] {
  const settings = Object.entries(use.parameters);
  const counts = settings.flatMap(([, s]) => (boundTo(s) === null ? [] : [points[boundTo(s)!]?.length ?? 0]));
  if (counts.length === 0) return [use];
  const place = (pin: string, i: number): Point => points[pin]?.[Math.min(i, points[pin].length - 1)] ?? CENTRE;
  return Array.from({ length: Math.max(1, ...counts) }, (_, i) => ({
    ...use,
    key: i === 0 ? use.key : `${use.key}~${i + 1}`,
    parameters: Object.fromEntries(settings.map(([id, s]) => [id, 'pin' in s ? { value: place(s.pin, i) } : s])),
  }));
}

/** The look with its pins put in: what is bound to one stands at its place, repeated for each where there are several. */
export function pinned(look: LookDocument, points: PointsInFrame): LookDocument {
  if (!look.pins?.length) return look;
  const layer = (l: Layer): Layer => ({ ...l, steps: l.steps.flatMap((s) => repeated(s, points)) });
  return { ...look, layers: look.layers.map(layer) };
}
