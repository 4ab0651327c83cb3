/**
 * Vectors between two frames as bytes that compress well: sixteenths of a pixel, minus a prediction
 * from neighbours (the median edge detector of ISO/IEC 14495-1), high bytes before low ones.
 * Callers compress the result.
 */
import type { Pair } from './between';

const MAGIC = 0x4d46_0001;
const HEAD = 12;
const UNIT = 16;
/** Levels of doubt; more would store noise. */
const DOUBTS = 15;

/**
 * The prediction of a pixel from earlier neighbours; 0 if there are none. All planes are 32-bit
 * during the work, because one type is faster.
 */
function prediction(f: Int32Array, x: number, o: number, width: number): number {
  if (x === 0) return o >= width ? f[o - width]! : 0;
  const left = f[o - 1]!;
  if (o < width) return left;
  const up = f[o - width]!,
    corner = f[o - width - 1]!;
  const most = left > up ? left : up,
    least = left > up ? up : left;
  return corner >= most ? least : corner <= least ? most : left + up - corner;
}
/** A plane in integer steps, clamped to its limits. */
function stepped(plane: Float32Array, times: number, least: number, most: number): Int32Array {
  const out = new Int32Array(plane.length);
  for (let o = 0; o < out.length; o++)
    out[o] = Math.max(least, Math.min(most, Math.round(plane[o]! * times)));
  return out;
}

/** A pair as bytes. */
export function packPair({ forward, backward, doubtFirst, doubtSecond }: Pair): Uint8Array {
  const { width, height } = forward,
    n = width * height;
  const out = new Uint8Array(HEAD + n * 10);
  const head = new DataView(out.buffer);
  [MAGIC, width, height].forEach((v, i) => head.setUint32(i * 4, v));
  let at = HEAD;
  for (const plane of [forward.u, forward.v, backward.u, backward.v]) {
    const q = stepped(plane, UNIT, -32767, 32767);
    for (let y = 0, o = 0; y < height; y++)
      for (let x = 0; x < width; x++, o++) {
        const d = ((q[o]! - prediction(q, x, o, width)) << 16) >> 16;
        const zigzag = ((d << 1) ^ (d >> 15)) & 0xffff;
        out[at + o] = zigzag >> 8;
        out[at + n + o] = zigzag & 0xff;
      }
    at += 2 * n;
  }
  for (const plane of [doubtFirst, doubtSecond]) {
    const q = stepped(plane, DOUBTS, 0, DOUBTS);
    for (let y = 0, o = 0; y < height; y++)
      for (let x = 0; x < width; x++, o++)
        out[at + o] = (q[o]! - prediction(q, x, o, width)) & 0xff;
    at += n;
  }
  return out;
}

/** A plane rounded to steps, as floats; without negative zero. */
function inSteps(plane: Float32Array, times: number, least: number, most: number): Float32Array {
  const out = new Float32Array(plane.length);
  for (let o = 0; o < out.length; o++)
    out[o] = (Math.max(least, Math.min(most, Math.round(plane[o]! * times))) + 0) / times;
  return out;
}
/** A pair as it is after packing and unpacking, so that fresh measurements equal stored ones. */
export function settled({ forward, backward, doubtFirst, doubtSecond }: Pair): Pair {
  const vectors = ({ width, height, u, v }: Pair['forward']): Pair['forward'] => ({
    width,
    height,
    u: inSteps(u, UNIT, -32767, 32767),
    v: inSteps(v, UNIT, -32767, 32767),
  });
  return {
    forward: vectors(forward),
    backward: vectors(backward),
    doubtFirst: inSteps(doubtFirst, DOUBTS, 0, DOUBTS),
    doubtSecond: inSteps(doubtSecond, DOUBTS, 0, DOUBTS),
  };
}

/** The size of packed vectors. Throws if the bytes are no vectors or are truncated. */
export function packedSize(bytes: Uint8Array): { readonly width: number; readonly height: number } {
  const head = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (bytes.length < HEAD || head.getUint32(0) !== MAGIC)
    throw new Error('these bytes are no motion vectors');
  const width = head.getUint32(4),
    height = head.getUint32(8);
  if (bytes.length !== HEAD + width * height * 10)
    throw new Error('the motion vectors are cut short');
  return { width, height };
}
/** A pair from its bytes. Throws if the bytes are no vectors or are truncated. */
export function unpackPair(bytes: Uint8Array): Pair {
  const { width, height } = packedSize(bytes),
    n = width * height;
  let at = HEAD;
  const vectors = (): Float32Array => {
    const q = new Int32Array(n),
      out = new Float32Array(n);
    for (let y = 0, o = 0; y < height; y++)
      for (let x = 0; x < width; x++, o++) {
        const zigzag = (bytes[at + o]! << 8) | bytes[at + n + o]!;
        q[o] = ((prediction(q, x, o, width) + ((zigzag >> 1) ^ -(zigzag & 1))) << 16) >> 16;
        out[o] = q[o]! / UNIT;
      }
    at += 2 * n;
    return out;
  };
  const doubts = (): Float32Array => {
    const q = new Int32Array(n),
      out = new Float32Array(n);
    for (let y = 0, o = 0; y < height; y++)
      for (let x = 0; x < width; x++, o++) {
        q[o] = (prediction(q, x, o, width) + bytes[at + o]!) & 0xff;
        out[o] = q[o]! / DOUBTS;
      }
    at += n;
    return out;
  };
  const forward = { width, height, u: vectors(), v: vectors() },
    backward = { width, height, u: vectors(), v: vectors() };
  return { forward, backward, doubtFirst: doubts(), doubtSecond: doubts() };
}
