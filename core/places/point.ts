import type { Point } from '../parameters';
import {
  apart,
  areShares,
  hasOnly,
  MARGIN,
  mixAll,
  placeInClip,
  placeInFrame,
  type PlaceKind,
} from './kind';

/** A place in shares of the clip's picture, from its upper left corner. */
export interface PointPlace {
  readonly x: number;
  readonly y: number;
}

/** Points. */
export const point: PlaceKind<PointPlace, Point> & { readonly id: 'point' } = {
  id: 'point',
  words: 'a point',
  unset: 'the centre',
  example: '31.5,40 (across and down)',
  fields: ['x', 'y'],
  is: (v) => hasOnly(v, point.fields) && areShares(...Object.values(v)),
  numbers: ({ x, y }) => [x, y],
  of: ([x, y]) => ({ x: x!, y: y! }),
  mix: mixAll,
  inFrame: ({ x, y }, framing) => placeInFrame([x, y], framing),
  inClip(at, framing) {
    const [x, y] = placeInClip(at, framing);
    return { x, y };
  },
  moved({ x, y }, { place }) {
    const [u, v] = place([x, y]);
    return { x: u, y: v };
  },
  spots: ({ x, y }) => [[x, y]],
  carriedBy: ({ x, y }, at, aspect) => apart([x, y], at, aspect) <= MARGIN,
};
