import { adaptation, BT709, D65, invert, type Matrix, multiply, toXyz } from '../../image';
import { type Colour, number, type Values } from '../../parameters';
import { pixelStep } from '../declare';

/** CIE daylight locus (CIE 15:2004): chromaticity at a correlated temperature of 4000…25000 K. */
function daylight(kelvin: number): [number, number] {
  const t = 1000 / kelvin;
  const x =
    kelvin <= 7000
      ? 0.244063 + 0.09911 * t + 2.9678 * t * t - 4.607 * t * t * t
      : 0.23704 + 0.24748 * t + 1.9018 * t * t - 2.0064 * t * t * t;
  return [x, -3 * x * x + 2.87 * x - 0.275];
}

const MIRED = 1e6 / 6504;
const DAY = daylight(6504);
const TO_XYZ = toXyz(BT709),
  FROM_XYZ = invert(TO_XYZ);

/**
 * The matrix that moves white along the daylight locus (±100 is ±70 mired) and across it (tint),
 * adapted by Bradford.
 */
export function balanceMatrix(temperature: number, tint: number): Matrix {
  const [x, y] = daylight(1e6 / (MIRED + temperature * 0.7));
  // The locus runs along (0.4, 0.42) here, so the tint goes across it.
  const off = tint * 0.0003;
  const white: [number, number] = [
    D65[0] + x - DAY[0] + off * 0.72,
    D65[1] + y - DAY[1] - off * 0.69,
  ];
  return multiply(FROM_XYZ, multiply(adaptation(D65, white), TO_XYZ));
}

const matrix = (v: { temperature: number; 'green-magenta': number }): Matrix =>
  v.temperature === 0 && v['green-magenta'] === 0
    ? [1, 0, 0, 0, 1, 0, 0, 0, 1]
    : balanceMatrix(v.temperature, v['green-magenta']);

const by = (m: Matrix, c: Colour): Colour =>
  [0, 3, 6].map((r) => m[r]! * c[0] + m[r + 1]! * c[1] + m[r + 2]! * c[2]) as unknown as Colour;
const held = (v: number): number => Math.max(-100, Math.min(100, v));

/**
 * The values that turn a colour into grey: Newton's method towards red = green = blue with numeric
 * slopes, clamped to the ranges.
 */
export function greyFrom(light: Colour): Values {
  let [temperature, tint] = [0, 0];
  if (Math.min(...light) <= 1e-6) return { temperature, tint };
  const off = (t: number, u: number): [number, number] => {
    const [r, g, b] = by(balanceMatrix(t, u), light);
    return [r / g - 1, b / g - 1];
  };
  for (let turn = 0; turn < 20; turn++) {
    const [p, q] = off(temperature, tint),
      [pt, qt] = off(temperature + 0.1, tint),
      [pu, qu] = off(temperature, tint + 0.1);
    const [a, b, c, d] = [(pt - p) * 10, (pu - p) * 10, (qt - q) * 10, (qu - q) * 10];
    const det = a * d - b * c;
    if (Math.abs(det) < 1e-12) break;
    temperature = held(temperature - (p * d - q * b) / det);
    tint = held(tint - (q * a - p * c) / det);
  }
  return { temperature: Math.round(temperature * 100) / 100, tint: Math.round(tint * 100) / 100 };
}

/** White balance by temperature and tint. */
export const whiteBalance = pixelStep({
  id: 'white-balance',
  family: 'colour',
  label: 'White balance',
  help: 'Warms or cools the light, and moves it between green and magenta.',
  domain: 'light',
  example: { temperature: 45 },
  parameters: [
    number('temperature', 'Temperature', '', -100, 100, 0),
    number('green-magenta', 'Green–magenta', '', -100, 100, 0),
  ],
  greyFrom,
  numbers: (v) => matrix(v),
  pixel: (c, t) =>
    [0, 3, 6].map((r) =>
      c[0]!
        .mul(t.n(r))
        .add(c[1]!.mul(t.n(r + 1)))
        .add(c[2]!.mul(t.n(r + 2))),
    ),
});
