/**
 * Oklab (Ottosson, 2020): lightness, green to magenta, blue to yellow; perceptually nearly uniform.
 * Used instead of CIELAB because hues stay constant as colours get stronger, and because it needs
 * no white point besides BT.709's.
 */
import { pointwise, imageOp, type ImageNode } from '../graph';
import { type Node, pow, select } from '../kernel';

/** Oklab L, a, b. */
export type Lab = readonly [number, number, number];
const TO_CONES = [
  [0.4122214708, 0.5363325363, 0.0514459929],
  [0.2119034982, 0.6806995451, 0.1073969566],
  [0.0883024619, 0.2817188376, 0.6299787005],
] as const;
const TO_LAB = [
  [0.2104542553, 0.793617785, -0.0040720468],
  [1.9779984951, -2.428592205, 0.4505937099],
  [0.0259040371, 0.7827717662, -0.808675766],
] as const;

const row = (m: readonly number[], c: readonly Node[]): Node =>
  c[0]!.mul(m[0]!).add(c[1]!.mul(m[1]!)).add(c[2]!.mul(m[2]!));
const root = (v: Node): Node => {
  const r = pow(v.abs(), 1 / 3);
  return select(v.lt(0), r.neg(), r);
};

/** Linear light as Oklab; premultiplied by coverage if there is any. */
export const toOklab = (light: ImageNode): ImageNode =>
  imageOp({
    shape: `to-oklab-${light.planes}`,
    inputs: [pointwise(light)],
    planes: light.planes,
    domain: 'none',
    build: (b) => {
      const cones = TO_CONES.map((m) => root(row(m, b.pixel(0))));
      return [...TO_LAB.map((m) => row(m, cones)), ...b.pixel(0).slice(3)];
    },
  });
