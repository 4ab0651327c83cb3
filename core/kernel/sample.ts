/** Bilinear samples at computed places, with four edge rules. */
import { fetch, imax, imin, isub, mix, type SampleEdge, select, toFloat, toInt } from './expr';
import { make, type Node } from './node';

const EDGES: readonly SampleEdge[] = ['clamp', 'clear', 'repeat', 'mirror'];

/** Maps an integer coordinate into the picture by an edge rule. */
function inside(v: Node, size: Node, edge: SampleEdge): Node {
  if (edge === 'clamp' || edge === 'clear') return imin(imax(toInt(v), 0), isub(size, 1));
  const s = toFloat(size);
  if (edge === 'repeat') return toInt(v.sub(v.div(s).floor().mul(s)));
  const twice = s.mul(2);
  const m = v.sub(v.div(twice).floor().mul(twice));
  return toInt(select(m.lt(s), m, twice.sub(1).sub(m)));
}

/**
 * Bilinear sample at pixel coordinates (0 is the centre of the first pixel) of an image of the
 * given size. A `corner` node holds the value found by the edge rule and names its cell, so that a
 * back end can read cells inside the picture at once.
 */
export function sample(
  image: number,
  plane: number,
  x: Node,
  y: Node,
  width: Node,
  height: Node,
  edge: SampleEdge = 'clamp',
): Node {
  const fx = x.floor(),
    fy = y.floor();
  const within = (v: Node, size: Node): Node =>
    v
      .lt(0)
      .not()
      .and(v.lt(toFloat(size)));
  const last = [width, height].map((size) => toFloat(isub(size, 1)));
  const at = (px: Node, py: Node): Node => {
    const found = fetch(image, plane, inside(px, width, edge), inside(py, height, edge));
    const resolved =
      edge === 'clear' ? select(within(px, width).and(within(py, height)), found, 0) : found;
    return make(
      'corner',
      [resolved, fx, fy, ...last],
      [image, plane, px === fx ? 0 : 1, py === fy ? 0 : 1, EDGES.indexOf(edge)],
    );
  };
  const u = x.sub(fx),
    v = y.sub(fy),
    gx = fx.add(1),
    gy = fy.add(1);
  return mix(mix(at(fx, fy), at(gx, fy), u), mix(at(fx, gy), at(gx, gy), u), v);
}
