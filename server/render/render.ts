/** A look rendered over a clip's frames, to a delivery's own samples. */
import type { ClipFacts, DialValues, EncodingId, LookDocument, SourceFrames } from '../../core';
import { clipFrame, plan, toCodes, toCoveredCodes, wholeRgb, yuv420 } from '../../core';
import type { Engine, Image } from '../../core/engine';

/** ffmpeg's names: 8-bit 4:2:0, and planar RGB of 8 or 16 bits; each without and with coverage. */
export type Samples = 'yuv420p' | 'gbrp' | 'gbrp16le' | 'yuva420p' | 'gbrap' | 'gbrap16le';

export interface RenderSpec extends ClipFacts {
  readonly look?: LookDocument;
  readonly dials?: DialValues;
  readonly outEncoding: EncodingId;
  readonly width: number;
  readonly height: number;
  readonly samples: Samples;
}

/** One frame's samples as the encoder takes them: planes one after the other, rows packed. `sources` are the frames it is made from. */
export function renderFrame(engine: Engine, sources: SourceFrames, frame: number, spec: RenderSpec): Buffer {
  const clip = clipFrame(sources, spec, frame, spec);
  const picture = spec.look ? plan(spec.look, clip, spec.dials).result : clip.bedrock;
  const covered = spec.samples.includes('a');
  const codes = covered ? toCoveredCodes(picture, spec.outEncoding) : toCodes(picture, spec.outEncoding);
  if (spec.samples.startsWith('gbr')) {
    const depth = spec.samples.endsWith('16le') ? 16 : 8;
    const image = engine.compute(wholeRgb(codes, depth), { frame });
    const planes = [1, 2, 0, ...(covered ? [3] : [])];
    return packed(
      engine,
      planes.map((p) => [image, p]),
      depth === 8 ? Uint8Array : Uint16Array,
    );
  }
  const { luma, chroma, cover } = yuv420(codes);
  const [y, c, a] = engine.computeAll([luma, chroma, ...(cover ? [cover] : [])], { frame });
  return packed(engine, [[y!, 0], [c!, 0], [c!, 1], ...(a ? [[a, 0] as const] : [])], Uint8Array);
}

function packed(engine: Engine, planes: readonly (readonly [Image, number])[], Kind: Uint8ArrayConstructor | Uint16ArrayConstructor): Buffer {
  const out = new Kind(planes.reduce((n, [i]) => n + i.width * i.height, 0));
  let at = 0;
  for (const [image, plane] of planes)
    for (let y = 0; y < image.height; y++) {
      out.set(engine.memory.row(image, plane, y), at);
      at += image.width;
    }
  return Buffer.from(out.buffer, out.byteOffset, out.byteLength);
}
