/**
 * The raster of a line system, shared by adjacent tape steps. The picture is converted to it once
 * (720 samples per line of luma and two colour differences, 480 or 576 rows, ITU-R BT.601-7),
 * processed there, and converted back once, whatever its own size.
 */
import type { ImageNode } from '../../graph';
import type { SystemId } from '../../tape';
import { back, onto, woven } from './raster-ways';

/** One step's work on the raster in one generation. `generation` counts copies from 1. */
export type Work = (raster: ImageNode, generation: number) => ImageNode;
/** The state that adjacent tape steps share. */
export interface TapeStage {
  readonly system: SystemId;
  /** The frame before any tape step. */
  readonly input: ImageNode;
  /** That frame on the raster. */
  readonly source: ImageNode;
  /** Work of one generation, in order. */
  readonly works: readonly Work[];
  /** The raster after all work so far. */
  readonly raster: ImageNode;
}

const stages = new WeakMap<ImageNode, TapeStage>();
/** The raster that a picture was converted from, if nothing else was done to it. */
export const tapeOf = (picture: ImageNode): TapeStage | undefined => stages.get(picture);

/** A picture converted from its raster, which tape steps directly above continue with. */
export function shown(stage: TapeStage, as: (stage: TapeStage) => ImageNode = back): ImageNode {
  const picture = as(stage);
  stages.set(picture, stage);
  return picture;
}

/**
 * `input` with one more piece of work on its raster. A frame without a raster is first converted to
 * `system` (default: 625 lines).
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
/** Contents of a frame's two fields: the one that comes first, and the other. */
export type Fields = readonly [first: ImageNode, second: ImageNode];

/** The raster state of a picture; a new one if it has none, woven from `fields` if given. */
export function begun(input: ImageNode, system?: SystemId, fields?: Fields): TapeStage {
  const known = tapeOf(input);
  if (known && (system === undefined || system === known.system)) return known;
  const on = system ?? '625';
  const source = fields ? woven(onto(on, fields[0]), onto(on, fields[1]), on) : onto(on, input);
  return { system: on, input, source, works: [], raster: source };
}
