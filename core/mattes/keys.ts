/** Keys: mattes from the picture's own lightness or colour. */
import type { Percentiles } from '../clip';
import { pointwise, imageOp, type ImageNode } from '../graph';
import { inDomain, onColour } from '../image';
import { luma, type Pixel, select, smoothstep } from '../kernel';
import { choice, type Colour, colour, number, type Values } from '../parameters';
import { coloured, hueOf } from '../steps';
import { KEYED, keyed, matteKind, type MatteContext } from './declare';

const of = choice('of', 'Of', KEYED, 'clip');

/**
 * A matte of one plane from each pixel's encoded colour (not premultiplied). Transparent pixels are
 * never covered.
 */
function keyOf(
  name: string,
  v: Values,
  at: MatteContext,
  params: readonly number[],
  key: (c: Pixel, n: (i: number) => Pixel[0]) => Pixel[0],
): ImageNode {
  const from = inDomain(keyed(v, at), 'encoded');
  return imageOp({
    shape: `key-${name}-${from.planes}`,
    inputs: [pointwise(from)],
    planes: 1,
    domain: 'none',
    params,
    build: (b) => {
      const pixel = b.pixel(0);
      const cover = key(pixel[3] ? unmultiplied(pixel) : pixel, (i) => b.param(i)).clamp(0, 1);
      return [pixel[3] ? cover.mul(pixel[3]) : cover];
    },
  });
}
const unmultiplied = (p: Pixel): Pixel =>
  p.slice(0, 3).map((c) => select(p[3]!.le(0), 0, c.div(p[3]!)));

const SHARES: readonly (readonly [keyof Percentiles, number])[] = [
  ['p1', 0.01],
  ['p5', 0.05],
  ['p25', 0.25],
  ['p50', 0.5],
  ['p75', 0.75],
  ['p95', 0.95],
  ['p99', 0.99],
];
/**
 * The luma below which a share (0…1) of the whole clip lies; linear between the known percentiles,
 * 0 and 1 at the ends.
 */
export function toneAt(share: number, tones: Percentiles | undefined): number {
  if (!tones) return share;
  const known: [number, number][] = [
    [0, Math.min(0, tones.p1)],
    ...SHARES.map(([k, s]): [number, number] => [s, tones[k]]),
    [1, Math.max(1, tones.p99)],
  ];
  const i = Math.max(
    1,
    known.findIndex(([s]) => s >= share),
  );
  const [a, b] = [known[i - 1]!, known[i]!];
  return a[1] + ((b[1] - a[1]) * (share - a[0])) / (b[0] - a[0]);
}

/** A key on luma. */
export const lumaKey = matteKind({
  id: 'luma-key',
  label: 'Luma key',
  help: 'What is as light as this, by value or as a share of the whole clip.',
  parameters: [
    of,
    choice('count', 'Count in', { value: 'values', share: 'shares of the clip' }, 'value', {
      help: 'In shares, 95 to 100 is the brightest 5 % of the whole clip, whichever clip it is.',
    }),
    number('low', 'From', '%', -100, 400, 50, { soft: [0, 100], picked: 'luma' }),
    number('high', 'To', '%', -100, 400, 400, { soft: [0, 100] }),
    number('softness', 'Softness', '%', 0, 100, 10),
  ],
  cover: (v, at) => {
    const ends = [v.low / 100, v.high / 100];
    const top = v.count === 'share' && ends[1]! >= 1;
    const [low, high] =
      v.count === 'share' ? ends.map((s) => toneAt(Math.max(0, Math.min(1, s)), at.tones)) : ends;
    const soft = Math.max(v.softness / 100, 1e-3);
    return keyOf(
      'luma',
      v,
      at,
      [low! - soft, low!, top ? 1e3 : high!, (top ? 1e3 : high!) + soft],
      (c, n) => {
        const y = luma(c);
        return smoothstep(n(0), n(1), y).mul(smoothstep(n(2), n(3), y).neg().add(1));
      },
    );
  },
});

/** A key on hue and chroma. */
export const hueKey = matteKind({
  id: 'hue-key',
  label: 'Hue key',
  help: 'What is of this hue, however light; greys are never in it.',
  parameters: [
    of,
    number('hue', 'Hue', '°', 0, 360, 30, { picked: 'hue' }),
    number('width', 'Width', '°', 0, 360, 40),
    number('softness', 'Softness', '°', 0, 180, 20),
  ],
  cover: (v, at) => {
    const half = v.width / 2;
    return keyOf(
      'hue',
      v,
      at,
      [v.hue / 60, half / 60, (half + Math.max(0.5, v.softness)) / 60],
      (c, n) => {
        const { at: place, chroma } = hueOf(c);
        const off = place.sub(n(0)).abs();
        const apart = select(off.lt(3), off, off.neg().add(6));
        return smoothstep(n(1), n(2), apart).neg().add(1).mul(coloured(chroma));
      },
    );
  },
});

/** A colour minus its own luma: distance and direction from grey. */
const fromGrey = (c: Colour): Colour => {
  const y = 0.2126 * c[0] + 0.7152 * c[1] + 0.0722 * c[2];
  return [c[0] - y, c[1] - y, c[2] - y];
};

/** A key on the distance from a colour, with spill removal. */
export const chromaKey = matteKind({
  id: 'chroma-key',
  label: 'Chroma key',
  help: 'What has this colour (a screen behind a figure, say); invert it to keep the figure. Spill takes the colour off what is left.',
  parameters: [
    of,
    colour('colour', 'Colour', [0.1, 0.7, 0.2]),
    number('reach', 'Reach', '%', 0, 200, 30, {
      soft: [0, 100],
      help: 'How far a colour may be from this one, as a share of how far this one is from grey.',
    }),
    number('softness', 'Softness', '%', 0, 200, 25, { soft: [0, 100] }),
    number('spill', 'Spill', '%', 0, 100, 0, {
      help: 'How much of this colour is taken off what the layer shows.',
    }),
  ],
  cover: (v, at) => {
    const grey = fromGrey(v.colour);
    const size = Math.max(
      Math.sqrt(grey[0] * grey[0] + grey[1] * grey[1] + grey[2] * grey[2]),
      1e-3,
    );
    const reach = (v.reach / 100) * size;
    return keyOf(
      'chroma',
      v,
      at,
      [...grey, reach, reach + Math.max((v.softness / 100) * size, 1e-3)],
      (c, n) => {
        const y = luma(c);
        const off = c.map((x, i) => x.sub(y).sub(n(i))).map((d) => d.mul(d));
        return smoothstep(n(3), n(4), off[0]!.add(off[1]!).add(off[2]!).sqrt()).neg().add(1);
      },
    );
  },
  clean: (picture, v) => {
    const grey = fromGrey(v.colour);
    const squared = grey[0] * grey[0] + grey[1] * grey[1] + grey[2] * grey[2];
    if (v.spill === 0 || squared < 1e-6) return picture;
    const from = inDomain(picture, 'encoded');
    return imageOp({
      shape: `spill-${from.planes}`,
      inputs: [pointwise(from)],
      planes: from.planes,
      domain: 'encoded',
      params: [...grey, v.spill / 100 / squared],
      // Colour along the key's direction is removed. Luma stays, because the direction from grey
      // has none.
      build: (b) =>
        onColour(b.pixel(0), (c) => {
          const y = luma(c);
          const along = c
            .map((x, i) => x.sub(y).mul(b.param(i)))
            .reduce((s, x) => s.add(x))
            .max(0)
            .mul(b.param(3));
          return c.map((x, i) => x.sub(along.mul(b.param(i))));
        }),
    });
  },
});
