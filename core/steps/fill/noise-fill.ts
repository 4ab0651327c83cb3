import { float, mix, type Node, powd } from '../../kernel';
import { colour, number } from '../../parameters';
import { linearColour } from '../colour-values';
import { pixelStep } from '../declare';
import { smoothNoise } from '../noise';
import { over } from './over';

const OCTAVES = 4;

/**
 * Fractal noise: octaves of half the size and a share of the strength (Perlin, 1985; Musgrave's
 * fBm).
 */
export const noise = pixelStep({
  id: 'noise',
  family: 'fill',
  label: 'Noise',
  help: 'Clouds of two colours that may change as time goes by, laid over what is there.',
  domain: 'light',
  alwaysActs: true,
  covering: true,
  parameters: [
    colour('low', 'Low', [0, 0, 0]),
    colour('high', 'High', [1, 1, 1]),
    number('size', 'Size', 'lines', 4, 2160, 240, { soft: [20, 800] }),
    number('roughness', 'Roughness', '%', 0, 100, 50, { help: 'How much of it is fine.' }),
    number('contrast', 'Contrast', '%', 0, 400, 100, { soft: [0, 200] }),
    number('changes', 'Changes', '', 0, 20, 0, {
      soft: [0, 4],
      help: 'How many times a second it has become another.',
    }),
    number('cover', 'Cover', '%', 0, 100, 100),
  ],
  numbers: (v, at) => {
    const rough = v.roughness / 100;
    // Octaves with cells below two pixels fade to their mean, 0.
    const weights = Array.from({ length: OCTAVES }, (_, i) => {
      const cell = (v.size / 2 ** i) * (at.height / 1080);
      return powd(rough, i) * Math.max(0, Math.min(1, cell - 1));
    });
    const sum = Array.from({ length: OCTAVES }, (_, i) => powd(rough, i)).reduce(
      (a, b) => a + b,
      0,
    );
    return [
      1 / v.size,
      (v.changes * at.seconds) % 4096,
      v.contrast / 100,
      v.cover / 100,
      ...weights.map((w) => w / sum),
      ...linearColour(v.low),
      ...linearColour(v.high),
    ];
  },
  pixel: (c, t) => {
    let sum: Node = float(0);
    for (let i = 0; i < OCTAVES; i++) {
      const k = 2 ** i;
      sum = sum.add(
        smoothNoise(
          t.x
            .mul(t.n(0))
            .mul(k)
            .add(17 * i),
          t.y
            .mul(t.n(0))
            .mul(k)
            .add(31 * i),
          t.n(1).add(i * 7),
          t.seed,
        ).mul(t.n(4 + i)),
      );
    }
    const share = sum.mul(t.n(2)).mul(0.8).add(0.5).clamp(0, 1);
    return over(
      c,
      [0, 1, 2].map((i) => mix(t.n(8 + i), t.n(11 + i), share)),
      t.n(3),
    );
  },
});
