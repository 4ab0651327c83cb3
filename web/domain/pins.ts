/**
 * Setting a clip's pins: where on it a press falls, and its pins with one more, one other, or none.
 */
import {
  type Asking,
  type ClipPins,
  type Framing,
  type InTarget,
  lackingPins,
  type LinePin,
  lookFrame,
  pinsOutside,
  type PinAsk,
  type PinValue,
  type PlacePin,
  placeInClip,
  fitIn,
  placeInFrame,
  placeInLookFrame,
  placeInTarget,
  type Point,
} from '../../core';
import type { ClipView, ProjectView } from '../data/views';

/** The frame that is seen, and the look's own in it. */
export interface Seen extends Pick<ProjectView, 'width' | 'height'> {
  readonly framed?: InTarget | undefined;
  readonly frame?: Asking['frame'];
}
export const seenOf = (
  { width, height }: Pick<ProjectView, 'width' | 'height'>,
  look: Asking | null | undefined,
): Seen => ({
  width,
  height,
  framed: lookFrame(look?.frame, { width, height }),
  ...(look?.frame && { frame: look.frame }),
});
export const framingOf = (c: ClipView, { framed, frame, ...p }: Seen): Framing => ({
  clip: [c.format.width * c.pixelAspect, c.format.height],
  frame: framed ? [framed.width, framed.height] : [p.width, p.height],
  fit: fitIn(frame, c.fit, { width: c.format.width * c.pixelAspect, height: c.format.height }),
  reframe: c.reframe,
});
const rounded = (v: number): number => Math.round(v * 1e5) / 1e5;
const inClip = (place: Point, c: ClipView, p: Seen): Point =>
  placeInClip(placeInLookFrame(place, p.framed), framingOf(c, p));
/** A place of the frame (shares) as a pin of the clip. */
export function pinAt(place: Point, c: ClipView, p: Seen): PinValue {
  const [x, y] = inClip(place, c, p);
  return { x: rounded(x), y: rounded(y) };
}
/** Two places of the frame as a line of the clip. */
export const lineAt = (from: Point, to: Point, c: ClipView, p: Seen): PinValue => {
  const [a, b] = [from, to].map((place) => inClip(place, c, p).map(rounded)) as [
    number[],
    number[],
  ];
  return { x: a[0]!, y: a[1]!, x2: b[0]!, y2: b[1]! };
};
const endsOf = (v: PlacePin | LinePin): Point[] =>
  'x2' in v
    ? [
        [v.x, v.y],
        [v.x2, v.y2],
      ]
    : [[v.x, v.y]];
/** A clip's points (or ends of lines) of a pin as places of the frame. */
export const placesOf = (pin: PinAsk, c: ClipView, p: Seen): Point[] =>
  (c.pins[pin.key] ?? []).flatMap((v) =>
    'x' in v
      ? endsOf(v).map((at) => placeInTarget(placeInFrame(at, framingOf(c, p)), p.framed))
      : [],
  );

/** With a value: one more where a pin may hold several, the only one otherwise. */
export const withPin = (pins: ClipPins, { key, many }: PinAsk, value: PinValue): ClipPins => ({
  ...pins,
  [key]: many ? [...(pins[key] ?? []), value] : [value],
});
/** With the value at `index` replaced, or (without one) taken away; without an index all go. */
export function withoutPin(pins: ClipPins, key: string, index?: number): ClipPins {
  const left = index === undefined ? [] : (pins[key] ?? []).filter((_, i) => i !== index);
  const others = Object.entries(pins).filter(([k]) => k !== key);
  return Object.fromEntries(left.length > 0 ? [...others, [key, left]] : others);
}
/** What is wrong with a clip's pins for a look, in words. */
export const pinTroubles = (
  look: Asking,
  c: ClipView,
  p: Pick<ProjectView, 'width' | 'height'>,
): string[] => [
  ...lackingPins(look, c.pins).map((pin) => `${pin.label} is not set`),
  ...pinsOutside(look, c.pins, framingOf(c, seenOf(p, look))).map(
    (pin) => `${pin.label} lies outside the frame`,
  ),
];
const percents = (...v: number[]): string => v.map((s) => (s * 100).toFixed(0)).join(' ');
/** What a pin holds, in words; footage by its name. */
export function pinWords(
  pin: PinAsk,
  pins: ClipPins,
  project?: Pick<ProjectView, 'clips' | 'plates'>,
  /** On which frame of the clip a frame of its footage is seen. */
  seenAt: (frame: number) => number = (f) => f,
): string {
  const nameOf = (hash: string) =>
    [...(project?.plates ?? []), ...(project?.clips ?? [])].find((c) => c.hash === hash)?.name;
  const all = pins[pin.key] ?? [];
  if (all.length === 0)
    return {
      cue: 'not set: the middle',
      point: 'not set: the centre',
      line: 'not set: level',
      matte: 'not set: the whole frame',
      footage: 'not set: the clip itself',
    }[pin.kind];
  const words = (v: PinValue): string =>
    'frame' in v
      ? `frame ${seenAt(v.frame)}`
      : 'x2' in v
        ? `${percents(v.x, v.y)} to ${percents(v.x2, v.y2)} %`
        : 'x' in v
          ? `${percents(v.x, v.y)} %`
          : [nameOf(v.hash), `from frame ${v.start}`].filter(Boolean).join(' ');
  return all.map(words).join(', ');
}
