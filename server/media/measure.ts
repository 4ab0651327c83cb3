/** Measures the statistics of footage, or of a stretch of it, from the original at a fixed size. */
import {
  type ClipStatistics,
  type EncodingId,
  type InOut,
  type RawFrame,
  type Sample,
  sampledFrames,
  sampleOf,
  statisticsOf,
} from '../../core';
import type { Engine } from '../../core/engine';
import { frames } from './decode';
import type { Footage } from './footage';
import type { Place } from './place';

/** The statistics of footage in an encoding, or of the part `of` it. */
export async function measure(
  engine: Engine,
  place: Place,
  facts: Footage,
  encoding: EncodingId,
  of?: InOut,
): Promise<ClipStatistics> {
  const { in: first, out } = of ?? { in: 0, out: facts.frames - 1 };
  const samples: Sample[] = [];
  for (const frame of sampledFrames(out - first + 1).map((f) => first + f)) {
    const both: RawFrame[] = [];
    for await (const raw of frames(place, facts, frame, Math.min(out, frame + 1))) both.push(raw);
    samples.push(
      sampleOf(engine, both[0]!, both[1], {
        encoding,
        pixelAspect: facts.pixelAspect,
        rate: facts.rate,
      }),
    );
  }
  return statisticsOf(samples);
}
