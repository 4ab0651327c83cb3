/** A declared step at work on a picture. */
import { pointwise, layoutName, imageOp, type ImageNode } from '../graph';
import { blend2, inDomain, onColour } from '../image';
import { column, type Pixel, row, toFloat } from '../kernel';
import type { Values } from '../parameters';
import type { FrameContext, PixelStep, Step } from './declare';

function pixelStep(step: PixelStep, input: ImageNode, v: Values, at: FrameContext): ImageNode {
  if (step.idle?.(v)) return input;
  const numbers = step.numbers(v, at);
  const n = numbers.length,
    lines = 1080 / at.height;
  const planes = step.planes?.(input.planes) ?? input.planes;
  const tables = step.tables?.(v, at) ?? [];
  return imageOp({
    shape: `${step.id}-${step.variant?.(v, at) ?? ''}-${input.planes}${tables.length > 0 ? `-${tables.map((t) => layoutName(t.layout)).join('+')}` : ''}`,
    inputs: [pointwise(input)],
    planes,
    domain: input.domain,
    params: [...numbers, lines, (0.5 - at.width / 2) * lines, (0.5 - at.height / 2) * lines],
    ints: [at.seed, at.frame],
    tables,
    build: (b) => {
      const tools = {
        n: (i: number) => b.param(i),
        curve: (i: number, x: Parameters<typeof b.lookup>[1]) => b.lookup(i, x),
        cube: (i: number, c: Pixel) => b.cube(i, c),
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
          return b.int(0);
        },
        get frame() {
          return b.int(1);
        },
      };
      const f = (c: Pixel): Pixel => step.pixel(c, tools, v, at);
      return step.covering ? f(b.pixel(0)) : onColour(b.pixel(0), f);
    },
  });
}

/** The step's result on `input`, mixed with it by `mix` (0…1) and as far as a matte covers, in the step's own domain. */
export function lowerStep(step: Step, input: ImageNode, values: Values, mix: number, at: FrameContext, matte?: ImageNode): ImageNode {
  if (mix === 0) return input;
  const taken = inDomain(input, step.domain);
  const out = 'build' in step ? step.build(taken, values, at) : pixelStep(step, taken, values, at);
  if (out === taken) return input;
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
