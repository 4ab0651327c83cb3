/**
 * The raster of a line system: what all tape steps that lie directly above one another share. The picture is brought
 * there once (720 samples a line of luma and two colour differences, 480 or 576 rows, ITU-R BT.601-7), worked on there,
 * and brought back once, whatever its own size.
 */
import type { Picturing } from '../../graph';
import type { SystemId } from '../../tape';
import { back, onto } from './raster-ways';

/** One step's work on the raster in one generation: `generation` counts copies from 1. */
export type Work = (raster: Picturing, generation: number) => Picturing;
export interface TapeStage {
  readonly system: SystemId;
  /** The frame before any tape. */
  readonly input: Picturing;
  /** That, on the raster. */
  readonly source: Picturing;
  /** What one generation does, in order. */
  readonly works: readonly Work[];
  /** The raster as it is by now. */
  readonly raster: Picturing;
}

const stages = new WeakMap<Picturing, TapeStage>();
/** The raster that a picture was brought back from, when nothing else was done to it. */
export const tapeOf = (picture: Picturing): TapeStage | undefined => stages.get(picture);

/** A picture brought back from its raster, which tape steps directly above go on from. */
export function shown(stage: TapeStage, as: (stage: TapeStage) => Picturing = back): Picturing {
  const picture = as(stage);
  stages.set(picture, stage);
  return picture;
}

/** `input` with one more piece of work on its raster. A frame that is on none yet is brought onto `system` (625 lines unless said). */
export function worked(input: Picturing, work: Work, system?: SystemId): Picturing {
  const on = begun(input, system);
  return shown({ ...on, works: [...on.works, work], raster: work(on.raster, 1) });
}
export function begun(input: Picturing, system?: SystemId): TapeStage {
  const known = tapeOf(input);
  if (known && (system === undefined || system === known.system)) return known;
  const source = onto(system ?? '625', input);
  return { system: system ?? '625', input, source, works: [], raster: source };
}
