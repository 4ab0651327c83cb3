/** Tracks as files: the same track from both, and words for what is none. */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Track, TrackPlace } from './track';
import { TRACK_FILES, trackFrom, trackText } from './track-file';

const share = fc.integer({ min: -1e6, max: 2e6 }).map((v) => v / 1e6);
const place: fc.Arbitrary<TrackPlace | null> = fc.option(
  fc.tuple(share, share, fc.constantFrom(2, 1, 0.46, 0.1)),
);

describe.each(TRACK_FILES)('a track as %s', (as) => {
  it('is the same when it is read again', () => {
    fc.assert(
      fc.property(fc.array(place, { minLength: 1, maxLength: 40 }), (places) => {
        expect(trackFrom(trackText({ places }, as), as)).toEqual({ places });
      }),
    );
  });
});

describe('a track of an oval or an outline', () => {
  const oval = { kind: 'oval', places: [null, [0.5, 0.5, 0.1, 0.2, -5, 1]] } as const;
  const outline = { kind: 'outline', places: [[...Array(18).fill(0.5), 2], null] } as Track;
  it('says its kind, in a table by its first line', () => {
    for (const as of TRACK_FILES) expect(trackFrom(trackText(oval, as), as)).toEqual(oval);
    expect(trackText(oval, '.csv').split('\n').slice(0, 3)).toEqual([
      'frame,x,y,rx,ry,turn,sure',
      '0,,,,,,0',
      '1,0.5,0.5,0.1,0.2,-5,1',
    ]);
    expect(trackFrom(trackText(outline, '.json'), '.json')).toEqual(outline);
  });
  it('is no table where its numbers have no fixed count', () => {
    expect(() => trackText(outline, '.csv')).toThrow('write it as .json');
  });
  it('is refused with the numbers of another kind', () => {
    const text = (places: unknown) => JSON.stringify({ kind: 'oval', places });
    expect(() => trackFrom(text([[0.5, 0.5, 1]]), '.json')).toThrow('it is no track');
    expect(() => trackFrom('frame,x,y,rx,ry,turn,sure\n0,1,1,1', '.csv')).toThrow(
      'line 2 must be a frame, 5 numbers of an oval',
    );
  });
});

describe('a table', () => {
  const read = (...rows: string[]) =>
    trackFrom(['frame,x,y,sure', ...rows].join('\r\n'), '.csv').places;
  it('may leave frames out, which are lost there', () => {
    expect(read('2,0.5,0.25,1', '4, 0.5, 0.3, 2')).toEqual([
      ...[null, null],
      [0.5, 0.25, 1],
      null,
      [0.5, 0.3, 2],
    ]);
  });
  it.each([
    ['a frame between two', '1.5,0,0,1'],
    ['a place that is no number', '0,left,0,1'],
    ['half a place', '0,0.5'],
    ['a frame beyond all', '99999999,0,0,1'],
  ])('with %s is refused with its line', (_, row) => {
    expect(() => read('0,0.1,0.1,2', row)).toThrow(/^line 3 must be a frame/);
  });
  it('without its first line is refused', () => {
    expect(() => trackFrom('0,0.1,0.1,2', '.csv')).toThrow(
      'its first line must be frame,x,y,sure or frame,x,y,x2,y2,sure or',
    );
  });
});
it('JSON that is no track is refused in words', () => {
  for (const text of ['null', '{}', '{"places": [[1]]}', '{"places": [["a", 1, 1]]}'])
    expect(() => trackFrom(text, '.json')).toThrow('it is no track');
});
