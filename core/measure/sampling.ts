/** Computes samples of a clip's frames for its statistics with the engine, at a fixed size. */
import type { Engine, Planes } from '../engine';
import type { ImageNode } from '../graph';
import { type EncodingId, fitInto, frameToLight, inDomain, type RawFrame } from '../image';
import { framesPerSecond, type Rate } from '../time';
import { speedBetween } from '../trace';
import { toOklab } from './oklab';
import type { Sample } from './statistics';

/** Height of samples in lines, and the most frames sampled. */
const LINES = 135,
  MOST_SAMPLES = 8;

/** Frames of a clip that are sampled: evenly spread, without the ends. */
export function sampledFrames(frames: number): number[] {
  const count = Math.min(MOST_SAMPLES, frames);
  return Array.from({ length: count }, (_, i) => Math.floor(((i + 0.5) * frames) / count));
}

/**
 * A sample of a frame and the one after it (if any). `pixelAspect`: width ÷ height of one pixel.
 */
export function sampleOf(
  engine: Engine,
  raw: RawFrame,
  next: RawFrame | undefined,
  {
    encoding,
    pixelAspect,
    rate,
  }: { readonly encoding: EncodingId; readonly pixelAspect: number; readonly rate: Rate },
): Sample {
  const moved = next ? (speedBetween(raw, next) / LINES_OF_FRAME) * framesPerSecond(rate) : null;
  return { ...sampleOfLight(engine, frameToLight(raw, encoding), pixelAspect), moved };
}
const LINES_OF_FRAME = 1080;

/** A sample of a picture in linear light, without motion. */
export function sampleOfLight(engine: Engine, light: ImageNode, pixelAspect: number): Sample {
  const { width, height } = light;
  const lines = Math.min(LINES, height);
  const small = (picture: ImageNode) =>
    fitInto(picture, Math.max(1, Math.round((width * pixelAspect * lines) / height)), lines, {
      fit: 'fill',
      aspect: pixelAspect,
    });
  const fitted = small(light);
  const wanted = [fitted, toOklab(fitted), inDomain(light, 'encoded')];
  // Copies, because the engine's results are valid until its next call only.
  const [own, lab, encoded] = engine.computeAll(wanted).map((image): Planes => {
    const found = engine.planes(image);
    return { ...found, planes: found.planes.map((v) => v.slice()) };
  });
  return { light: own!, lab: lab!, encoded: encoded!, moved: null };
}
