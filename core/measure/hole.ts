/**
 * Finds the hole of a plate with coverage (a television's screen, a projector's gate) and the
 * quadrilateral around it.
 */
import type { Point } from '../parameters';

/** Coverage below this counts as open. */
const OPEN = 0.5;
/** Smallest hole, as a share of the picture. */
const LEAST = 0.005;

/**
 * Mask of the largest open region that does not touch the picture's edge; null if there is none.
 */
function largestHole(cover: Float32Array, width: number, height: number): Uint8Array | null {
  const region = new Int32Array(width * height);
  let best = 0,
    most = LEAST * width * height,
    next = 0;
  const stack: number[] = [];
  for (let start = 0; start < region.length; start++) {
    if (region[start] || cover[start]! >= OPEN) continue;
    next++;
    let size = 0,
      atEdge = false;
    region[start] = next;
    stack.push(start);
    while (stack.length > 0) {
      const i = stack.pop()!,
        x = i % width,
        y = (i - x) / width;
      size++;
      if (x === 0 || y === 0 || x === width - 1 || y === height - 1) atEdge = true;
      for (const j of [
        x > 0 ? i - 1 : i,
        x < width - 1 ? i + 1 : i,
        y > 0 ? i - width : i,
        y < height - 1 ? i + width : i,
      ])
        if (!region[j] && cover[j]! < OPEN) {
          region[j] = next;
          stack.push(j);
        }
    }
    if (!atEdge && size > most) [best, most] = [next, size];
  }
  return best === 0 ? null : Uint8Array.from(region, (r) => (r === best ? 1 : 0));
}

/**
 * A side as the line u = a + b·v through the ends of the hole's rows (or columns), with no end
 * outside.
 */
interface Line {
  readonly a: number;
  readonly b: number;
}

/**
 * The line along one side: fitted to the middle half of the ends (corners may be round), then moved
 * out to the furthest one.
 */
function sideOf(ends: readonly (readonly [number, number])[], outwards: 1 | -1): Line {
  const n = ends.length;
  const middle = ends.slice(
    Math.floor(n / 4),
    Math.max(Math.floor(n / 4) + 2, Math.ceil((n * 3) / 4)),
  );
  const mean = (k: 0 | 1) => middle.reduce((s, e) => s + e[k], 0) / middle.length;
  const [mu, mv] = [mean(0), mean(1)];
  const [cov, vari] = middle.reduce(
    ([c, q], [u, v]) => [c + (u - mu) * (v - mv), q + (v - mv) * (v - mv)],
    [0, 0],
  );
  const b = vari > 0 ? cov / vari : 0;
  const furthest = Math.max(...ends.map(([u, v]) => outwards * (u - mu - b * (v - mv))));
  return { a: mu - b * mv + outwards * furthest, b };
}

/** The intersection of x = a + b·y and y = c + d·x. */
const meet = (x: Line, y: Line): Point => {
  const at = (x.a + x.b * y.a) / (1 - x.b * y.b);
  return [at, y.a + y.b * at];
};

/**
 * Corners (upper left, upper right, lower right, lower left, in shares of the picture) of the
 * quadrilateral around the largest hole in a plane of coverage (0…1, rows tightly packed); null if
 * nothing is enclosed.
 */
export function holeOf(
  cover: Float32Array,
  width: number,
  height: number,
): readonly [Point, Point, Point, Point] | null {
  const hole = largestHole(cover, width, height);
  if (!hole) return null;
  const rows: [number, number, number][] = [],
    columns: [number, number, number][] = [];
  for (let y = 0; y < height; y++) {
    const first = hole.indexOf(1, y * width) - y * width;
    if (first >= 0 && first < width)
      rows.push([y + 0.5, first, hole.lastIndexOf(1, (y + 1) * width - 1) - y * width + 1]);
  }
  for (let x = 0; x < width; x++) {
    let first = -1,
      last = -1;
    for (let y = 0; y < height; y++)
      if (hole[y * width + x]) {
        if (first < 0) first = y;
        last = y;
      }
    if (first >= 0) columns.push([x + 0.5, first, last + 1]);
  }
  const left = sideOf(
      rows.map(([y, a]) => [a, y]),
      -1,
    ),
    right = sideOf(
      rows.map(([y, , b]) => [b, y]),
      1,
    );
  const upper = sideOf(
      columns.map(([x, a]) => [a, x]),
      -1,
    ),
    lower = sideOf(
      columns.map(([x, , b]) => [b, x]),
      1,
    );
  const share = ([x, y]: Point): Point => [x / width, y / height];
  return [
    share(meet(left, upper)),
    share(meet(right, upper)),
    share(meet(right, lower)),
    share(meet(left, lower)),
  ];
}
