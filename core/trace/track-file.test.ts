/** Tracks as files: the same track from both, and words for what is none. */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { TrackPlace } from './track';
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
