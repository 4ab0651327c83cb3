/** The frame a look composes in, and its pictures in the frame that is delivered. */
import { stencil, imageOp, type ImageNode } from '../graph';
import { type Fit, inDomain } from '../image';
import { column, float, isub, type Node, row, sample, toFloat } from '../kernel';

export interface Size {
  readonly width: number;
  readonly height: number;
}
/** A shape other than the project's to compose in, and how it lies in what is delivered. */
export interface FrameShape {
  /** Width and height, in any unit. */
  readonly shape: readonly [number, number];
  /** Whole between bars, or filling it. */
  readonly lies: 'bars' | 'fill';
  /** The radius of its corners, in lines. */
  readonly rounded: number;
  /** With `fill`, clips that are wider than it fill it; without, each as it is fitted itself. */
  readonly clips?: 'fill';
}
/**
 * Where a look's frame lies in the target: its upper left corner there in pixels, and the radius of
 * its corners.
 */
export interface InTarget extends Size {
  readonly target: Size;
  readonly x: number;
  readonly y: number;
  readonly radius: number;
}

/**
 * The look's frame inside (bars) or around (fill) a target, centred on whole pixels. Undefined
 * where the two are the same.
 */
export function lookFrame(frame: FrameShape | undefined, target: Size): InTarget | undefined {
  if (!frame) return undefined;
  const [across, down] = [target.width / frame.shape[0], target.height / frame.shape[1]];
  const scale = frame.lies === 'fill' ? Math.max(across, down) : Math.min(across, down);
  // As far from the target's edges on either side.
  const centred = (whole: number, share: number): number =>
    Math.max(2 - (whole % 2), whole - 2 * Math.round((whole - share * scale) / 2));
  const [width, height] = [
    centred(target.width, frame.shape[0]),
    centred(target.height, frame.shape[1]),
  ];
  const radius = (frame.rounded * height) / 1080;
  if (width === target.width && height === target.height && radius === 0) return undefined;
  return {
    target,
    width,
    height,
    x: (target.width - width) / 2,
    y: (target.height - height) / 2,
    radius,
  };
}

/**
 * A picture of the look's frame in the target: what lies beyond is clear, as beside a clip that is
 * fitted, its corners rounded. The edge of a corner is soft over one pixel (the distance to a
 * rounded box).
 */
export function inTarget(picture: ImageNode, at: InTarget | undefined): ImageNode {
  if (!at) return picture;
  const { target, width, height, radius } = at;
  const from = picture.domain === 'encoded' ? inDomain(picture, 'light') : picture;
  return imageOp({
    shape: `in-target-${from.planes}`,
    inputs: [stencil(from)],
    planes: from.planes === 1 ? 1 : 4,
    domain: from.domain,
    ...target,
    params: [
      width / 2,
      height / 2,
      Math.min(radius, width / 2, height / 2),
      target.width / 2 - 0.5,
      target.height / 2 - 0.5,
    ],
    ints: [width, height, at.x, at.y],
    build: (b) => {
      const px = toFloat(isub(column(), b.int(2))),
        py = toFloat(isub(row(), b.int(3)));
      const beyond = (v: Node, centre: Node, half: Node): Node =>
        v.sub(centre).abs().sub(half).add(b.param(2));
      const dx = beyond(toFloat(column()), b.param(3), b.param(0)),
        dy = beyond(toFloat(row()), b.param(4), b.param(1));
      const [ox, oy] = [dx.max(0), dy.max(0)];
      const distance = ox.mul(ox).add(oy.mul(oy)).sqrt().add(dx.max(dy).min(0)).sub(b.param(2));
      const cover = float(0.5).sub(distance).clamp(0, 1);
      const found = Array.from({ length: from.planes }, (_, p) =>
        sample(b.image(0), p, px, py, b.int(0), b.int(1), 'clear').mul(cover),
      );
      return from.planes === 3 ? [...found, cover] : found;
    },
  });
}

/**
 * How a clip is fitted into a look's frame: as its own fit says, unless the frame has wide clips
 * fill it.
 */
export const fitIn = (frame: FrameShape | undefined, own: Fit, clip: Size): Fit =>
  frame?.clips === 'fill' && clip.width * frame.shape[1] > clip.height * frame.shape[0]
    ? 'fill'
    : own;

type Place = readonly [number, number];
/** A place of the target as one of the look's frame, both in shares, and back. */
export const placeInLookFrame = ([x, y]: Place, at: InTarget | undefined): Place =>
  at
    ? [(x * at.target.width - at.x) / at.width, (y * at.target.height - at.y) / at.height]
    : [x, y];
export const placeInTarget = ([x, y]: Place, at: InTarget | undefined): Place =>
  at
    ? [(x * at.width + at.x) / at.target.width, (y * at.height + at.y) / at.target.height]
    : [x, y];
