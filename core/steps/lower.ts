/** Lowers a declared step to operations. */
import {
  type Building,
  buildingAt,
  pointwise,
  layoutName,
  imageOp,
  type ImageNode,
  type ImageOp,
} from '../graph';
import { blend2, inDomain, onColour } from '../image';
import { building, column, input, type Pixel, row, tap, toFloat } from '../kernel';
import type { Values } from '../parameters';
import type { FrameContext, PixelStep, PixelTools, Step } from './declare';

/**
 * Whether the pixels of a shape read the seed (0) and the frame (1); found once per shape by
 * building it.
 */
const read = new Map<string, readonly number[]>();
function readBy(shape: string, op: ImageOp): readonly number[] {
  const known = read.get(shape);
  if (known) return known;
  const found = new Set<number>();
  building(() => {
    const none = { params: 0, ints: 0, tables: 0 };
    const pixel = (i: number): Pixel =>
      Array.from({ length: op.inputs[i]!.from.planes }, (_, p) => input(i, p));
    const b = buildingAt(op, none, pixel, (i) => i, tap);
    op.build({ ...b, int: (i) => (found.add(i), b.int(i)) });
  });
  const all = [0, 1].filter((i) => found.has(i));
  read.set(shape, all);
  return all;
}

/**
 * A pixel step. Seed and frame are part of its key only if its pixels read them, so that frames
 * share everything else.
 */
function pixelStep(step: PixelStep, from: ImageNode, v: Values, at: FrameContext): ImageNode {
  if (step.idle?.(v)) return from;
  const numbers = step.numbers(v, at);
  const n = numbers.length,
    lines = 1080 / at.height;
  const tables = step.tables?.(v, at) ?? [];
  const layouts = tables.length > 0 ? `-${tables.map((t) => layoutName(t.layout)).join('+')}` : '';
  const shape = `${step.id}-${step.variant?.(v, at) ?? ''}-${from.planes}${layouts}`;
  const made = (ints: readonly number[]): ImageOp =>
    imageOp({
      shape,
      inputs: [pointwise(from)],
      planes: step.planes?.(from.planes) ?? from.planes,
      domain: from.domain,
      params: [...numbers, lines, (0.5 - at.width / 2) * lines, (0.5 - at.height / 2) * lines],
      ints: ints.map((i) => [at.seed, at.frame][i]!),
      tables,
      build: (b) => {
        const f = (c: Pixel): Pixel => step.pixel(c, toolsOf(b, n, ints), v, at);
        return step.covering ? f(b.pixel(0)) : onColour(b.pixel(0), f);
      },
    });
  return made(readBy(shape, made([0, 1])));
}

/**
 * The tools of a step's expression: its `n` numbers, places in lines from the middle, and the
 * integers seed and frame.
 */
const toolsOf = (b: Building, n: number, ints: readonly number[]): PixelTools => ({
  n: (i) => b.param(i),
  curve: (i, x) => b.lookup(i, x),
  cube: (i, c) => b.cube(i, c),
  get x() {
    return toFloat(column())
      .mul(b.param(n))
      .add(b.param(n + 1));
  },
  get y() {
    return toFloat(row())
      .mul(b.param(n))
      .add(b.param(n + 2));
  },
  get seed() {
    return b.int(ints.indexOf(0));
  },
  get frame() {
    return b.int(ints.indexOf(1));
  },
});

/**
 * The step's result on `from`, mixed with it by `mix` (0…1) times a matte, in the step's own
 * domain.
 */
export function lowerStep(
  step: Step,
  from: ImageNode,
  values: Values,
  mix: number,
  at: FrameContext,
  matte?: ImageNode,
): ImageNode {
  if (mix === 0) return from;
  const taken = inDomain(from, step.domain);
  const out = 'build' in step ? step.build(taken, values, at) : pixelStep(step, taken, values, at);
  if (out === taken) return from;
  if (matte)
    return imageOp({
      shape: `mix-by-${taken.planes}-${out.planes}`,
      inputs: [pointwise(taken), pointwise(out), pointwise(matte)],
      planes: Math.max(taken.planes, out.planes),
      domain: out.domain,
      params: [mix],
      build: (b) => blend2(b.pixel(0), b.pixel(1), b.pixel(2)[0]!.mul(b.param(0))),
    });
  if (mix === 1) return out;
  return imageOp({
    shape: `mix-${taken.planes}-${out.planes}`,
    inputs: [pointwise(taken), pointwise(out)],
    planes: Math.max(taken.planes, out.planes),
    domain: out.domain,
    params: [mix],
    build: (b) => blend2(b.pixel(0), b.pixel(1), b.param(0)),
  });
}
