/** Tracks as files: JSON by docs/track.schema.json, or a table of comma-separated values. */
import type { Track, TrackPlace } from './track';

/** The endings of files that hold tracks. */
export const TRACK_FILES = ['.json', '.csv'] as const;
/** One of `TRACK_FILES`. */
export type TrackFile = (typeof TRACK_FILES)[number];
const HEAD = 'frame,x,y,sure';
/** Most frames of a track that is read. */
const MOST = 1_000_000;

/** A track as the text of a file. */
export const trackText = (track: Track, as: TrackFile): string =>
  as === '.json'
    ? `${JSON.stringify(track)}\n`
    : [HEAD, ...track.places.map((p, f) => [f, ...(p ?? ['', '', 0])].join(','))].join('\n') + '\n';

const isPlace = (p: unknown): p is TrackPlace | null =>
  p === null || (Array.isArray(p) && p.length === 3 && p.every((v) => Number.isFinite(v)));

/** Places of a table; frames that it leaves out are lost. */
function placesIn(text: string): (TrackPlace | null)[] {
  const [head, ...rows] = text.trim().split(/\r?\n/);
  if (head!.replaceAll(' ', '') !== HEAD) throw new Error(`its first line must be ${HEAD}`);
  const places: (TrackPlace | null)[] = [];
  for (const [i, row] of rows.entries()) {
    const cells = row.split(',').map((c) => c.trim());
    const [frame, x, y, sure] = cells.map(Number) as [number, number, number, number];
    const whole = cells.length === 4 && Number.isInteger(frame) && frame >= 0 && frame < MOST;
    const isLost = cells[1] === '' && cells[2] === '';
    if (!whole || !(isLost || isPlace([x, y, sure])))
      throw new Error(
        `line ${i + 2} must be a frame, two shares of the picture and how sure it is`,
      );
    while (places.length < frame) places.push(null);
    places[frame] = isLost ? null : [x, y, sure];
  }
  return places;
}

/** A track from the text of a file. Throws what is wrong with it, in words. */
export function trackFrom(text: string, as: TrackFile): Track {
  if (as === '.csv') return { places: placesIn(text) };
  const { places } = (JSON.parse(text) ?? {}) as { places?: unknown };
  if (!Array.isArray(places) || places.length > MOST || !places.every(isPlace))
    throw new Error('it is no track: write one with the command trace');
  return { places };
}

const NUMBER = { type: 'number' },
  SHARE = { ...NUMBER, description: 'share of the picture as shown, from its upper left corner' };
/** Tracks in JSON, as JSON Schema. */
export const trackSchema = (): Readonly<Record<string, unknown>> => ({
  $schema: 'https://json-schema.org/draft/2020-12/schema',
  title: 'A track',
  description: 'Where a point of footage lies on each of its frames, counted from 0.',
  type: 'object',
  required: ['places'],
  properties: {
    places: {
      type: 'array',
      maxItems: MOST,
      items: {
        description: 'null where the point is lost',
        anyOf: [
          { type: 'null' },
          {
            type: 'array',
            prefixItems: [
              SHARE,
              SHARE,
              {
                ...NUMBER,
                description: '2 where it was marked, 1 where it is sure, less where not',
              },
            ],
            minItems: 3,
            maxItems: 3,
          },
        ],
      },
    },
    bare: {
      type: 'array',
      description: 'marks under which nothing can be followed, and the nearest place that can be',
      items: {
        type: 'object',
        required: ['frame'],
        properties: {
          frame: { type: 'integer', minimum: 0 },
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
