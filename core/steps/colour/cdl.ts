import {
  type EncodingId,
  encodingOf,
  fromWorking,
  needsMatrix,
  SRGB_DECODE,
  SRGB_ENCODE,
  toWorking,
} from '../../image';
import { fine, type Node, type Pixel, pow, select, type TableSpec } from '../../kernel';
import { choice, type Colour, flag, number, type ValuesOf } from '../../parameters';
import { FrameContext, pixelStep, PixelTools } from '../declare';
import { saturated } from './hues';

const RGB = [
  ['red', 'red'],
  ['green', 'green'],
  ['blue', 'blue'],
] as const;

/**
 * Spaces that the numbers of a colour decision list act in: the working encoded curve, the clip's
 * own code values, or ACEScct.
 */
export const CDL_SPACES = {
  srgb: 'working sRGB',
  clip: 'the clip’s code values',
  acescct: 'ACEScct',
} as const;
/** One of `CDL_SPACES`. */
export type CdlSpace = keyof typeof CDL_SPACES;
/** The encoding of a space. */
export const cdlEncoding = (space: CdlSpace, clip: EncodingId = 'srgb'): EncodingId =>
  space === 'clip' ? clip : space;

/** The ten numbers of a colour decision list. */
export interface CdlNumbers {
  readonly slope: Colour;
  readonly offset: Colour;
  readonly power: Colour;
  readonly saturation: number;
}
/** The numbers in the order that `cdlFormula` reads them. */
export const cdlList = ({ slope, offset, power, saturation }: CdlNumbers): number[] => [
  ...slope,
  ...offset,
  ...power,
  saturation,
];
const PARAMETERS = [
  ...RGB.map(([id, word]) => number(`slope-${id}`, `Slope ${word}`, '', 0, 8, 1, { soft: [0, 2] })),
  ...RGB.map(([id, word]) =>
    number(`offset-${id}`, `Offset ${word}`, '', -2, 2, 0, { soft: [-0.5, 0.5] }),
  ),
  ...RGB.map(([id, word]) =>
    number(`power-${id}`, `Power ${word}`, '', 0.05, 8, 1, { soft: [0.25, 4] }),
  ),
  number('saturation', 'Saturation', '', 0, 4, 1, { soft: [0, 2] }),
  choice('acts-on', 'Acts on', CDL_SPACES, 'srgb', {
    help: 'Lists from files are meant for the clip’s code values, unless their maker says otherwise.',
  }),
  flag('hold', 'Hold to 0–1', false, {
    help: 'As the standard has it; off, light beyond white survives.',
  }),
] as const;
type CdlValues = ValuesOf<typeof PARAMETERS>;
const listOf = (v: CdlValues): number[] => [
  ...(['slope', 'offset', 'power'] as const).flatMap((what) =>
    RGB.map(([id]) => v[`${what}-${id}`]),
  ),
  v.saturation,
];

/** The properties of a list that change its expression. */
export interface CdlKind {
  /** Clamped to 0…1 as in the standard. */
  readonly hold: boolean;
  /** At least one power is not 1. */
  readonly bent: boolean;
}
/** The kind of a list of numbers. */
export const cdlKind = (list: readonly number[], hold: boolean): CdlKind => ({
  hold,
  bent: list.slice(6, 9).some((p) => p !== 1),
});
/** The kind as a part of a shape's name. */
export const cdlVariant = ({ hold, bent }: CdlKind): string =>
  `${hold ? 'held' : 'free'}-${bent ? 'bent' : 'straight'}`;

/**
 * ASC Color Decision List 1.2: (x · slope + offset) to the power, then saturation about BT.709
 * luma. With `hold`, clamped to 0…1 before the power and at the end as in the standard; without,
 * values below 0 skip the power.
 */
export function cdlFormula(c: Pixel, n: (i: number) => Node, { hold, bent }: CdlKind): Pixel {
  const held = (x: Node) => (hold ? x.clamp(0, 1) : x);
  const graded = c.map((x, i) => {
    const line = held(x.mul(n(i)).add(n(3 + i)));
    if (!bent) return line;
    return select(
      n(6 + i)
        .eq(1)
        .or(line.le(0)),
      line,
      pow(line, n(6 + i)),
    );
  });
  return saturated(graded, n(9)).map(held);
}

const NEUTRAL = cdlList({ slope: [1, 1, 1], offset: [0, 0, 0], power: [1, 1, 1], saturation: 1 });
const actsOn = (v: CdlValues, at: FrameContext): EncodingId =>
  cdlEncoding(v['acts-on'], at.encoding);
const kindOf = (v: CdlValues): CdlKind => cdlKind(listOf(v), v.hold);

/** Tables from the working encoded curve to an encoding's code values, and back. */
function conversions(id: EncodingId): { there: TableSpec[]; back: TableSpec[] } {
  if (id === 'srgb') return { there: [], back: [] };
  const { fromLight, toLight } = encodingOf(id);
  return {
    there: [fine(SRGB_DECODE), ...(fromLight ? [fine(fromLight)] : [])],
    back: [...(toLight ? [fine(toLight)] : []), fine(SRGB_ENCODE)],
  };
}

const matrixed = (c: Pixel, t: PixelTools, first: number): Pixel =>
  [0, 3, 6].map((r) =>
    c[0]!
      .mul(t.n(first + r))
      .add(c[1]!.mul(t.n(first + r + 1)))
      .add(c[2]!.mul(t.n(first + r + 2))),
  );

/** Numbers: the list's ten, then the matrices to the primaries it acts in and back. */
export const cdl = pixelStep({
  id: 'cdl',
  family: 'colour',
  label: 'CDL',
  help: 'Slope, offset, power and saturation, as colour decision lists carry them.',
  domain: 'encoded',
  example: { 'slope-red': 1.35, 'slope-blue': 0.7 },
  parameters: PARAMETERS,
  grid: {
    columns: ['Red', 'Green', 'Blue'],
    rows: ['slope', 'offset', 'power'].map((what) => ({
      label: `${what[0]!.toUpperCase()}${what.slice(1)}`,
      ids: RGB.map(([id]) => `${what}-${id}`),
    })),
  },
  exchange: 'cdl',
  idle: (v) => !v.hold && listOf(v).every((n, i) => n === NEUTRAL[i]),
  numbers: (v, at) => {
    const encoding = encodingOf(actsOn(v, at));
    return [...listOf(v), ...fromWorking(encoding), ...toWorking(encoding)];
  },
  tables: (v, at) => {
    const { there, back } = conversions(actsOn(v, at));
    return [...there, ...back];
  },
  variant: (v, at) => `${cdlVariant(kindOf(v))}-${actsOn(v, at)}`,
  pixel: (c, t, v, at) => {
    const id = actsOn(v, at),
      { there, back } = conversions(id);
    const matrix = needsMatrix(encodingOf(id));
    const through = (x: Pixel, first: number): Pixel => x.map((ch) => t.curve(first, ch));
    let x = c;
    there.forEach((_, i) => {
      x = through(x, i);
      if (i === 0 && matrix) x = matrixed(x, t, 10);
    });
    x = cdlFormula(x, (i) => t.n(i), kindOf(v));
    back.forEach((_, i) => {
      if (i === back.length - 1 && matrix) x = matrixed(x, t, 19);
      x = through(x, there.length + i);
    });
    return x;
  },
});
