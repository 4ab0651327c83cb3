/**
 * Edits of a clip's pins: where a click falls on the clip, and its pins with one added, replaced or
 * removed.
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
  type TracedPlace,
} from '../../core';
import type { ClipView, ProjectView } from '../data/views';

/** The visible frame, with the look's own frame inside it. */
export interface Seen extends Pick<ProjectView, 'width' | 'height'> {
  readonly framed?: InTarget | undefined;
  readonly frame?: Asking['frame'];
}
/** The visible frame under a look. */
export const seenOf = (
  { width, height }: Pick<ProjectView, 'width' | 'height'>,
  look: Asking | null | undefined,
): Seen => ({
  width,
  height,
  framed: lookFrame(look?.frame, { width, height }),
  ...(look?.frame && { frame: look.frame }),
});
/** How a clip lies in the visible frame. */
export const framingOf = (c: ClipView, { framed, frame, ...p }: Seen): Framing => ({
  clip: [c.format.width * c.pixelAspect, c.format.height],
  frame: framed ? [framed.width, framed.height] : [p.width, p.height],
  fit: fitIn(frame, c.fit, { width: c.format.width * c.pixelAspect, height: c.format.height }),
  reframe: c.reframe,
});
const rounded = (v: number): number => Math.round(v * 1e5) / 1e5;
const inClip = (place: Point, c: ClipView, p: Seen): Point =>
  placeInClip(placeInLookFrame(place, p.framed), framingOf(c, p));
/** A place in the frame (shares) as a pin of the clip. */
export function pinAt(place: Point, c: ClipView, p: Seen): PinValue {
  const [x, y] = inClip(place, c, p);
  return { x: rounded(x), y: rounded(y) };
}
/** Two places in the frame as a line of the clip. */
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
/** A clip's values of a pin as places in the frame (both ends of lines). */
export const placesOf = (
  pin: PinAsk,
  c: ClipView,
  p: Seen,
  traced: TracedPlace = () => undefined,
): Point[] =>
  (c.pins[pin.key] ?? []).flatMap((v) => {
    const at = 'trace' in v ? traced(v.trace) : v;
    return at && 'x' in at
      ? endsOf(at).map((end) => placeInTarget(placeInFrame(end, framingOf(c, p)), p.framed))
      : [];
  });

/** Pins with a value added, or replaced if the pin holds only one. */
export const withPin = (pins: ClipPins, { key, many }: PinAsk, value: PinValue): ClipPins => ({
  ...pins,
  [key]: many ? [...(pins[key] ?? []), value] : [value],
});
/**
 * Pins with the value at `index` replaced or, without a value, removed; without an index all are
 * removed.
 */
export function withoutPin(pins: ClipPins, key: string, index?: number): ClipPins {
  const left = index === undefined ? [] : (pins[key] ?? []).filter((_, i) => i !== index);
  const others = Object.entries(pins).filter(([k]) => k !== key);
  return Object.fromEntries(left.length > 0 ? [...others, [key, left]] : others);
}
/** What is wrong with a clip's pins for a look, as text. */
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
/** A pin's value as text; footage by its name. */
export function pinWords(
  pin: PinAsk,
  pins: ClipPins,
  project?: Partial<Pick<ProjectView, 'clips' | 'plates'> & Pick<ClipView, 'traces'>>,
  /** The frame of the clip at which a frame of its footage is shown. */
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
          : 'trace' in v
            ? `as ${project?.traces?.find((t) => t.id === v.trace)?.name ?? 'a trace'} goes`
            : [nameOf(v.hash), `from frame ${v.start}`].filter(Boolean).join(' ');
  return all.map(words).join(', ');
}

/**
 * Footage dealt out to clips: one for all, or several in turn, so that none comes twice in a row.
 * No clip gets its own footage. What a clip says of its pin otherwise (start, speed, framing)
 * stays.
 */
export function dealtOut(
  pin: PinAsk,
  clips: readonly ClipView[],
  hashes: readonly string[],
): { readonly clip: ClipView; readonly pins: ClipPins }[] {
  let last: string | undefined,
    turn = 0;
  return clips.flatMap((clip) => {
    const others = hashes.filter((h) => h !== clip.hash),
      fresh = others.filter((h) => h !== last);
    const among = fresh.length > 0 ? fresh : others;
    if (among.length === 0) return [];
    // The next in turn that may come here.
    let at = turn;
    while (!among.includes(hashes[at % hashes.length]!)) at++;
    const hash = hashes[at % hashes.length]!;
    turn = at + 1;
    last = hash;
    const now = clip.pins[pin.key]?.[0];
    const kept = now && 'hash' in now ? now : { start: 0, speed: 1 };
    return [{ clip, pins: withPin(clip.pins, { ...pin, many: false }, { ...kept, hash }) }];
  });
}
/** The same value of a pin for several clips; clips whose own footage it is are left out. */
export const alike = (
  pin: PinAsk,
  clips: readonly ClipView[],
  value: PinValue,
): { readonly clip: ClipView; readonly pins: ClipPins }[] =>
  clips
    .filter((c) => !('hash' in value) || value.hash !== c.hash)
    .map((clip) => ({ clip, pins: withPin(clip.pins, { ...pin, many: false }, value) }));

/**
 * The next clip after one that lacks a pin a look asks for, all around: among those that wear the
 * look, or among all if none does.
 */
export function nextLacking(
  look: Asking,
  lookId: string,
  clips: readonly ClipView[],
  after: string,
): ClipView | undefined {
  const wearing = clips.filter((c) => c.look?.lookId === lookId),
    among = wearing.length > 0 ? wearing : clips;
  const from = clips.findIndex((c) => c.id === after);
  const inOrder = [...clips.slice(from + 1), ...clips.slice(0, Math.max(0, from))];
  return inOrder.find((c) => among.includes(c) && lackingPins(look, c.pins).length > 0);
}
