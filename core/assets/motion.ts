/**
 * A clip's motion in the look's frame: motion vectors as pictures, and pictures interpolated
 * between frames.
 */
import { type ImageNode, imageOp, type Leaf, pointwise, stencil } from '../graph';
import { fitInto, frameFit } from '../image';
import { column, float, mix, type Node, row, sample, toFloat } from '../kernel';
import { between, MOTION_METHOD, packedSize, type Pair, unpackPair } from '../trace';
import type { Extent, FrameAsset, Framed } from './declare';

/** The motion from one frame to the next. */
export interface Motion {
  /** Motion vectors: right and down in pixels of the working size, and their confidence (0…1). */
  readonly onward: ImageNode;
  /**
   * Vectors at a share (0…1) of the way: right, down, weight of the second frame, and confidence.
   * Absent between frames of a retimed clip.
   */
  readonly between?: (share: number) => ImageNode;
}

/** A leaf whose planes are made when first read, so that planning alone costs nothing. */
function lazily(
  width: number,
  height: number,
  planes: number,
  key: string,
  make: () => readonly Float32Array[],
): Leaf {
  let made: readonly Float32Array[] | undefined;
  return {
    kind: 'leaf',
    key,
    width,
    height,
    planes,
    domain: 'none',
    load(p, into) {
      made ??= make();
      for (let y = 0; y < height; y++) into(y).set(made[p]!.subarray(y * width, (y + 1) * width));
    },
  };
}

/** Vectors and weights measured on the footage, resampled into the look's frame. */
function framed(vectors: Leaf, { shape, size, ...fitting }: Framed): ImageNode {
  const { width, height } = vectors,
    aspect = (shape * height) / width;
  const there = fitInto(vectors, size.width, size.height, { ...fitting, aspect });
  const lie = frameFit({
    ...fitting,
    clip: [width * aspect, height],
    frame: [size.width, size.height],
  });
  return imageOp({
    shape: `motion-scaled-${there.planes}`,
    inputs: [pointwise(there)],
    planes: there.planes,
    domain: 'none',
    params: [(lie.size[0] * size.width) / width, (lie.size[1] * size.height) / height],
    build: (b) => b.pixel(0).map((x, i) => (i < 2 ? x.mul(b.param(i)) : x)),
  });
}

/** The size of the vectors, known before they are computed. */
export interface PairAtHand extends Extent {
  readonly pair: () => Pair;
}

/**
 * The motion of a pair of frames in the look's frame. `key` identifies the footage and its frame.
 */
export function motionIn({ width, height, pair }: PairAtHand, key: string, as: Framed): Motion {
  let known: Pair | undefined, onward: ImageNode | undefined;
  const measured = (): Pair => (known ??= pair());
  return {
    get onward() {
      return (onward ??= framed(
        lazily(width, height, 3, `motion:${key}`, () => {
          const { forward, doubtFirst } = measured();
          return [forward.u, forward.v, doubtFirst.map((d) => 1 - d)];
        }),
        as,
      ));
    },
    between: (share) =>
      framed(
        lazily(width, height, 4, `between:${key}:${share}`, () => {
          const { u, v, second, sure } = between(measured(), share);
          return [u, v, second, sure];
        }),
        as,
      ),
  };
}

/** Motion vectors multiplied by `by`: the motion over another share of a frame's time. */
export const scaledMotion = (onward: ImageNode, by: number): ImageNode =>
  imageOp({
    shape: 'motion-share',
    inputs: [pointwise(onward)],
    planes: 3,
    domain: 'none',
    params: [by],
    build: (b) => b.pixel(0).map((x, i) => (i < 2 ? x.mul(b.param(0)) : x)),
  });

/** A placeholder for motion, for plans that only need to know that motion is asked for. */
export function motionOfNothing({ width, height }: Extent): Motion {
  const none = (planes: number): ImageNode =>
    imageOp({
      shape: `no-motion-${planes}`,
      inputs: [],
      planes,
      domain: 'none',
      width,
      height,
      build: () => Array.from({ length: planes }, () => float(0)),
    });
  return { onward: none(3), between: () => none(4) };
}

/** Motion from each frame of footage to the next. */
export const motion: FrameAsset<PairAtHand, Motion> & { readonly id: 'motion' } = {
  id: 'motion',
  per: 'frame',
  method: MOTION_METHOD,
  words: {
    name: 'motion',
    underWay: 'measuring motion',
    missing: 'motion is not measured',
    begin: 'measure it',
  },
  // The last frame of a shot has no motion to the next.
  exists: (frame, { frames, cuts }) =>
    frame >= 0 && frame <= frames - 2 && !cuts?.includes(frame + 1),
  unpack: (bytes) => ({ ...packedSize(bytes), pair: () => unpackPair(bytes) }),
  placed: motionIn,
  standIn: motionOfNothing,
  /** The footage's motion between the two frames it shows; undefined while it stands still. */
  retimed(footage, map, frame) {
    const moment = map.at(frame),
      way = map.at(Math.min(frame + 1, map.frames - 1)) - moment;
    if (way === 0) return undefined;
    const own = footage(way < 0 ? Math.ceil(moment) - 1 : Math.floor(moment));
    // At normal speed it is the footage's motion, including moments between frames.
    return own && way === 1 && Number.isInteger(moment)
      ? own
      : own && { onward: scaledMotion(own.onward, way) };
  },
};

/**
 * The picture at a share of the way between two frames: warped along the motion as far as the
 * confidence says, otherwise a mix of both.
 */
export function inBetween(
  first: ImageNode,
  second: ImageNode,
  motion: ImageNode | undefined,
  share: number,
): ImageNode {
  const planes = Math.max(first.planes, second.planes);
  if (!motion)
    return imageOp({
      shape: `between-mixed-${first.planes}-${second.planes}`,
      inputs: [pointwise(first), pointwise(second)],
      planes,
      domain: first.domain,
      params: [share],
      build: (b) => {
        const [a, c] = [b.pixel(0), b.pixel(1)];
        return Array.from({ length: planes }, (_, p) => mix(a[p] ?? 1, c[p] ?? 1, b.param(0)));
      },
    });
  const { width, height } = first;
  return imageOp({
    shape: `between-moved-${first.planes}-${second.planes}`,
    inputs: [stencil(first), stencil(second), pointwise(motion)],
    planes,
    domain: first.domain,
    params: [share],
    ints: [width, height],
    build: (b) => {
      const [u, v, weight, sure] = b.pixel(2) as [Node, Node, Node, Node];
      const x = toFloat(column()),
        y = toFloat(row());
      const s = b.param(0),
        rest = s.neg().add(1);
      const read = (image: 0 | 1, p: number, dx: Node, dy: Node) =>
        sample(b.image(image), p, x.add(dx), y.add(dy), b.int(0), b.int(1), 'clamp');
      const [ax, ay, bx, by] = [u.mul(s).neg(), v.mul(s).neg(), u.mul(rest), v.mul(rest)];
      return Array.from({ length: planes }, (_, p) => {
        const moved = mix(
          p < first.planes ? read(0, p, ax, ay) : 1,
          p < second.planes ? read(1, p, bx, by) : 1,
          weight,
        );
        const mixed = mix(
          p < first.planes ? b.tap(0, p, 0, 0) : 1,
          p < second.planes ? b.tap(1, p, 0, 0) : 1,
          s,
        );
        return mix(mixed, moved, sure);
      });
    },
  });
}
