/**
 * Edits of a clip's pins: where a click falls on the clip, and its pins with one added, replaced or
 * removed.
 */
import {
  type Asking,
  type ClipPins,
  fitIn,
  type Framing,
  inClip,
  inFrame,
  type InTarget,
  isPlacePin,
  kindOfPlace,
  lackingPins,
  lookFrame,
  type PinAsk,
  pinsOutside,
  type PinValue,
  PLACE_KIND_IDS,
  PLACE_KINDS,
  type PlaceInFrame,
  placeInLookFrame,
  type PlaceKindId,
  type PlaceValue,
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
/** Width ÷ height of the look's frame. */
export const aspectOf = ({ framed, width, height }: Seen): number =>
  framed ? framed.width / framed.height : width / height;
/** How a clip lies in the visible frame. */
export const framingOf = (c: ClipView, { framed, frame, ...p }: Seen): Framing => ({
  clip: [c.format.width * c.pixelAspect, c.format.height],
  frame: framed ? [framed.width, framed.height] : [p.width, p.height],
  fit: fitIn(frame, c.fit, { width: c.format.width * c.pixelAspect, height: c.format.height }),
  reframe: c.reframe,
});
/** Places of the clip to a hundred-thousandth of its picture. */
function rounded(v: PlaceValue): PlaceValue {
  const { numbers, of } = PLACE_KINDS[kindOfPlace(v)];
  return of(numbers(v).map((n) => Math.round(n * 1e5) / 1e5));
}
/** A place in the look's frame as the clip keeps it. */
export const keptAs = (place: PlaceInFrame, c: ClipView, p: Seen): PlaceValue =>
  rounded(inClip(place, framingOf(c, p)));
/** A place that was clicked in the visible frame, as a pin of the clip. */
export const pinAt = (place: Point, c: ClipView, p: Seen): PlaceValue =>
  keptAs(placeInLookFrame(place, p.framed), c, p);
/** A clip's places of a pin, in the look's frame. */
export const placesOf = (
  pin: PinAsk,
  c: ClipView,
  p: Seen,
  traced: TracedPlace = () => undefined,
): PlaceInFrame[] =>
  (c.pins[pin.key] ?? []).flatMap((v) => {
    const at = 'trace' in v ? traced(v.trace, pin.key) : v;
    return at && isPlacePin(at) ? [inFrame(at, framingOf(c, p))] : [];
  });

/** Clicks nearer to the first than this, in shares of the frame's height, close an outline. */
const CLOSES = 0.02;
/** What is to be clicked for a place of a kind. */
export const CLICKS: Readonly<Record<PlaceKindId, string>> = {
  point: 'click the place',
  line: 'click its two ends',
  oval: 'click its middle, then how far it reaches',
  outline: 'click each corner, and the first one again',
};
/**
 * The place that clicks in the look's frame make; undefined while more are needed. `aspect`: the
 * frame's width ÷ its height.
 */
export function clickedPlace(
  kind: PlaceKindId,
  clicks: readonly Point[],
  aspect: number,
): PlaceInFrame | undefined {
  const [a, b] = [clicks[0]!, clicks.at(-1)!];
  if (kind === 'point') return a;
  if (clicks.length < 2) return undefined;
  const [dx, dy] = [Math.abs(b[0] - a[0]) * aspect, Math.abs(b[1] - a[1])];
  if (kind === 'line') return [...a, ...b];
  if (kind === 'oval') {
    // A click straight beside or below its middle makes a circle.
    const least = Math.max(dx, dy) / 4;
    const [rx, ry] = [dx, dy].map((r) => 1080 * (r < least ? Math.max(dx, dy) : r));
    return [...a, Math.round(rx!), Math.round(ry!), 0];
  }
  const closed = clicks.length > 3 && Math.sqrt(dx * dx + dy * dy) <= CLOSES;
  return closed ? clicks.slice(0, -1).map(([x, y]) => [x, y, 0, 0, 0, 0] as const) : undefined;
}

/** Pins with a value added, or replaced if the pin holds only one. */
export const withPin = (pins: ClipPins, { key, many }: PinAsk, value: PinValue): ClipPins => ({
  ...pins,
  [key]: many ? [...(pins[key] ?? []), value] : [value],
});
/** Pins with the value at `index` replaced. */
export const withPinAt = (
  pins: ClipPins,
  key: string,
  index: number,
  value: PinValue,
): ClipPins => ({ ...pins, [key]: (pins[key] ?? []).map((v, i) => (i === index ? value : v)) });
/** Pins without the value at `index`; without an index all are removed. */
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
  if (all.length === 0) return `not set: ${UNSET_WORDS[pin.kind]}`;
  const words = (v: PinValue): string => {
    if ('frame' in v) return `frame ${seenAt(v.frame)}`;
    if ('trace' in v)
      return `as ${project?.traces?.find((t) => t.id === v.trace)?.name ?? 'a trace'} goes`;
    if (isPlacePin(v)) return placeWords(v);
    return [nameOf(v.hash), `from frame ${v.start}`].filter(Boolean).join(' ');
  };
  return all.map(words).join(', ');
}
const UNSET_WORDS: Readonly<Record<PinAsk['kind'], string>> = {
  cue: 'the middle',
  matte: 'the whole frame',
  footage: 'the clip itself',
  ...(Object.fromEntries(PLACE_KIND_IDS.map((id) => [id, PLACE_KINDS[id].unset])) as Record<
    PlaceKindId,
    string
  >),
};
function placeWords(v: PlaceValue): string {
  if ('nodes' in v) return `an outline of ${v.nodes.length} corners`;
  if ('rx' in v)
    return `${percents(v.x, v.y)} %, ${percents(2 * v.rx)} by ${percents(2 * v.ry)} % large`;
  return 'x2' in v
    ? `${percents(v.x, v.y)} to ${percents(v.x2, v.y2)} %`
    : `${percents(v.x, v.y)} %`;
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
