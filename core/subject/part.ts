/** Parts of pictures: a subject rarely fills the frame, so most work is done around it alone. */
import type { Colours } from './colour';

/** A part of a picture, in pixels. */
export interface Part {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

/** The part around what is labelled, grown by a margin; undefined where nothing is. */
export function partAround(
  labels: Uint8Array,
  width: number,
  height: number,
  margin: number,
): Part | undefined {
  let [left, right, top, bottom] = [width, -1, height, -1];
  for (let y = 0, o = 0; y < height; y++)
    for (let x = 0; x < width; x++, o++) {
      if (labels[o] === 0) continue;
      if (x < left) left = x;
      if (x > right) right = x;
      if (y < top) top = y;
      bottom = y;
    }
  if (right < 0) return undefined;
  const x = Math.max(0, left - margin),
    y = Math.max(0, top - margin);
  return {
    x,
    y,
    width: Math.min(width, right + margin + 1) - x,
    height: Math.min(height, bottom + margin + 1) - y,
  };
}
/** A part of a plane. */
export function taken<P extends Uint8Array | Uint16Array | Float32Array>(
  plane: P,
  width: number,
  part: Part,
): P {
  const out = new (plane.constructor as new (length: number) => P)(part.width * part.height);
  for (let y = 0; y < part.height; y++) {
    const from = (part.y + y) * width + part.x;
    out.set(plane.subarray(from, from + part.width) as P & ArrayLike<number>, y * part.width);
  }
  return out;
}
/** Labels of a part in a picture that is not the subject elsewhere. */
export function laidIn(labels: Uint8Array, part: Part, width: number, height: number): Uint8Array {
  const out = new Uint8Array(width * height);
  for (let y = 0; y < part.height; y++)
    out.set(labels.subarray(y * part.width, (y + 1) * part.width), (part.y + y) * width + part.x);
  return out;
}
/** A part of a frame's colours. */
export const coloursIn = ({ width, by, planes, apart }: Colours, part: Part): Colours => ({
  width: part.width,
  height: part.height,
  ...{ by, apart },
  planes: [
    taken(planes[0], width, part),
    taken(planes[1], width, part),
    taken(planes[2], width, part),
  ],
});
