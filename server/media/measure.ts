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

/** A stretch of up to this many pixels is read once; in a larger one each sample is sought. */
const READ_THROUGH = 250_000_000;

/** Pairs of a wanted frame and the one after it (none after the last), in order. */
async function* pairs(
  place: Place,
  facts: Footage,
  wanted: readonly number[],
  out: number,
): AsyncGenerator<readonly RawFrame[]> {
  const last = (frame: number): number => Math.min(out, frame + 1);
  const [from, to] = [wanted[0]!, last(wanted.at(-1)!)];
  const runs =
    (to - from + 1) * facts.format.width * facts.format.height <= READ_THROUGH
      ? [[from, to] as const]
      : wanted.map((f) => [f, last(f)] as const);
  for (const [first, end] of runs) {
    let frame = first,
      before: RawFrame | undefined;
    for await (const raw of frames(place, facts, first, end)) {
      if (before) yield [before, raw];
      before = wanted.includes(frame) ? raw : undefined;
      if (before && frame === out) yield [before];
      frame++;
    }
  }
}

/** The statistics of footage in an encoding, or of the part `of` it. */
export async function measure(
  engine: Engine,
  place: Place,
  facts: Footage,
  encoding: EncodingId,
  of?: InOut,
): Promise<ClipStatistics> {
  const { in: first, out } = of ?? { in: 0, out: facts.frames - 1 };
  const wanted = sampledFrames(out - first + 1).map((f) => first + f);
  const samples: Sample[] = [];
  for await (const [raw, next] of pairs(place, facts, wanted, out))
    samples.push(
      sampleOf(engine, raw!, next, {
        encoding,
        pixelAspect: facts.pixelAspect,
        rate: facts.rate,
      }),
    );
  return statisticsOf(samples);
}
