/**
 * Places in a clip's picture: one file a kind. Pins, traces, validation, the command line and a
 * page's words follow from it.
 */
import type { Framing } from '../image';
import type { PlaceInFrame, PlaceKind } from './kind';
import { line, type LinePlace } from './line';
import { outline, type OutlinePlace } from './outline';
import { oval, type OvalPlace } from './oval';
import { point, type PointPlace } from './point';

export {
  hasOnly,
  MARGIN,
  type Movement,
  placeInClip,
  type PlaceInFrame,
  placeInFrame,
  type PlaceKind,
} from './kind';
export type { LinePlace, OutlinePlace, OvalPlace, PointPlace };

/** A place of any kind, as clips keep it. */
export type PlaceValue = PointPlace | LinePlace | OvalPlace | OutlinePlace;
type Any = PlaceKind<PlaceValue, PlaceInFrame>;
const KINDS = { point, line, oval, outline };
/** Id of a kind of place. */
export type PlaceKindId = keyof typeof KINDS;
/** Kinds of places, by id. */
export const PLACE_KINDS = KINDS as unknown as Readonly<Record<PlaceKindId, Any>>;
/** Ids of the kinds, in the order of menus. */
export const PLACE_KIND_IDS = Object.keys(KINDS) as PlaceKindId[];
/** Whether a word is the id of a kind. */
export const isPlaceKindId = (id: string): id is PlaceKindId => id in KINDS;

/** The kind of a value. */
export const kindOfPlace = (v: PlaceValue): PlaceKindId =>
  'nodes' in v ? 'outline' : 'rx' in v ? 'oval' : 'x2' in v ? 'line' : 'point';
/** Whether an object is a valid place of some kind. */
export const isPlaceValue = (v: object): v is PlaceValue =>
  PLACE_KIND_IDS.some((id) => PLACE_KINDS[id].is(v));
/** The kind of a place in the frame. */
export const kindInFrame = (place: PlaceInFrame): PlaceKindId =>
  place.length === 0 || typeof place[0] === 'object'
    ? 'outline'
    : place.length === 5
      ? 'oval'
      : place.length === 4
        ? 'line'
        : 'point';
/** A place of a clip in the look's frame. */
export const inFrame = (v: PlaceValue, framing: Framing): PlaceInFrame =>
  PLACE_KINDS[kindOfPlace(v)].inFrame(v, framing);
/** A place in the look's frame as a clip keeps it. */
export const inClip = (place: PlaceInFrame, framing: Framing): PlaceValue =>
  PLACE_KINDS[kindInFrame(place)].inClip(place, framing);
