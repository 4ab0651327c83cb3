/** Frames for the inspection, by the engine's own kernels. */
import type { Engine } from '../engine';
import { type EncodingId, halve, inDomain, toCodes } from '../image';
import type { Picturing } from '../plan/graph';
import type { Inspected } from './inspection';
import type { CodePlanes } from './scopes';

/** Flashes are looked for in cells of a picture of at most so many lines. */
const CELL_LINES = 64;

/** A frame before and under its look (in code values of `out`), to be looked over before the engine is used again. */
export function inspectedFrame(engine: Engine, bedrock: Picturing, result: Picturing, out: EncodingId): Inspected {
  let cells = inDomain(result, 'light');
  while (cells.height > CELL_LINES) cells = halve(cells);
  const images = engine.computeAll([toCodes(result, out), toCodes(bedrock, out), cells]);
  const [after, before, small] = images.map((image) => engine.planes(image));
  return { after: after as CodePlanes, before: before as CodePlanes, cells: small! };
}
