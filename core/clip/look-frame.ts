/** The frame a look composes in, and how it lies in the delivered frame. */
import { stencil, imageOp, type ImageNode } from '../graph';
import { type Fit, inDomain } from '../image';
import { column, float, isub, type Node, row, sample, toFloat } from '../kernel';

/** Width and height in pixels. */
export interface Size {
  readonly width: number;
  readonly height: number;
}
/** A frame shape different from the project's, and how it lies in the delivered frame. */
export interface FrameShape {
  /** Width and height, in any unit. */
  readonly shape: readonly [number, number];
  /** `bars`: all of the frame is visible, between bars. `fill`: it covers the delivered frame. */
  readonly lies: 'bars' | 'fill';
  /** Radius of the corners, in lines. */
  readonly rounded: number;
  /** `fill`: clips wider than the frame fill it. Default: each clip is fitted as it says itself. */
  readonly clips?: 'fill';
}
/**
 * Position of the look's frame in the target: upper left corner in pixels, size, and corner radius.
 */
export interface InTarget extends Size {
  readonly target: Size;
  readonly x: number;
  readonly y: number;
  readonly radius: number;
}

/**
 * The look's frame inside a target (bars) or around it (fill), centred on whole pixels; undefined
 * where the two are the same.
 */
export function lookFrame(frame: FrameShape | undefined, target: Size): InTarget | undefined {
  if (!frame) return undefined;
  const [across, down] = [target.width / frame.shape[0], target.height / frame.shape[1]];
  const scale = frame.lies === 'fill' ? Math.max(across, down) : Math.min(across, down);
  // Equal margins on both sides.
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
 * A picture of the look's frame inside the target. Outside it is transparent, as around a fitted
 * clip. Corners are rounded, with an edge one pixel wide (signed distance to a rounded box).
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
 * How a clip is fitted into a look's frame: by its own setting, unless the frame makes wide clips
 * fill it.
 */
export const fitIn = (frame: FrameShape | undefined, own: Fit, clip: Size): Fit =>
  frame?.clips === 'fill' && clip.width * frame.shape[1] > clip.height * frame.shape[0]
    ? 'fill'
    : own;

type Place = readonly [number, number];
/**
 * Converts a place in the target to a place in the look's frame; both in shares of width and
 * height.
 */
export const placeInLookFrame = ([x, y]: Place, at: InTarget | undefined): Place =>
  at
    ? [(x * at.target.width - at.x) / at.width, (y * at.target.height - at.y) / at.height]
    : [x, y];
/**
 * Converts a place in the look's frame to a place in the target; both in shares of width and
 * height.
 */
export const placeInTarget = ([x, y]: Place, at: InTarget | undefined): Place =>
  at
    ? [(x * at.width + at.x) / at.target.width, (y * at.height + at.y) / at.target.height]
    : [x, y];
