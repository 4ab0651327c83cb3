/** The grain of one frame, of unit variance in each layer, assembled from a periodic tile. */
import { type GaugeId, type Granularity, grainTile, micronsPerPixel, TILE } from '../../film';
import { stencil, type Leaf, imageOp, type ImageNode } from '../../graph';
import { leaf } from '../../image';
import {
  asFloat,
  asInt,
  column,
  fetch,
  hash,
  iadd,
  iand,
  imul,
  ishr,
  isub,
  ixor,
  type Node,
  Remembered,
  row,
  select,
  toFloat,
  wholeToInt,
} from '../../kernel';
import type { FrameContext } from '../declare';

/** Grain of a stock at a strength and gauge. */
export interface Grain {
  readonly granularity: Granularity;
  /** Relative strength; 1 is the stock's own. */
  readonly amount: number;
  readonly gauge: GaugeId;
  readonly seed: number;
}

/** Side of the triangles in pixels: much longer than any grain, shorter than a tile. */
const PATCH = 96;

const leaves = new Remembered<Leaf>(12);
function tileLeaf({ granularity, gauge }: Grain, planes: number, width: number): Leaf {
  const made = grainTile(granularity, micronsPerPixel(gauge, width));
  const key = `${made.key}-${planes}`;
  return leaves.of(key, () =>
    leaf(planes === 3 ? made.planes : [made.planes[1]!], TILE, TILE, 'none', key),
  );
}

/** One round of multiply and xor-shift, for numbers already spread by large odd factors. */
function scatter(x: Node): Node {
  const h = imul(ixor(x, ishr(x, 15)), 0x2c1b3c6d);
  return ixor(h, ishr(h, 12));
}
const whole = (when: Node, a: Node, b: Node): Node => asInt(select(when, asFloat(a), asFloat(b)));

/**
 * Each pixel lies in a triangle of a grid. Each corner reads the tile at a random place, mirrored
 * or not. The three are blended with weights whose squares sum to 1, so that variance and spectrum
 * are kept (Heitz and Neyret, "High-performance by-example noise using a histogram-preserving
 * blending operator", 2018).
 */
export function grainPicture(grain: Grain, planes: number, at: FrameContext): ImageNode {
  const tile = tileLeaf(grain, planes, at.width);
  return imageOp({
    shape: `grain-${planes}`,
    inputs: [stencil(tile)],
    planes,
    domain: 'none',
    width: at.width,
    height: at.height,
    isCheckpoint: true,
    ints: [grain.seed, at.frame],
    build: (b) => {
      const seed = hash(b.int(0), b.int(1));
      const [px, py] = [column(), row()];
      const [x, y] = [toFloat(px), toFloat(py)];
      // Equilateral triangles: 1/√3 and 2/√3.
      const v = y.mul(1.1547005 / PATCH).add(16),
        u = x
          .sub(y.mul(0.57735027))
          .mul(1 / PATCH)
          .add(4096);
      const [fu, fv] = [u.floor(), v.floor()];
      const [pu, pv] = [u.sub(fu), v.sub(fv)];
      const upper = pu.add(pv).lt(1).not();
      const corner = iadd(
        iadd(imul(wholeToInt(fu), 0x27d4eb2f), imul(wholeToInt(fv), 0x165667b1)),
        seed,
      );
      const across = iadd(corner, 0x27d4eb2f),
        down = iadd(corner, 0x165667b1);
      const corners: [Node, Node][] = [
        [
          whole(upper, iadd(across, 0x165667b1), corner),
          select(upper, pu.add(pv).sub(1), pu.add(pv).neg().add(1)),
        ],
        [across, select(upper, pv.neg().add(1), pu)],
        [down, select(upper, pu.neg().add(1), pv)],
      ];
      const sums: Node[] = [];
      for (const [key, share] of corners) {
        const h = scatter(key);
        const place = (p: Node, shift: number, flip: number): Node => {
          const start = ishr(h, shift);
          return iand(iadd(imul(p, isub(1, iand(ishr(h, flip), 2))), start), TILE - 1);
        };
        const tx = place(px, 8, 3),
          ty = place(py, 16, 24);
        const weight = share.max(0).sqrt();
        for (let p = 0; p < planes; p++) {
          const part = fetch(b.image(0), p, tx, ty).mul(weight);
          const known = sums[p];
          sums[p] = known ? known.add(part) : part;
        }
      }
      return sums;
    },
  });
}
