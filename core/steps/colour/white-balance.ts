import { adaptation, BT709, D65, invert, type Matrix, multiply, toXyz } from '../../image/matrix';
import { num, number, type PixelStep, type Values } from '../declare';

/** CIE daylight locus (CIE 15:2004): chromaticity at a correlated temperature of 4000…25000 K. */
function daylight(kelvin: number): [number, number] {
  const t = 1000 / kelvin;
  const x =
    kelvin <= 7000 ? 0.244063 + 0.09911 * t + 2.9678 * t * t - 4.607 * t * t * t : 0.23704 + 0.24748 * t + 1.9018 * t * t - 2.0064 * t * t * t;
  return [x, -3 * x * x + 2.87 * x - 0.275];
}

const MIRED = 1e6 / 6504;
const DAY = daylight(6504);
const TO_XYZ = toXyz(BT709),
  FROM_XYZ = invert(TO_XYZ);

/** Moves the picture's white along the daylight locus (±100 is ±70 mired) and across it (tint), adapted by Bradford. */
export function balanceMatrix(temperature: number, tint: number): Matrix {
  const [x, y] = daylight(1e6 / (MIRED + temperature * 0.7));
  // The locus runs along (0.4, 0.42) here, so green to magenta is across it.
  const off = tint * 0.0003;
  const white: [number, number] = [D65[0] + x - DAY[0] + off * 0.72, D65[1] + y - DAY[1] - off * 0.69];
  return multiply(FROM_XYZ, multiply(adaptation(D65, white), TO_XYZ));
}

const matrix = (v: Values): Matrix =>
  num(v, 'temperature') === 0 && num(v, 'tint') === 0 ? [1, 0, 0, 0, 1, 0, 0, 0, 1] : balanceMatrix(num(v, 'temperature'), num(v, 'tint'));

export const whiteBalance: PixelStep = {
  id: 'white-balance',
  family: 'colour',
  label: 'White balance',
  help: 'Warms or cools the light, and moves it between green and magenta.',
  domain: 'light',
  parameters: [number('temperature', 'Temperature', '', -100, 100, 0), number('tint', 'Tint', '', -100, 100, 0)],
  numbers: (v) => matrix(v),
  pixel: (c, t) =>
    [0, 3, 6].map((r) =>
      c[0]!
        .mul(t.n(r))
        .add(c[1]!.mul(t.n(r + 1)))
        .add(c[2]!.mul(t.n(r + 2))),
    ),
};
