/** Numbers picked from a colour of the picture. */
import type { Colour, NumberParameter } from '../parameters';

const lumaOf = (c: Colour): number => 0.2126 * c[0] + 0.7152 * c[1] + 0.0722 * c[2];

/** The hexagonal hue in degrees, as in kernels; 0 for greys. */
export function hueDegrees([r, g, b]: Colour): number {
  const most = Math.max(r, g, b),
    chroma = most - Math.min(r, g, b);
  if (chroma < 1e-6) return 0;
  const sixths =
    most === r ? (g - b) / chroma : most === g ? (b - r) / chroma + 2 : (r - g) / chroma + 4;
  return ((sixths + 6) % 6) * 60;
}

/** A parameter's value from a colour, clamped to its range and rounded to a thousandth. */
export function pickedNumber(
  p: NumberParameter,
  colour: { readonly light: Colour; readonly encoded: Colour },
): number {
  const v =
    p.picked === 'hue'
      ? hueDegrees(colour.encoded)
      : lumaOf(p.picked === 'light' ? colour.light : colour.encoded);
  return Math.round(Math.max(p.min, Math.min(p.max, v)) * 1000) / 1000;
}
