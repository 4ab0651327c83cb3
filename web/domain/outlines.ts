/** Outlines of shapes on a picture, as paths of SVG. */
import {
  type ColourPlace,
  type Ellipse,
  kindInFrame,
  type Line,
  type Parameter,
  type ParameterValue,
  type Path,
  type PlaceInFrame,
  type Point,
} from '../../core';

/** A place in shares of the frame, or a size in pixels. */
export type Place = readonly [number, number];
/** A share clamped to the range that a document allows, and rounded. */
export const held = (v: number): number => Math.max(-4, Math.min(5, Math.round(v * 1e4) / 1e4));

/** A place rotated about the origin. */
export const turn = (x: number, y: number, degrees: number): Place => {
  const a = (degrees * Math.PI) / 180;
  return [x * Math.cos(a) - y * Math.sin(a), x * Math.sin(a) + y * Math.cos(a)];
};

/** A place at a distance in lines from an oval's middle, along its own axes; in shares. */
export function offMiddle([cx, cy, , , angle]: Ellipse, x: number, y: number, shape: Place): Place {
  const [u, v] = turn(x, y, angle),
    lines = 1080 / shape[1];
  return [cx + u / lines / shape[0], cy + v / lines / shape[1]];
}
const drawn = (all: readonly Place[], [w, h]: Place): string =>
  `M${all.map(([x, y]) => `${x * w} ${y * h}`).join('L')}`;
/** The outline of an ellipse or a box. */
export function ovalOf(value: Ellipse, box: boolean, shape: Place): string {
  const [, , rx, ry] = value;
  const at = (x: number, y: number): Place => offMiddle(value, x, y, shape);
  const corners = box
    ? [at(-rx, -ry), at(rx, -ry), at(rx, ry), at(-rx, ry)]
    : Array.from({ length: 48 }, (_, i) =>
        at(rx * Math.cos((i * Math.PI) / 24), ry * Math.sin((i * Math.PI) / 24)),
      );
  return `${drawn(corners, shape)}Z`;
}
/** The curve of a path. */
export const curveOf = (path: Path, [w, h]: Place): string =>
  path
    .map((a, i) => {
      const b = path[(i + 1) % path.length]!;
      const curve = `C${(a[0] + a[4]) * w} ${(a[1] + a[5]) * h} ${(b[0] + b[2]) * w} ${(b[1] + b[3]) * h} ${b[0] * w} ${b[1] * h}`;
      return `${i === 0 ? `M${a[0] * w} ${a[1] * h}` : ''}${curve}`;
    })
    .join('');
/** Radius of the ring that marks a place, in lines. */
const RING = 8;
/** The outline of a shape's value; places are rings. */
export function outlineOf(p: Parameter, value: ParameterValue, shape: Place): string {
  if (p.kind === 'path') return placeOutline(value as Path, shape);
  if (p.kind === 'ellipse') return ovalOf(value as Ellipse, p.outline === 'box', shape);
  if (p.kind === 'line') return placeOutline(value as Line, shape);
  const places = p.kind === 'colours' ? (value as readonly ColourPlace[]) : [value as Point];
  return places.map(([x, y]) => ovalOf([x, y, RING, RING, 0], false, shape)).join('');
}
/** The outline of a place of a clip in the look's frame; a point is a ring. */
export function placeOutline(place: PlaceInFrame, shape: Place): string {
  switch (kindInFrame(place)) {
    case 'outline':
      return curveOf(place as Path, shape);
    case 'oval':
      return ovalOf(place as Ellipse, false, shape);
    case 'line': {
      const [x0, y0, x1, y1] = place as Line;
      return drawn(
        [
          [x0, y0],
          [x1, y1],
        ],
        shape,
      );
    }
    default:
      return ovalOf([place[0] as number, place[1] as number, RING, RING, 0], false, shape);
  }
}
