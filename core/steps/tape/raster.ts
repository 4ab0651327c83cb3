/**
 * The raster of a line system: what all tape steps that lie directly above one another share. The picture is brought
 * there once (720 samples a line of luma and two colour differences, 480 or 576 rows, ITU-R BT.601-7), worked on there,
 * and brought back once, whatever its own size.
 */
import type { ImageNode } from '../../graph';
import type { SystemId } from '../../tape';
import { back, onto, woven } from './raster-ways';

/** One step's work on the raster in one generation: `generation` counts copies from 1. */
export type Work = (raster: ImageNode, generation: number) => ImageNode;
export interface TapeStage {
  readonly system: SystemId;
  /** The frame before any tape. */
  readonly input: ImageNode;
  /** That, on the raster. */
  readonly source: ImageNode;
  /** What one generation does, in order. */
  readonly works: readonly Work[];
  /** The raster as it is by now. */
  readonly raster: ImageNode;
}

const stages = new WeakMap<ImageNode, TapeStage>();
/** The raster that a picture was brought back from, when nothing else was done to it. */
export const tapeOf = (picture: ImageNode): TapeStage | undefined => stages.get(picture);

/** A picture brought back from its raster, which tape steps directly above go on from. */
export function shown(stage: TapeStage, as: (stage: TapeStage) => ImageNode = back): ImageNode {
  const picture = as(stage);
  stages.set(picture, stage);
  return picture;
}

/** `input` with one more piece of work on its raster. A frame that is on none yet is brought onto `system` (625 lines unless said). */
export function worked(input: ImageNode, work: Work, system?: SystemId, earlier?: ImageNode): ImageNode {
  const on = begun(input, system, earlier);
  return shown({ ...on, works: [...on.works, work], raster: work(on.raster, 1) });
}
/** With a picture half a frame `earlier` the field that comes first is of that one, where the frame is on no raster yet. */
export function begun(input: ImageNode, system?: SystemId, earlier?: ImageNode): TapeStage {
  const known = tapeOf(input);
  if (known && (system === undefined || system === known.system)) return known;
  const whole = onto(system ?? '625', input);
  const source = earlier ? woven(onto(system ?? '625', earlier), whole, system ?? '625') : whole;
  return { system: system ?? '625', input, source, works: [], raster: source };
}
