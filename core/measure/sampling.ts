/**
 * Frames of a clip as samples for its statistics, by the engine's own kernels, at a fixed size
 * whatever the view.
 */
import type { Engine, Planes } from '../engine';
import type { ImageNode } from '../graph';
import { type EncodingId, fitInto, frameToLight, inDomain, type RawFrame } from '../image';
import { framesPerSecond, type Rate } from '../time';
import { speedBetween } from '../trace';
import { toOklab } from './oklab';
import type { Sample } from './statistics';

/** Samples have so many lines. */
const LINES = 135,
  MOST_SAMPLES = 8;

/** Which of a clip's frames are looked at: evenly spread, the ends left out. */
export function sampledFrames(frames: number): number[] {
  const count = Math.min(MOST_SAMPLES, frames);
  return Array.from({ length: count }, (_, i) => Math.floor(((i + 0.5) * frames) / count));
}

/**
 * A frame and the one after it (if there is one), at a rate, as a sample. `pixelAspect`: width ÷
 * height of one pixel.
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

/** The same of a picture in light, of which nothing moves. */
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
  // Copies: what the engine lends is gone with its next call.
  const [own, lab, encoded] = engine.computeAll(wanted).map((image): Planes => {
    const found = engine.planes(image);
    return { ...found, planes: found.planes.map((v) => v.slice()) };
  });
  return { light: own!, lab: lab!, encoded: encoded!, moved: null };
}
