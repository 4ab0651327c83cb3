/**
 * Decoded frames in the native planes of their file, and their conversion to linear light by our
 * own kernels.
 */
import { type Building, pointwise, Hasher, type Leaf, imageOp, type ImageNode } from '../graph';
import { type Node, type Pixel, select } from '../kernel';
import { type ChromaShare, enlargedChroma, type Fields, type Siting } from './chroma';
import { type EncodingId, encodingOf, needsMatrix, toWorking } from './encodings';

/** Y′CbCr matrices that files use. */
export const MATRICES = ['bt709', 'bt601', 'bt2020', 'smpte240m'] as const;
/** One of `MATRICES`. */
export type MatrixId = (typeof MATRICES)[number];

/** Pixel format of a decoded frame. */
export interface FrameFormat {
  readonly width: number;
  readonly height: number;
  /** Red, green and blue; luma and two chroma planes; or luma alone. */
  readonly layout: 'rgb' | 'yuv' | 'gray';
  /** Luma samples per chroma sample, across and down. */
  readonly chroma: ChromaShare;
  /** Bits of a sample; `FLOAT` for floating point, whose numbers are code values as they are. */
  readonly depth: number;
  readonly alpha: boolean;
  /** Colours are stored multiplied by coverage (OpenEXR). Default: they are not. */
  readonly multiplied?: boolean;
  /** Codes use the full range (0…2ⁿ−1), not 16…235. */
  readonly full: boolean;
  readonly matrix: MatrixId;
  /** Position of chroma samples among luma samples. Default: left (MPEG-2, H.264). */
  readonly siting?: Siting;
  /** Field order of interlaced frames. Default: progressive. */
  readonly fields?: Fields;
}

/** The depth of formats whose samples are 32-bit floating point. */
export const FLOAT = 32;
/** The code of a sample that stands for 1. */
export const topCode = ({ depth }: Pick<FrameFormat, 'depth'>): number =>
  depth === FLOAT ? 1 : 2 ** depth - 1;

/** Parts of a format that people can correct, because tags may be wrong or missing. */
export type Sampling = Partial<Pick<FrameFormat, 'matrix' | 'siting' | 'fields'>>;

/** Samples of one plane, by their depth. */
export type Plane = Uint8Array | Uint16Array | Float32Array;
/** A decoded frame. */
export interface RawFrame {
  readonly format: FrameFormat;
  /** R G B, Y Cb Cr or Y, then coverage if there is any; rows tightly packed. */
  readonly planes: readonly Plane[];
  /** Content key: the footage's content hash and the frame's index. */
  readonly key: string;
}

/** Width and height of each plane. */
export function planeSizes(f: FrameFormat): [number, number][] {
  const full: [number, number] = [f.width, f.height],
    small: [number, number] = [Math.ceil(f.width / f.chroma[0]), Math.ceil(f.height / f.chroma[1])];
  const colour =
    f.layout === 'gray' ? [full] : f.layout === 'rgb' ? [full, full, full] : [full, small, small];
  return f.alpha ? [...colour, full] : colour;
}
/** Bytes of one sample. */
export const bytesPerSample = ({ depth }: FrameFormat): 1 | 2 | 4 =>
  depth === FLOAT ? 4 : depth > 8 ? 2 : 1;
const SAMPLES = { 1: Uint8Array, 2: Uint16Array, 4: Float32Array } as const;
/** Bytes of a whole frame. */
export const frameBytes = (f: FrameFormat): number =>
  planeSizes(f).reduce((n, [w, h]) => n + w * h, 0) * bytesPerSample(f);

/** Planes as views onto one buffer that holds them one after another. */
export function planesIn(buffer: ArrayBufferLike, offset: number, f: FrameFormat): Plane[] {
  let at = offset;
  return planeSizes(f).map(([w, h]) => {
    const Samples = SAMPLES[bytesPerSample(f)];
    const plane = new Samples(buffer as ArrayBuffer, at, w * h);
    at += w * h * bytesPerSample(f);
    return plane;
  });
}

/**
 * The largest number that a half float holds. Infinities of floating-point files become it, and
 * what is no number becomes 0: neither may enter a picture.
 */
export const LARGEST_HALF = 65504;
const cleaned = (v: number): number =>
  v >= -LARGEST_HALF && v <= LARGEST_HALF ? v : v > 0 ? LARGEST_HALF : v < 0 ? -LARGEST_HALF : 0;

function leaf(frame: RawFrame, indices: readonly number[], size: readonly [number, number]): Leaf {
  const scale = 1 / topCode(frame.format),
    isFloat = frame.format.depth === FLOAT;
  const [width, height] = size;
  const { format } = frame;
  return {
    kind: 'leaf',
    key: new Hasher().text(frame.key).text(JSON.stringify(format)).text(indices.join()).hex(),
    width,
    height,
    planes: indices.length,
    domain: 'none',
    load: (plane, into) => {
      const from = frame.planes[indices[plane]!]!;
      for (let y = 0; y < height; y++) {
        const row = into(y),
          start = y * width;
        if (isFloat) for (let x = 0; x < width; x++) row[x] = cleaned(from[start + x]!);
        else for (let x = 0; x < width; x++) row[x] = from[start + x]! * scale;
      }
    },
  };
}

/**
 * Weights of red and blue in luma: BT.601, BT.709, BT.2020 (non-constant luminance), SMPTE ST 240.
 */
export const WEIGHTS: Record<MatrixId, readonly [number, number]> = {
  bt601: [0.299, 0.114],
  bt709: [0.2126, 0.0722],
  bt2020: [0.2627, 0.0593],
  smpte240m: [0.212, 0.087],
};

/** Scale and offset that bring luma codes to 0…1 and chroma codes to −½…½. */
function ranges(f: FrameFormat): [number, number, number, number] {
  const top = topCode(f),
    unit = 2 ** (f.depth - 8);
  const zero = (128 * unit) / top;
  return f.full
    ? [1, 0, 1, -zero]
    : [top / (219 * unit), -16 / 219, top / (224 * unit), (-zero * top) / (224 * unit)];
}

function codesToRgb(frame: RawFrame): ImageNode {
  const { format } = frame;
  const size: [number, number] = [format.width, format.height];
  const [ys, yo, cs, co] = ranges(format);
  if (format.layout === 'rgb') {
    const codes = leaf(frame, [0, 1, 2], size);
    return imageOp({
      shape: 'rgb-codes',
      inputs: [pointwise(codes)],
      planes: 3,
      domain: 'none',
      params: [ys, yo],
      build: (b) => b.pixel(0).map((c) => c.mul(b.param(0)).add(b.param(1))),
    });
  }
  const y = leaf(frame, [0], size);
  if (format.layout === 'gray')
    return imageOp({
      shape: 'gray-codes',
      inputs: [pointwise(y)],
      planes: 3,
      domain: 'none',
      params: [ys, yo],
      build: (b) => {
        const v = b.pixel(0)[0]!.mul(b.param(0)).add(b.param(1));
        return [v, v, v];
      },
    });
  const { siting = 'left', fields = 'none' } = format;
  const c = enlargedChroma(leaf(frame, [1, 2], planeSizes(format)[1]!), ...size, {
    chroma: format.chroma,
    siting,
    fields,
  });
  const [kr, kb] = WEIGHTS[format.matrix],
    kg = 1 - kr - kb;
  return imageOp({
    shape: 'yuv-codes',
    inputs: [pointwise(y), pointwise(c)],
    planes: 3,
    domain: 'none',
    params: [
      ys,
      yo,
      cs,
      co,
      2 * (1 - kr),
      2 * (1 - kb),
      (-2 * (1 - kb) * kb) / kg,
      (-2 * (1 - kr) * kr) / kg,
    ],
    build: (b) => {
      const luma = b.pixel(0)[0]!.mul(b.param(0)).add(b.param(1));
      const [u, v] = b.pixel(1).map((p) => p.mul(b.param(2)).add(b.param(3))) as [Node, Node];
      return [
        luma.add(v.mul(b.param(4))),
        luma.add(u.mul(b.param(6))).add(v.mul(b.param(7))),
        luma.add(u.mul(b.param(5))),
      ];
    },
  });
}

/**
 * The frame in premultiplied linear light, BT.709 primaries, at its own size. `onCodes` is applied
 * to its code values (red, green, blue, 0…1) first.
 */
export function frameToLight(
  frame: RawFrame,
  encodingId: EncodingId,
  onCodes = (codes: ImageNode): ImageNode => codes,
): ImageNode {
  const { format } = frame;
  const cover = format.alpha
    ? leaf(frame, [frame.planes.length - 1], [format.width, format.height])
    : undefined;
  return codesToLight(onCodes(codesToRgb(frame)), encodingId, cover, format.multiplied);
}

/**
 * Code values of an encoding (three planes) as linear light, BT.709 primaries, multiplied by
 * coverage if there is any. `multiplied`: the codes are multiplied by it already; those of linear
 * light stay as they are, also where nothing covers.
 */
export function codesToLight(
  codes: ImageNode,
  encodingId: EncodingId,
  cover?: ImageNode,
  multiplied = false,
): ImageNode {
  const encoding = encodingOf(encodingId),
    asStored = multiplied && cover !== undefined;
  const m = toWorking(encoding);
  const way = [encoding.toLight ? 'table' : 'plain', needsMatrix(encoding) ? 'matrix' : ''].join(
    '-',
  );
  return imageOp({
    shape: `to-light-${way}-${cover ? 4 : 3}${asStored ? '-multiplied' : ''}`,
    inputs: [pointwise(codes), ...(cover ? [pointwise(cover)] : [])],
    planes: cover ? 4 : 3,
    domain: 'light',
    tables: encoding.toLight ? [encoding.toLight] : [],
    params: needsMatrix(encoding) ? [...m] : [],
    build: (b) => {
      let c: Pixel = b.pixel(0);
      const a = cover && b.pixel(1)[0]!;
      const light = (v: Node): Node =>
        asStored && a
          ? select(a.le(0), b.lookup(0, v), b.lookup(0, v.div(a)).mul(a))
          : b.lookup(0, v);
      if (encoding.toLight) c = c.map(light);
      if (needsMatrix(encoding)) c = matrixed(c, b);
      return a ? [...(asStored ? c : c.map((v) => v.mul(a))), a] : c;
    },
  });
}

/** A colour times the 3×3 matrix in an operation's first nine numbers. */
export const matrixed = (c: Pixel, b: Building): Pixel =>
  [0, 3, 6].map((r) =>
    c[0]!
      .mul(b.param(r))
      .add(c[1]!.mul(b.param(r + 1)))
      .add(c[2]!.mul(b.param(r + 2))),
  );
