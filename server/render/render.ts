/** Renders a look over a clip's frames to the samples of a delivery. */
import type {
  Answered,
  ClipFacts,
  DialValues,
  EncodingId,
  ImageNode,
  LookDocument,
  Samples,
  SourceFrames,
} from '../../core';
import {
  clipFrame,
  frameKeyOf,
  packedForPage,
  plan,
  toCodes,
  toCoveredCodes,
  wholeRgb,
  withAnswers,
  yuv420,
} from '../../core';
import type { Engine, Image } from '../../core/engine';

const isDeep = (samples: KeptSamples): boolean => samples === 'yuv420p10le';

/** Everything a render depends on. */
export interface RenderSpec extends ClipFacts {
  readonly look?: LookDocument;
  readonly dials?: DialValues;
  readonly outEncoding: EncodingId;
  readonly width: number;
  readonly height: number;
  readonly samples: Samples;
}

/** Forms of kept frames: a delivery's samples, or `page` (red, green, blue, 255 in BT.709). */
export type KeptSamples = Samples | 'page';
/** What a frame depends on, in one of the forms. */
export type FrameSpec = Omit<RenderSpec, 'samples'> & { readonly samples: KeptSamples };

/** The samples of a frame: planes one after another, with a number of bytes per sample. */
interface Output {
  /** The picture in code values that samples are made from. */
  readonly codes: ImageNode;
  readonly bytes: 1 | 2 | 4;
  /** Pictures, and the planes to take from each, in order. */
  readonly pictures: readonly { readonly image: ImageNode; readonly planes: readonly number[] }[];
}

/** The picture of a clip's frame under its look. `answered`: pins that rows of a cut answer. */
export function pictureAt(
  sources: SourceFrames,
  frame: number,
  spec: Omit<FrameSpec, 'samples' | 'outEncoding'>,
  answered?: Answered,
): ImageNode {
  const clip = withAnswers(clipFrame(sources, spec, frame, spec), answered);
  return spec.look ? plan(spec.look, clip, spec.dials).result : clip.bedrock;
}

/** The form in which a picture is written. */
export type FrameForm = Pick<FrameSpec, 'samples' | 'outEncoding' | 'width' | 'height'>;

function outputOf(picture: ImageNode, spec: FrameForm): Output {
  if (spec.samples === 'page') {
    const codes = toCodes(picture, 'bt709');
    return { codes, bytes: 4, pictures: [{ image: packedForPage(codes), planes: [0] }] };
  }
  const covered = spec.samples.includes('a');
  const codes = covered
    ? toCoveredCodes(picture, spec.outEncoding)
    : toCodes(picture, spec.outEncoding);
  if (spec.samples.startsWith('gbr')) {
    const depth = spec.samples.endsWith('16le') ? 16 : 8;
    return {
      codes,
      bytes: depth === 8 ? 1 : 2,
      pictures: [{ image: wholeRgb(codes, depth), planes: [1, 2, 0, ...(covered ? [3] : [])] }],
    };
  }
  const deep = isDeep(spec.samples);
  const { luma, chroma, cover } = deep ? yuv420(codes, 10, 'bt2020') : yuv420(codes);
  const alone = [0];
  return {
    codes,
    bytes: deep ? 2 : 1,
    pictures: [
      { image: luma, planes: alone },
      { image: chroma, planes: [0, 1] },
      ...(cover ? [{ image: cover, planes: alone }] : []),
    ],
  };
}

/** Bytes of a frame's samples. */
export function frameBytes({
  samples,
  width,
  height,
}: Pick<FrameSpec, 'samples' | 'width' | 'height'>): number {
  if (samples === 'page') return 4 * width * height;
  const covered = samples.includes('a');
  if (samples.startsWith('gbr'))
    return (covered ? 4 : 3) * (samples.endsWith('16le') ? 2 : 1) * width * height;
  const places =
    (covered ? 2 : 1) * width * height + 2 * Math.ceil(width / 2) * Math.ceil(height / 2);
  return (isDeep(samples) ? 2 : 1) * places;
}

/** Cache key of a picture's samples. */
export const pictureKey = (picture: ImageNode, form: FrameForm): string =>
  frameKeyOf(form.samples === 'page' ? 'simd' : form.samples, form, outputOf(picture, form).codes);
/** Cache key of a frame's samples. `sources` may lack samples (`FootageReader.expected`). */
export const frameKey = (sources: SourceFrames, frame: number, spec: FrameSpec): string =>
  pictureKey(pictureAt(sources, frame, spec), spec);

/**
 * One frame's samples for the encoder: planes one after another, rows tightly packed. `sources`:
 * the frames it is made from.
 */
export const renderFrame = (
  engine: Engine,
  sources: SourceFrames,
  frame: number,
  spec: FrameSpec,
): Buffer => renderPicture(engine, pictureAt(sources, frame, spec), frame, spec);

/** The samples of a picture. `frame`: as its looks count, for what later frames need of it. */
export function renderPicture(
  engine: Engine,
  picture: ImageNode,
  frame: number,
  form: FrameForm,
): Buffer {
  const { bytes, pictures } = outputOf(picture, form);
  const images = engine.computeAll(
    pictures.map((p) => p.image),
    { frame },
  );
  const planes = images.flatMap((image, i) =>
    pictures[i]!.planes.map((plane) => [image, plane] as const),
  );
  return packed(
    engine,
    planes,
    bytes === 1 ? Uint8Array : bytes === 2 ? Uint16Array : Float32Array,
  );
}

type Samplings = Uint8ArrayConstructor | Uint16ArrayConstructor | Float32ArrayConstructor;
function packed(
  engine: Engine,
  planes: readonly (readonly [Image, number])[],
  Kind: Samplings,
): Buffer {
  const out = new Kind(planes.reduce((n, [i]) => n + i.width * i.height, 0));
  let at = 0;
  for (const [image, plane] of planes)
    for (let y = 0; y < image.height; y++) {
      out.set(engine.memory.row(image, plane, y), at);
      at += image.width;
    }
  return Buffer.from(out.buffer, out.byteOffset, out.byteLength);
}
