/**
 * Conversion between encoded BT.709, linear light and Oklab (Ottosson, 2020), in double precision.
 */
import { powd } from '../kernel';

type Three = readonly [number, number, number];

// The sRGB curve (IEC 61966-2-1), odd-symmetric about 0, continued above 1.
const toLight = (v: number): number =>
  v < 0 ? -toLight(-v) : v <= 0.04045 ? v / 12.92 : powd((v + 0.055) / 1.055, 2.4);
const toCode = (v: number): number =>
  v < 0 ? -toCode(-v) : v <= 0.0031308 ? v * 12.92 : 1.055 * powd(v, 1 / 2.4) - 0.055;
const cbrtd = (v: number): number => (v < 0 ? -powd(-v, 1 / 3) : powd(v, 1 / 3));
const cube = (v: number): number => v * v * v;

/** Encoded red, green and blue as Oklab L, a, b; as linear light if `even` is false. */
export function rgbToOklab(colour: Three, even = true): Three {
  const [r, g, b] = colour.map(toLight) as unknown as Three;
  if (!even) return [r, g, b];
  const l = cbrtd(0.4122214708 * r + 0.5363325363 * g + 0.0514459929 * b),
    m = cbrtd(0.2119034982 * r + 0.6806995451 * g + 0.1073969566 * b),
    s = cbrtd(0.0883024619 * r + 0.2817188376 * g + 0.6299787005 * b);
  return [
    0.2104542553 * l + 0.793617785 * m - 0.0040720468 * s,
    1.9779984951 * l - 2.428592205 * m + 0.4505937099 * s,
    0.0259040371 * l + 0.7827717662 * m - 0.808675766 * s,
  ];
}

/** The inverse of `rgbToOklab`. */
export function oklabToRgb([L, a, b]: Three, even = true): Three {
  if (!even) return [toCode(L), toCode(a), toCode(b)];
  const l = cube(L + 0.3963377774 * a + 0.2158037573 * b),
    m = cube(L - 0.1055613458 * a - 0.0638541728 * b),
    s = cube(L - 0.0894841775 * a - 1.291485548 * b);
  return [
    toCode(4.0767416621 * l - 3.3077115913 * m + 0.2309699292 * s),
    toCode(-1.2684380046 * l + 2.6097574011 * m - 0.3413193965 * s),
    toCode(-0.0041960863 * l - 0.7034186147 * m + 1.707614701 * s),
  ];
}
