/**
 * Laying one picture over another: the W3C compositing formula with its blend functions. Bounded functions hold inside
 * 0…1 and go on outside as B(sat b, sat s) + (b − sat b); the others are unbounded.
 */
import { float, type Node, type Pixel, select } from '../kernel';
import { inDomain } from '../image/convert';
import { type Domain, each, operation, type Picturing } from './graph';

type Mix = (b: Node, s: Node) => Node;
interface Mode {
  readonly label: string;
  readonly domain: Domain;
  readonly mix: Mix;
}

const one = (x: Node): Node => x.neg().add(1);
const multiply: Mix = (b, s) => b.mul(s);
const screen: Mix = (b, s) => b.add(s).sub(b.mul(s));
const hardLight: Mix = (b, s) => select(s.le(0.5), multiply(b, s.mul(2)), screen(b, s.mul(2).sub(1)));
const softLight: Mix = (b, s) => {
  const d = select(b.le(0.25), b.mul(16).sub(12).mul(b).add(4).mul(b), b.max(0).sqrt());
  return select(s.le(0.5), b.sub(one(s.mul(2)).mul(b).mul(one(b))), b.add(s.mul(2).sub(1).mul(d.sub(b))));
};
const bounded =
  (mix: Mix): Mix =>
  (b, s) => {
    const sat = b.clamp(0, 1);
    return mix(sat, s.clamp(0, 1)).add(b.sub(sat));
  };
const mode = (label: string, mix: Mix, domain: Domain = 'encoded'): Mode => ({ label, domain, mix });

export const BLEND_MODES = {
  normal: mode('Normal', (_, s) => s),
  multiply: mode('Multiply', bounded(multiply)),
  screen: mode('Screen', bounded(screen)),
  overlay: mode(
    'Overlay',
    bounded((b, s) => hardLight(s, b)),
  ),
  'soft-light': mode('Soft light', bounded(softLight)),
  add: mode('Add', (b, s) => b.add(s)),
  'add-light': mode('Add (light)', (b, s) => b.add(s), 'light'),
  lighten: mode('Lighten', (b, s) => b.max(s)),
  darken: mode('Darken', (b, s) => b.min(s)),
  difference: mode('Difference', (b, s) => b.sub(s).abs()),
} as const satisfies Record<string, Mode>;
export type BlendId = keyof typeof BLEND_MODES;
export const BLEND_IDS = Object.keys(BLEND_MODES) as BlendId[];

const uncovered = (c: Node, a: Node | undefined): Node => (a ? select(a.le(0), 0, c.div(a)) : c);

/** One pixel of `s` (with its coverage times `opacity`) over one of `b`. */
export function blendPixel(mix: Mix, b: Pixel, s: Pixel, opacity: Node): Pixel {
  const ab = b[3],
    as = s[3];
  const cover = as ? as.mul(opacity) : opacity;
  const colour = [0, 1, 2].map((i) => {
    const both = mix(uncovered(b[i]!, ab), uncovered(s[i]!, as));
    const kept = b[i]!.mul(one(cover));
    if (!ab) return kept.add(both.mul(cover));
    return kept.add(s[i]!.mul(opacity).mul(one(ab))).add(both.mul(cover.mul(ab)));
  });
  return ab ? [...colour, ab.add(cover).sub(ab.mul(cover))] : colour;
}

/** `source` over `below` in the mode's own domain. */
export function blend(id: BlendId, below: Picturing, source: Picturing, opacity: number): Picturing {
  const { domain, mix } = BLEND_MODES[id];
  // What covers everything wholly leaves nothing of what lies below: s·1 + b·0 is s. It stays in the domain it is in.
  if (id === 'normal' && opacity === 1 && source.planes === 3 && source.width === below.width) return source;
  const s = inDomain(source, domain);
  const b = inDomain(below, domain);
  return operation({
    shape: `blend-${id}-${b.planes}-${s.planes}`,
    inputs: [each(b), each(s)],
    planes: b.planes,
    domain,
    params: [opacity],
    build: (at) => blendPixel(mix, at.pixel(0), at.pixel(1), at.param(0)),
  });
}

/** A picture that covers nothing. */
export const clear = (width: number, height: number): Picturing =>
  operation({ shape: 'clear', inputs: [], planes: 4, domain: 'light', width, height, build: () => [0, 0, 0, 0].map((v) => float(v)) });
