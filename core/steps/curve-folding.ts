/**
 * Lowers a run of steps. Adjacent steps that act on each channel separately, and are expensive
 * together, are computed once over a ramp of values and then looked up per pixel: a few lookups
 * replace any number of powers. The look alone decides this.
 */
import { stencil, pointwise, imageOp, type ImageNode } from '../graph';
import { leaf, onColour } from '../image';
import {
  asFloat,
  asInt,
  fetch,
  iadd,
  iand,
  int,
  ishr,
  type Node,
  select,
  toFloat,
  wholeToInt,
} from '../kernel';
import type { Values } from '../parameters';
import { lowerStep } from './lower';
import type { FrameContext, Step } from './declare';

/** A step as a layer uses it. */
export interface Use {
  readonly step: Step;
  readonly values: Values;
  /** Share of the result, 0…1. */
  readonly mix: number;
  readonly at: FrameContext;
  /** Where it acts, one plane. Default: everywhere. */
  readonly matte?: ImageNode | undefined;
}

/** Operations per channel from which looking up is faster. */
const WORTH = 60;

const costOf = ({ step, values, mix, matte }: Use): number | undefined =>
  'pixel' in step && mix === 1 && !matte && step.domain === 'encoded'
    ? step.channelwise?.(values)
    : undefined;

/** `input` through the steps one after another. */
export function lowerSteps(uses: readonly Use[], input: ImageNode): ImageNode {
  let picture = input;
  for (let i = 0; i < uses.length;) {
    let end = i,
      cost = 0;
    for (
      let next: number | undefined;
      end < uses.length && (next = costOf(uses[end]!)) !== undefined;
      end++
    )
      cost += next;
    if (cost >= WORTH && picture.planes >= 3) {
      picture = looked(uses.slice(i, end), picture);
      i = end;
    } else {
      const stop = Math.max(end, i + 1);
      for (; i < stop; i++)
        picture = lowerStep(
          uses[i]!.step,
          picture,
          uses[i]!.values,
          uses[i]!.mix,
          uses[i]!.at,
          uses[i]!.matte,
        );
    }
  }
  return picture;
}

/** Entries of the ramp: steps of 1/8192 over −½…1½; beyond, 256 per octave of |x|, up to 2¹⁷. */
const LOW = -0.5,
  HIGH = 1.5,
  PER_UNIT = 8192,
  TOP = 17;
const MIDDLE = (HIGH - LOW) * PER_UNIT + 1;
/** Index of an entry from the top bits of a float: exponent and 8 bits of mantissa. */
const placeOf = (x: number): number => (new Int32Array(Float32Array.of(x).buffer)[0]! >> 15) | 0;
const POSITIVE = {
  first: MIDDLE,
  from: placeOf(HIGH),
  count: placeOf(2 ** TOP) - placeOf(HIGH) + 1,
};
const NEGATIVE = {
  first: MIDDLE + POSITIVE.count,
  from: placeOf(-LOW),
  count: placeOf(2 ** TOP) - placeOf(-LOW) + 1,
};
const SIDE = 256;
const ROWS = Math.ceil((NEGATIVE.first + NEGATIVE.count) / SIDE);

const valueAt = (place: number): number => new Float32Array(Int32Array.of(place << 15).buffer)[0]!;
function entry(i: number): number {
  if (i < MIDDLE) return LOW + i / PER_UNIT;
  if (i < NEGATIVE.first) return valueAt(i - POSITIVE.first + POSITIVE.from);
  return -valueAt(Math.min(NEGATIVE.count - 1, i - NEGATIVE.first) + NEGATIVE.from);
}

let ramp: ImageNode | undefined;
/**
 * All entries, equal in three planes, in rows of 256 plus the first entry of the next row, so that
 * neighbours are adjacent.
 */
function rampPicture(): ImageNode {
  if (ramp) return ramp;
  const width = SIDE + 1;
  const entries = Float32Array.from({ length: width * ROWS }, (_, i) =>
    entry(Math.floor(i / width) * SIDE + (i % width)),
  );
  return (ramp = leaf([entries, entries, entries], width, ROWS, 'encoded', RAMP));
}
const RAMP = 'chain-ramp';
/** Whether a picture is the ramp for curve folding: a table, not a visible picture. */
export const isRamp = (p: ImageNode): boolean => p.key === RAMP;

const choose = (when: Node, a: Node, b: Node): Node => asInt(select(when, asFloat(a), asFloat(b)));

/** Position of a value among the entries: an index and the fraction to the next. */
function placed(x: Node): { index: Node; part: Node } {
  const middle = x.lt(LOW).or(x.lt(HIGH).not()).not();
  const at = x.max(LOW).min(HIGH).sub(LOW).mul(PER_UNIT),
    whole = at.floor();
  const bits = asInt(
    x
      .abs()
      .max(-LOW)
      .min(Math.fround(2 ** TOP * (1 - 2 ** -24))),
  );
  const far = iadd(
    ishr(bits, 15),
    choose(x.lt(0), int(NEGATIVE.first - NEGATIVE.from), int(POSITIVE.first - POSITIVE.from)),
  );
  return {
    index: choose(middle, wholeToInt(whole), far),
    part: select(middle, at.sub(whole), toFloat(iand(bits, 0x7fff)).mul(2 ** -15)),
  };
}

function looked(uses: readonly Use[], input: ImageNode): ImageNode {
  const table = uses.reduce((now, u) => lowerStep(u.step, now, u.values, 1, u.at), rampPicture());
  if (table === rampPicture()) return input;
  return imageOp({
    shape: `looked-${input.planes}`,
    inputs: [pointwise(input), stencil(table)],
    planes: input.planes,
    domain: 'encoded',
    build: (b) => {
      return onColour(b.pixel(0), (c) =>
        c.map((x, plane) => {
          const { index, part } = placed(x);
          const [along, row] = [iand(index, SIDE - 1), ishr(index, 8)];
          const here = fetch(b.image(1), plane, along, row);
          return here.add(fetch(b.image(1), plane, iadd(along, 1), row).sub(here).mul(part));
        }),
      );
    },
  });
}
