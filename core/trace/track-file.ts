/** Tracks as files: JSON by docs/track.schema.json, or a table of comma-separated values. */
import { isPlaceKindId, PLACE_KIND_IDS, PLACE_KINDS, type PlaceKindId } from '../places';
import { kindOfTrace, type Track, type TrackPlace } from './track';

/** The endings of files that hold tracks. */
export const TRACK_FILES = ['.json', '.csv'] as const;
/** One of `TRACK_FILES`. */
export type TrackFile = (typeof TRACK_FILES)[number];
/** Most frames of a track that is read. */
const MOST = 1_000_000;

/** The columns of a table of a kind; undefined for a kind whose numbers have no fixed count. */
const columnsOf = (kind: PlaceKindId): string | undefined =>
  kind === 'outline' ? undefined : ['frame', ...PLACE_KINDS[kind].fields, 'sure'].join(',');

/** A track as the text of a file. Throws if that kind of file cannot hold it, in words. */
export function trackText(track: Track, as: TrackFile): string {
  if (as === '.json') return `${JSON.stringify(track)}\n`;
  const head = columnsOf(track.kind ?? 'point');
  if (head === undefined)
    throw new Error(
      `${kindOfTrace(track).words} has no fixed number of columns: write it as .json`,
    );
  const lost = Array.from({ length: head.split(',').length - 2 }, () => '');
  return (
    [head, ...track.places.map((p, f) => [f, ...(p ?? [...lost, 0])].join(','))].join('\n') + '\n'
  );
}

/** Whether a value is a place of a track of a kind, or a lost one. */
const isPlace = (kind: PlaceKindId, p: unknown): p is TrackPlace | null => {
  if (p === null) return true;
  if (!Array.isArray(p) || p.length < 2 || !p.every((v) => Number.isFinite(v))) return false;
  const numbers = p.slice(0, -1) as number[];
  const of = PLACE_KINDS[kind];
  return of.numbers(of.of(numbers)).length === numbers.length && numbers.length >= least(kind);
};
const least = (kind: PlaceKindId): number =>
  kind === 'outline' ? 18 : PLACE_KINDS[kind].fields.length;

/** The track of a table; frames that it leaves out are lost. */
function trackIn(text: string): Track {
  const [head, ...rows] = text.trim().split(/\r?\n/);
  const kind = PLACE_KIND_IDS.find((id) => columnsOf(id) === head!.replaceAll(' ', ''));
  if (!kind)
    throw new Error(
      `its first line must be ${PLACE_KIND_IDS.flatMap((id) => columnsOf(id) ?? []).join(' or ')}`,
    );
  const places: (TrackPlace | null)[] = [];
  for (const [i, row] of rows.entries()) {
    const cells = row.split(',').map((c) => c.trim());
    const [frame, ...place] = cells.map(Number) as [number, ...number[]];
    const count = least(kind) + 2;
    const whole = cells.length === count && Number.isInteger(frame) && frame >= 0 && frame < MOST;
    const isLost = cells.slice(1, -1).every((c) => c === '');
    if (!whole || !(isLost || isPlace(kind, place)))
      throw new Error(
        `line ${i + 2} must be a frame, ${count - 2} numbers of ${PLACE_KINDS[kind].words} and how sure it is`,
      );
    while (places.length < frame) places.push(null);
    places[frame] = isLost ? null : place;
  }
  return { ...(kind !== 'point' && { kind }), places };
}

/** A track from the text of a file. Throws what is wrong with it, in words. */
export function trackFrom(text: string, as: TrackFile): Track {
  if (as === '.csv') return trackIn(text);
  const { places, kind = 'point' } = (JSON.parse(text) ?? {}) as {
    places?: unknown;
    kind?: unknown;
  };
  if (
    typeof kind !== 'string' ||
    !isPlaceKindId(kind) ||
    !Array.isArray(places) ||
    places.length > MOST ||
    !places.every((p) => isPlace(kind, p))
  )
    throw new Error('it is no track: write one with the command trace');
  return { ...(kind !== 'point' && { kind }), places };
}

const NUMBER = { type: 'number' },
  SHARE = { ...NUMBER, description: 'share of the picture as shown, from its upper left corner' };
/** Tracks in JSON, as JSON Schema. */
export const trackSchema = (): Readonly<Record<string, unknown>> => ({
  $schema: 'https://json-schema.org/draft/2020-12/schema',
  title: 'A track',
  description:
    'Where something in footage lies on each of its frames, counted from 0: ' +
    PLACE_KIND_IDS.map((id) => `${id}: ${NUMBERS[id]}`).join('; '),
  type: 'object',
  required: ['places'],
  properties: {
    kind: { enum: PLACE_KIND_IDS, default: 'point' },
    places: {
      type: 'array',
      maxItems: MOST,
      items: {
        description:
          'the numbers of its kind, then 2 where it was marked, 1 where it is sure, less where ' +
          'not; null where it is lost',
        anyOf: [{ type: 'null' }, { type: 'array', items: NUMBER, minItems: 3 }],
      },
    },
    bare: {
      type: 'array',
      description:
        'marks right under which nothing can be followed, and the nearest place that can be',
      items: {
        type: 'object',
        required: ['frame'],
        properties: {
          frame: { type: 'integer', minimum: 0 },
          around: {
            type: 'integer',
            minimum: 1,
            description: 'it is followed by what lies within so many pixels of the footage',
          },
          nearest: {
            type: 'object',
            required: ['x', 'y'],
            properties: { x: SHARE, y: SHARE },
          },
        },
      },
    },
  },
});
const NUMBERS: Readonly<Record<PlaceKindId, string>> = {
  point: 'x and y',
  line: 'x and y of both ends',
  oval: 'x and y of its middle, half its width and half its height in shares of the picture’s height, its turn in degrees, clockwise',
  outline: 'for each node x and y, and how far off its two handles lie, each across and down',
};
