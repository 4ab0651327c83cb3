/**
 * Compositing of one picture over another: the W3C compositing formula with its blend functions.
 * Bounded functions hold inside 0…1 and continue outside as B(sat b, sat s) + (b − sat b); the
 * others are unbounded.
 */
import { type Domain, pointwise, imageOp, type ImageNode } from '../graph';
import { inDomain } from '../image';
import { float, type Node, type Pixel, select } from '../kernel';
import type { Neutral } from './plate';

/** Blends one channel of the backdrop `b` with the source `s`. */
type Mix = (b: Node, s: Node) => Node;
/** Blends all channels together, for modes in which channels depend on one another. */
type MixAll = (b: Pixel, s: Pixel) => Pixel;
interface Mode {
  readonly label: string;
  readonly domain: Domain;
  readonly mix: MixAll;
  /** The source tone that leaves the backdrop unchanged. */
  readonly neutral: Neutral;
}

const one = (x: Node): Node => x.neg().add(1);
const multiply: Mix = (b, s) => b.mul(s);
const screen: Mix = (b, s) => b.add(s).sub(b.mul(s));
const hardLight: Mix = (b, s) =>
  select(s.le(0.5), multiply(b, s.mul(2)), screen(b, s.mul(2).sub(1)));
const softLight: Mix = (b, s) => {
  const d = select(b.le(0.25), b.mul(16).sub(12).mul(b).add(4).mul(b), b.max(0).sqrt());
  return select(
    s.le(0.5),
    b.sub(one(s.mul(2)).mul(b).mul(one(b))),
    b.add(s.mul(2).sub(1).mul(d.sub(b))),
  );
};
const bounded =
  (mix: Mix): Mix =>
  (b, s) => {
    const sat = b.clamp(0, 1);
    return mix(sat, s.clamp(0, 1)).add(b.sub(sat));
  };
const dodge: Mix = (b, s) => select(b.le(0), 0, select(s.lt(1), b.div(one(s)).min(1), 1));
const burn: Mix = (b, s) => select(b.lt(1), select(s.le(0), 0, one(one(b).div(s).min(1))), 1);

const mode = (
  label: string,
  mix: Mix,
  neutral: Neutral = null,
  domain: Domain = 'encoded',
): Mode => ({
  label,
  domain,
  neutral,
  mix: (b, s) => b.map((x, i) => mix(x, s[i]!)),
});

/**
 * Luma as the standard defines it, for the four modes that split colour into hue, saturation and
 * luminosity.
 */
const lum = (c: Pixel): Node => c[0]!.mul(0.3).add(c[1]!.mul(0.59)).add(c[2]!.mul(0.11));
const most = (c: Pixel): Node => c[0]!.max(c[1]!).max(c[2]!);
const least = (c: Pixel): Node => c[0]!.min(c[1]!).min(c[2]!);
const sat = (c: Pixel): Node => most(c).sub(least(c));
/** Clips a colour to 0…1, moving it towards its own luminosity (ClipColor in the standard). */
function clipped(c: Pixel): Pixel {
  const l = lum(c),
    [n, x] = [least(c), most(c)];
  const up = c.map((v) => select(n.lt(0), l.add(v.sub(l).mul(l).div(l.sub(n).max(1e-6))), v));
  return up.map((v) =>
    select(float(1).lt(x), l.add(v.sub(l).mul(one(l)).div(x.sub(l).max(1e-6))), v),
  );
}
const withLum = (c: Pixel, l: Node): Pixel => {
  const d = l.sub(lum(c));
  return clipped(c.map((v) => v.add(d)));
};
/**
 * Sets saturation: the lowest channel becomes 0, the highest `s`, the middle in between (SetSat in
 * the standard).
 */
const withSat = (c: Pixel, s: Node): Pixel => {
  const n = least(c),
    per = s.div(sat(c).max(1e-6));
  return c.map((v) => select(sat(c).le(1e-6), 0, v.sub(n).mul(per)));
};
const together = (label: string, mix: MixAll): Mode => ({
  label,
  domain: 'encoded',
  neutral: null,
  mix: (b, s) => {
    const inside = b.map((x) => x.clamp(0, 1));
    return mix(
      inside,
      s.map((x) => x.clamp(0, 1)),
    ).map((x, i) => x.add(b[i]!.sub(inside[i]!)));
  },
});

/** All blend modes by id. */
export const BLEND_MODES = {
  normal: mode('Normal', (_, s) => s),
  multiply: mode('Multiply', bounded(multiply), 'white'),
  screen: mode('Screen', bounded(screen), 'black'),
  overlay: mode(
    'Overlay',
    bounded((b, s) => hardLight(s, b)),
  ),
  'soft-light': mode('Soft light', bounded(softLight)),
  'hard-light': mode('Hard light', bounded(hardLight)),
  'linear-light': mode('Linear light', (b, s) => b.add(s.mul(2)).sub(1)),
  'color-dodge': mode('Colour dodge', bounded(dodge), 'black'),
  'color-burn': mode('Colour burn', bounded(burn), 'white'),
  add: mode('Add', (b, s) => b.add(s), 'black'),
  'add-light': mode('Add (light)', (b, s) => b.add(s), 'black', 'light'),
  lighten: mode('Lighten', (b, s) => b.max(s), 'black'),
  darken: mode('Darken', (b, s) => b.min(s), 'white'),
  subtract: mode('Subtract', (b, s) => b.sub(s), 'black'),
  difference: mode('Difference', (b, s) => b.sub(s).abs(), 'black'),
  exclusion: mode(
    'Exclusion',
    bounded((b, s) => b.add(s).sub(b.mul(s).mul(2))),
    'black',
  ),
  hue: together('Hue', (b, s) => withLum(withSat(s, sat(b)), lum(b))),
  saturation: together('Saturation', (b, s) => withLum(withSat(b, sat(s)), lum(b))),
  color: together('Colour', (b, s) => withLum(s, lum(b))),
  luminosity: together('Luminosity', (b, s) => withLum(b, lum(s))),
} as const satisfies Record<string, Mode>;
/** The id of a blend mode. */
export type BlendId = keyof typeof BLEND_MODES;
/** All ids, in the order of the menu. */
export const BLEND_IDS = Object.keys(BLEND_MODES) as BlendId[];

const uncovered = (c: Node, a: Node | undefined): Node => (a ? select(a.le(0), 0, c.div(a)) : c);

/** One pixel of `s` (its coverage times `opacity`) composited over one of `b`. */
export function blendPixel(mix: MixAll, b: Pixel, s: Pixel, opacity: Node): Pixel {
  const ab = b[3],
    as = s[3];
  const cover = as ? as.mul(opacity) : opacity;
  const plain = (p: Pixel, a: Node | undefined): Pixel => [0, 1, 2].map((i) => uncovered(p[i]!, a));
  const mixed = mix(plain(b, ab), plain(s, as));
  const colour = [0, 1, 2].map((i) => {
    const both = mixed[i]!;
    const kept = b[i]!.mul(one(cover));
    if (!ab) return kept.add(both.mul(cover));
    return kept.add(s[i]!.mul(opacity).mul(one(ab))).add(both.mul(cover.mul(ab)));
  });
  return ab ? [...colour, ab.add(cover).sub(ab.mul(cover))] : colour;
}

/** `source` composited over `below`, in the domain of the mode. Pictures of 3 or 4 planes. */
export function blend(
  id: BlendId,
  below: ImageNode,
  source: ImageNode,
  opacity: number,
): ImageNode {
  const { domain, mix } = BLEND_MODES[id];
  // An opaque source in mode `normal` replaces everything below, so the result is the source in its
  // own domain.
  if (id === 'normal' && opacity === 1 && source.planes === 3 && source.width === below.width)
    return source;
  const s = inDomain(source, domain);
  const b = inDomain(below, domain);
  return imageOp({
    shape: `blend-${id}-${b.planes}-${s.planes}`,
    inputs: [pointwise(b), pointwise(s)],
    planes: b.planes,
    domain,
    params: [opacity],
    build: (at) => blendPixel(mix, at.pixel(0), at.pixel(1), at.param(0)),
  });
}

/** A fully transparent picture. */
export const clear = (width: number, height: number): ImageNode =>
  imageOp({
    shape: 'clear',
    inputs: [],
    planes: 4,
    domain: 'light',
    width,
    height,
    build: () => [0, 0, 0, 0].map((v) => float(v)),
  });
