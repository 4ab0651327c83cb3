import type { Line } from '../parameters';
import {
  areShares,
  fromLine,
  hasOnly,
  MARGIN,
  mixAll,
  placeInClip,
  placeInFrame,
  type PlaceKind,
} from './kind';
import type { PointPlace } from './point';

/** A line from (x, y) to (x2, y2), in shares of the clip's picture. */
export interface LinePlace extends PointPlace {
  readonly x2: number;
  readonly y2: number;
}

/** Lines. */
export const line: PlaceKind<LinePlace, Line> & { readonly id: 'line' } = {
  id: 'line',
  words: 'a line',
  unset: 'level',
  example: '10,60,90,40 (across and down of its two ends)',
  fields: ['x', 'y', 'x2', 'y2'],
  is: (v) => hasOnly(v, line.fields) && areShares(...Object.values(v)),
  numbers: ({ x, y, x2, y2 }) => [x, y, x2, y2],
  of: ([x, y, x2, y2]) => ({ x: x!, y: y!, x2: x2!, y2: y2! }),
  mix: mixAll,
  inFrame: ({ x, y, x2, y2 }, framing) => [
    ...placeInFrame([x, y], framing),
    ...placeInFrame([x2, y2], framing),
  ],
  inClip([a, b, c, d], framing) {
    const [x, y] = placeInClip([a, b], framing),
      [x2, y2] = placeInClip([c, d], framing);
    return { x, y, x2, y2 };
  },
  moved({ x, y, x2, y2 }, { place }) {
    const [a, b] = place([x, y]),
      [c, d] = place([x2, y2]);
    return { x: a, y: b, x2: c, y2: d };
  },
  spots: ({ x, y, x2, y2 }) => [
    [x, y],
    [x2, y2],
  ],
  carriedBy: ({ x, y, x2, y2 }, at, aspect) => fromLine(at, [x, y], [x2, y2], aspect) <= MARGIN,
};
