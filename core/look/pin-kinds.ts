/** What each kind of pin takes, and what each kind of parameter may be set by. */
import type { PinValue } from '../clip';
import {
  CENTRE,
  type Ellipse,
  type Line,
  type Parameter,
  type Path,
  type Point,
} from '../parameters';
import {
  isPlaceKindId,
  kindInFrame,
  kindOfPlace,
  type PlaceInFrame,
  type PlaceKindId,
} from '../places';
import type { PinAsk } from './document';

type Kind = PinAsk['kind'];

/** The line of a clip that has not set it: level, through the middle. */
const LEVEL: Line = [0.2, 0.5, 0.8, 0.5];
const WHOLE: Path = [
  [0, 0, 0, 0, 0, 0],
  [1, 0, 0, 0, 0, 0],
  [1, 1, 0, 0, 0, 0],
  [0, 1, 0, 0, 0, 0],
];
/** A shape for what a clip draws by hand: every frame has its own place in its stead. */
export const SOME_OVAL: Ellipse = [...CENTRE, 100, 100, 0];
/**
 * Values of what is bound to a kind of pin until a clip sets it, in the look's frame; shapes and
 * sizes by ovals say theirs themselves.
 */
export const UNSET: Readonly<Partial<Record<Kind, Point | Line | Path>>> = {
  point: CENTRE,
  line: LEVEL,
  oval: CENTRE,
  outline: WHOLE,
};

/** Kinds of places that answer a kind of pin; one that is more than is asked gives its centre. */
const ANSWERS: Readonly<Record<Kind, readonly PlaceKindId[]>> = {
  cue: [],
  point: ['point', 'oval'],
  line: ['line'],
  oval: ['oval', 'point'],
  outline: ['outline'],
  matte: ['outline', 'oval'],
  footage: [],
};
/** Kinds of places by which a person may answer a kind of pin, first the one that is asked for. */
export const placesFor = (kind: Kind): readonly PlaceKindId[] => ANSWERS[kind];
/** A place as the answer to a kind of pin; undefined if it is none. */
export function answeredBy(
  kind: Kind | undefined,
  place: PlaceInFrame | undefined,
): PlaceInFrame | undefined {
  if (!kind || !place || !ANSWERS[kind].includes(kindInFrame(place))) return undefined;
  return kind === 'point' ? [place[0] as number, place[1] as number] : place;
}
/** Whether a value of a clip is of the requested kind; a trace is until its track says otherwise. */
export function answers(v: PinValue, kind: Kind): boolean {
  if ('frame' in v) return kind === 'cue';
  if ('hash' in v) return kind === 'matte' || kind === 'footage';
  if ('trace' in v) return ANSWERS[kind].length > 0;
  return ANSWERS[kind].includes(kindOfPlace(v));
}

const SET_BY: Readonly<Partial<Record<Parameter['kind'], readonly Kind[]>>> = {
  point: ['point', 'oval'],
  line: ['line'],
  ellipse: ['point', 'oval'],
  path: ['outline'],
  number: ['oval'],
};
/** Kinds of pins that may set a kind of parameter. */
export const setBy = (kind: Parameter['kind']): readonly Kind[] => SET_BY[kind] ?? [];
/** Whether a kind of pin is a place of the clip's picture. */
export const asksPlace = (kind: Kind): kind is PlaceKindId => isPlaceKindId(kind);
