import { frameFit } from '../image';
import { MOST_NODES, type Path, type PathNode } from '../parameters';
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

/**
 * A closed outline: nodes with their handles as paths have them, in shares of the clip's picture.
 */
export interface OutlinePlace {
  readonly nodes: Path;
}

const NUMBERS = 6;
const nodesOf = (numbers: readonly number[]): Path =>
  Array.from(
    { length: Math.floor(numbers.length / NUMBERS) },
    (_, i) => numbers.slice(i * NUMBERS, (i + 1) * NUMBERS) as unknown as PathNode,
  );

/** Outlines. */
export const outline: PlaceKind<OutlinePlace, Path> & { readonly id: 'outline' } = {
  id: 'outline',
  words: 'an outline',
  unset: 'the whole frame',
  example: '10,10 90,10 50,90 (across and down of three corners or more, parted by spaces)',
  fields: ['nodes'],
  is(v) {
    const { nodes } = v as OutlinePlace;
    return (
      hasOnly(v, outline.fields) &&
      Array.isArray(nodes) &&
      nodes.length >= 3 &&
      nodes.length <= MOST_NODES &&
      nodes.every((n) => Array.isArray(n) && n.length === NUMBERS && areShares(...n))
    );
  },
  numbers: ({ nodes }) => nodes.flat(),
  of: (numbers) => ({ nodes: nodesOf(numbers) }),
  // Outlines of different numbers of nodes have no way between them: the first is held.
  mix: (a, b, share) => (a.length === b.length ? mixAll(a, b, share) : share >= 1 ? b : a),
  inFrame({ nodes }, framing) {
    const { size } = frameFit(framing);
    return nodes.map(([x, y, ...handles]) => [
      ...placeInFrame([x, y], framing),
      handles[0] * size[0],
      handles[1] * size[1],
      handles[2] * size[0],
      handles[3] * size[1],
    ]);
  },
  inClip(path, framing) {
    const { size } = frameFit(framing);
    return {
      nodes: path.map(([x, y, ...handles]) => [
        ...placeInClip([x, y], framing),
        handles[0] / size[0],
        handles[1] / size[1],
        handles[2] / size[0],
        handles[3] / size[1],
      ]),
    };
  },
  moved: ({ nodes }, { place }) => ({
    nodes: nodes.map(([x, y, ax, ay, bx, by]) => {
      const at = place([x, y]),
        before = place([x + ax, y + ay]),
        after = place([x + bx, y + by]);
      return [
        ...at,
        before[0] - at[0],
        before[1] - at[1],
        after[0] - at[0],
        after[1] - at[1],
      ] as const;
    }),
  }),
  spots: ({ nodes }) => nodes.map(([x, y]) => [x, y]),
  carriedBy({ nodes }, at, aspect) {
    let inside = false;
    for (const [i, [x, y]] of nodes.entries()) {
      const [u, v] = nodes[(i + 1) % nodes.length]!;
      if (fromLine(at, [x, y], [u, v], aspect) <= MARGIN) return true;
      if (y > at[1] !== v > at[1] && at[0] < x + ((at[1] - y) / (v - y)) * (u - x))
        inside = !inside;
    }
    return inside;
  },
};
