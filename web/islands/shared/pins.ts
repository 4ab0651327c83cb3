/** Setting a clip's pins: where on it a press falls, and its pins with one more, one other, or none. */
import {
  type ClipPins,
  type Framing,
  lackingPins,
  type LookDocument,
  pinsOutside,
  type PinAsk,
  type PinValue,
  placeInClip,
  placeInFrame,
  type Point,
} from '../../../core';
import type { ClipView, ProjectView } from '../../api/views';

export const framingOf = (c: ClipView, p: Pick<ProjectView, 'width' | 'height'>): Framing => ({
  clip: [c.format.width * c.pixelAspect, c.format.height],
  frame: [p.width, p.height],
  fit: c.fit,
});
const rounded = (v: number): number => Math.round(v * 1e5) / 1e5;
/** A place of the frame (shares) as a pin of the clip. */
export function pinAt(place: Point, c: ClipView, p: Pick<ProjectView, 'width' | 'height'>): PinValue {
  const [x, y] = placeInClip(place, framingOf(c, p));
  return { x: rounded(x), y: rounded(y) };
}
/** A clip's points of a pin as places of the frame. */
export const placesOf = (pin: PinAsk, c: ClipView, p: Pick<ProjectView, 'width' | 'height'>): Point[] =>
  (c.pins[pin.key] ?? []).flatMap((v) => ('x' in v ? [placeInFrame([v.x, v.y], framingOf(c, p))] : []));

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
export const pinTroubles = (look: LookDocument, c: ClipView, p: Pick<ProjectView, 'width' | 'height'>): string[] => [
  ...lackingPins(look, c.pins).map((pin) => `${pin.label} is not set`),
  ...pinsOutside(look, c.pins, framingOf(c, p)).map((pin) => `${pin.label} lies outside the frame`),
];
/** What a pin holds, in words. */
export function pinWords(pin: PinAsk, pins: ClipPins): string {
  const all = pins[pin.key] ?? [];
  if (all.length === 0)
    return { cue: 'not set: the middle', point: 'not set: the centre', matte: 'not set: the whole frame', footage: 'not set: the clip itself' }[
      pin.kind
    ];
  const words = (v: PinValue): string =>
    'frame' in v ? `frame ${v.frame}` : 'x' in v ? `${(v.x * 100).toFixed(0)} ${(v.y * 100).toFixed(0)} %` : `from frame ${v.start}`;
  return all.map(words).join(', ');
}
