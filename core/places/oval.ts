import { type Framing, frameFit } from '../image';
import type { Ellipse, Point } from '../parameters';
import { cosTurnsd, sinTurnsd } from '../kernel';
import {
  areShares,
  hasOnly,
  MARGIN,
  mixAll,
  placeInClip,
  placeInFrame,
  type PlaceKind,
} from './kind';
import type { PointPlace } from './point';

/**
 * An oval around a place: half its width and half its height in shares of the picture's height, and
 * its turn in degrees, clockwise.
 */
export interface OvalPlace extends PointPlace {
  readonly rx: number;
  readonly ry: number;
  readonly turn: number;
}

/** Lines of the frame in the picture's height. */
const linesHigh = (framing: Framing): number => frameFit(framing).size[1] * 1080;
/** A turn within a quarter of another: an oval turned by half a turn is the same. */
const near = (turn: number, other: number): number => turn - 180 * Math.round((turn - other) / 180);

/** A place at a distance from the middle along an oval's own axes, in shares of the height. */
function offMiddle({ x, y, turn }: OvalPlace, u: number, v: number, aspect: number): Point {
  const [c, s] = [cosTurnsd(turn / 360), sinTurnsd(turn / 360)];
  return [x + (u * c - v * s) / aspect, y + u * s + v * c];
}

/** Ovals. */
export const oval: PlaceKind<OvalPlace, Ellipse> & { readonly id: 'oval' } = {
  id: 'oval',
  words: 'an oval',
  unset: 'in the centre',
  example:
    '46,50,12,18,0 (across and down, half its width and height in the picture’s height, its turn in degrees)',
  fields: ['x', 'y', 'rx', 'ry', 'turn'],
  is(v) {
    const { x, y, rx, ry, turn } = v as OvalPlace;
    const sizes = [rx, ry].every((r) => typeof r === 'number' && r >= 0 && r <= 5);
    return (
      hasOnly(v, oval.fields) &&
      areShares(x, y) &&
      sizes &&
      typeof turn === 'number' &&
      Math.abs(turn) <= 36_000
    );
  },
  numbers: ({ x, y, rx, ry, turn }) => [x, y, rx, ry, turn],
  of: ([x, y, rx, ry, turn]) => ({ x: x!, y: y!, rx: rx!, ry: ry!, turn: turn! }),
  mix: (a, b, share) => mixAll(a, [...b.slice(0, 4), near(b[4]!, a[4]!)], share),
  inFrame({ x, y, rx, ry, turn }, framing) {
    const lines = linesHigh(framing);
    return [...placeInFrame([x, y], framing), rx * lines, ry * lines, turn];
  },
  inClip([across, down, rx, ry, turn], framing) {
    const [x, y] = placeInClip([across, down], framing),
      lines = linesHigh(framing);
    return { x, y, rx: rx / lines, ry: ry / lines, turn };
  },
  moved({ x, y, rx, ry, turn }, { place, scale, turn: by }) {
    const [u, v] = place([x, y]);
    return { x: u, y: v, rx: rx * scale, ry: ry * scale, turn: turn + by };
  },
  spots: (v, aspect) =>
    [
      [v.rx, 0],
      [-v.rx, 0],
      [0, v.ry],
      [0, -v.ry],
    ].map(([u, w]) => offMiddle(v, u!, w!, aspect)),
  carriedBy(v, at, aspect) {
    const [dx, dy] = [(at[0] - v.x) * aspect, at[1] - v.y],
      [c, s] = [cosTurnsd(v.turn / 360), sinTurnsd(v.turn / 360)];
    const [u, w] = [(dx * c + dy * s) / (v.rx + MARGIN), (dy * c - dx * s) / (v.ry + MARGIN)];
    return u * u + w * w <= 1;
  },
};
