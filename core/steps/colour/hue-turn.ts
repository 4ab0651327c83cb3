import { cosTurnsd, float, luma, mix, sinTurnsd } from '../../kernel';
import { number } from '../../parameters';
import { pixelStep } from '../declare';

/**
 * The direction about the grey axis of a hue (degrees): its strongest colour minus the mean
 * (Smith's hexagon, 1978).
 */
function direction(hue: number): readonly [number, number, number] {
  const sixth = (((hue % 360) + 360) % 360) / 60;
  const channel = (shift: number): number => {
    const at = (sixth + shift) % 6;
    return Math.max(0, Math.min(1, Math.abs(at - 3) - 1));
  };
  const c = [channel(0), channel(4), channel(2)];
  const mean = (c[0]! + c[1]! + c[2]!) / 3;
  const off = c.map((v) => v - mean);
  const length = Math.sqrt(off.reduce((s, v) => s + v * v, 0));
  return off.map((v) => v / length) as unknown as readonly [number, number, number];
}

/**
 * Numbers: cosine and sine ÷ √3 of the rotation, the direction that colours are drawn to, and how
 * far. Colour is the vector from the grey axis, its length is the strength. Drawn halfway, opposite
 * hues meet in grey, so no hue jumps over another.
 */
export const hueTurn = pixelStep({
  id: 'hue-turn',
  family: 'colour',
  label: 'Hue turn',
  help: 'Turns all hues around the circle, or draws them towards one.',
  domain: 'encoded',
  example: { turn: 90 },
  parameters: [
    number('turn', 'Turn', '°', -180, 180, 0),
    number('towards', 'Towards', '°', 0, 360, 30, { picked: 'hue' }),
    number('share', 'Drawn', '%', 0, 100, 0),
  ],
  idle: (v) => v.turn === 0 && v.share === 0,
  numbers: (v) => {
    const turn = v.turn / 360;
    return [
      cosTurnsd(turn),
      sinTurnsd(turn) / Math.sqrt(3),
      ...direction(v.towards),
      v.share / 100,
    ];
  },
  pixel: (c, t) => {
    const mean = c[0]!
      .add(c[1]!)
      .add(c[2]!)
      .mul(1 / 3);
    const off = c.map((x) => x.sub(mean));
    // Rotation about the grey axis by Rodrigues' formula.
    const turned = off.map((x, i) =>
      x.mul(t.n(0)).add(off[(i + 2) % 3]!.sub(off[(i + 1) % 3]!).mul(t.n(1))),
    );
    const strength = turned.reduce((s, x) => s.add(x.mul(x)), float(0)).sqrt();
    const drawn = turned.map((x, i) => mix(x, strength.mul(t.n(2 + i)), t.n(5)));
    // Restores lightness.
    const y = luma(c).sub(luma(drawn).add(mean));
    return drawn.map((x) => x.add(mean).add(y));
  },
});
