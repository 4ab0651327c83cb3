/**
 * The raster of a line system: what all tape steps that lie directly above one another share. The
 * picture is brought there once (720 samples a line of luma and two colour differences, 480 or 576
 * rows, ITU-R BT.601-7), worked on there, and brought back once, whatever its own size.
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

/**
 * `input` with one more piece of work on its raster. A frame that is on none yet is brought onto
 * `system` (625 lines unless said).
 */
export function worked(
  input: ImageNode,
  work: Work,
  system?: SystemId,
  fields?: Fields,
): ImageNode {
  const on = begun(input, system, fields);
  return shown({ ...on, works: [...on.works, work], raster: work(on.raster, 1) });
}
/** What the two fields of a frame show: that which comes first, and the other. */
export type Fields = readonly [first: ImageNode, second: ImageNode];

/** The frame is woven of `fields`, where they are given and it is on no raster yet. */
export function begun(input: ImageNode, system?: SystemId, fields?: Fields): TapeStage {
  const known = tapeOf(input);
  if (known && (system === undefined || system === known.system)) return known;
  const on = system ?? '625';
  const source = fields ? woven(onto(on, fields[0]), onto(on, fields[1]), on) : onto(on, input);
  return { system: on, input, source, works: [], raster: source };
}
