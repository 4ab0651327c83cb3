/** A clip's own correction before any look: a colour decision list. */
import { pointwise, imageOp, type ImageNode } from '../graph';
import { type EncodingId, encodingOf, SRGB_DECODE, SRGB_ENCODE, toWorking } from '../image';
import { powd } from '../kernel';
import type { Colour, Values } from '../parameters';
import {
  lowerStep,
  cdlEncoding,
  cdlFormula,
  cdlKind,
  cdlList,
  type CdlNumbers,
  type CdlSpace,
  cdlVariant,
  stepOf,
} from '../steps';

/** The ten numbers of an ASC CDL, with the colour space they act in. */
export interface Balance extends CdlNumbers {
  /** The space the numbers act in. Default: the working encoded curve. */
  readonly on?: CdlSpace;
  /** Whether results are clamped to 0…1, as the standard does. Default: not clamped. */
  readonly hold?: boolean;
}

const CHANNELS = ['red', 'green', 'blue'] as const;
/** A balance as the values of the step *CDL*. */
export const balanceValues = ({
  slope,
  offset,
  power,
  saturation,
  on = 'srgb',
  hold = false,
}: Balance): Values => ({
  ...Object.fromEntries(
    Object.entries({ slope, offset, power }).flatMap(([what, three]) =>
      CHANNELS.map((c, i) => [`${what}-${c}`, three[i]!] as const),
    ),
  ),
  saturation,
  'acts-on': on,
  hold,
});

/**
 * The picture (in the look frame) with the balance applied. A balance that acts on code values is
 * left out here: `balancedCodes` has applied it already.
 */
export function balanced(picture: ImageNode, balance: Balance | null): ImageNode {
  if (!balance || balance.on === 'clip') return picture;
  const at = {
    frame: 0,
    seconds: 0,
    rate: [25, 1] as const,
    seed: 0,
    width: picture.width,
    height: picture.height,
  };
  return lowerStep(stepOf('cdl')!, picture, balanceValues(balance), 1, at);
}

/** A clip's code values (three planes, 0…1) with a balance that acts on code values applied. */
export function balancedCodes(codes: ImageNode, balance: Balance | null): ImageNode {
  if (balance?.on !== 'clip') return codes;
  const list = cdlList(balance),
    kind = cdlKind(list, balance.hold ?? false);
  return imageOp({
    shape: `balanced-codes-${cdlVariant(kind)}`,
    inputs: [pointwise(codes)],
    planes: 3,
    domain: 'none',
    params: list,
    build: (b) => cdlFormula(b.pixel(0), (i) => b.param(i), kind),
  });
}

/**
 * The value that a grey takes under a balance, per channel. Both are on the working encoded curve.
 * Saturation does not change greys, so it is ignored.
 */
export function greyUnder(
  grey: number,
  { slope, offset, power, on = 'srgb', hold = false }: Balance,
  clip: EncodingId,
): Colour {
  const encoding = encodingOf(cdlEncoding(on, clip)),
    { fromLight, toLight } = encoding;
  const held = (v: number): number => Math.max(0, hold ? Math.min(1, v) : v);
  const light = SRGB_DECODE.fn(grey),
    code = fromLight ? fromLight.fn(light) : light;
  const lit = ([0, 1, 2] as const).map((i) => {
    const out = powd(held(code * slope[i] + offset[i]), power[i]);
    return toLight ? toLight.fn(out) : out;
  });
  const m = toWorking(encoding);
  const under = (row: 0 | 3 | 6): number =>
    SRGB_ENCODE.fn(m[row]! * lit[0]! + m[row + 1]! * lit[1]! + m[row + 2]! * lit[2]!);
  return [under(0), under(3), under(6)];
}
