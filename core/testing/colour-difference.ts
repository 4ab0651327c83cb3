/** Test helpers: perceptual colour difference. */
import { powd } from '../kernel';

const WHITE = [0.95047, 1, 1.08883];
/** CIELAB (CIE 1976, D65) of linear BT.709 light. */
export function cielab([r, g, b]: readonly number[]): number[] {
  const xyz = [
    0.4124 * r! + 0.3576 * g! + 0.1805 * b!,
    0.2126 * r! + 0.7152 * g! + 0.0722 * b!,
    0.0193 * r! + 0.1192 * g! + 0.9505 * b!,
  ].map((v, i) => v / WHITE[i]!);
  const [x, y, z] = xyz.map((v) =>
    v > 216 / 24389 ? powd(v, 1 / 3) : ((24389 / 27) * v + 16) / 116,
  ) as [number, number, number];
  return [116 * y - 16, 500 * (x - y), 200 * (y - z)];
}
/** Distance in CIELAB (ΔE of 1976). */
export function deltaE(a: readonly number[], b: readonly number[]): number {
  const other = cielab(b);
  return Math.sqrt(cielab(a).reduce((s, v, i) => s + (v - other[i]!) * (v - other[i]!), 0));
}
