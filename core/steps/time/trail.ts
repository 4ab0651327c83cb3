import { heldUntil, type ImageNode, imageOp, pointwise } from '../../graph';
import { inDomain, SRGB_DECODE } from '../../image';
import { cosTurnsd, type Node, type Pixel, select, sinTurnsd } from '../../kernel';
import {
  choice,
  type Colour,
  colour,
  flag,
  mixColours,
  number,
  type ValuesOf,
} from '../../parameters';
import { inFrames, snapped, TIME_UNIT_WORDS } from '../../time';
import { builtStep, FrameContext } from '../declare';
import { warped } from '../warp/warped';
import { smeared } from './smear';

/** How a copy is combined with older ones (*behind*: laid under them). */
const COMBINE = {
  lighten: 'lighten',
  add: 'add',
  screen: 'screen',
  over: 'newest above',
  behind: 'oldest above',
} as const;
type Combine = keyof typeof COMBINE;

/**
 * Light below 2⁻⁶⁰ becomes 0: an endless fade must not end in denormal numbers, which are forty
 * times slower.
 */
const LEAST = 2 ** -60;
const flushed = (x: Node): Node => select(x.abs().lt(LEAST), 0, x);

type Join = (older: Pixel, newer: Pixel) => Pixel;
const perPlane =
  (f: (a: Node, b: Node) => Node, cover: (a: Node, b: Node) => Node): Join =>
  (a, b) =>
    a.map((x, i) => (i < 3 ? f(x, b[i]!) : cover(x, b[i]!)));
/** Premultiplied light and coverage. The present (`newer`) is never scaled. */
const JOINS: Readonly<Record<Combine, Join>> = {
  lighten: perPlane(
    (a, b) => a.max(b),
    (a, b) => a.max(b),
  ),
  add: perPlane(
    (a, b) => a.add(b),
    (a, b) => a.add(b).min(1),
  ),
  // 1 − (1 − a)(1 − b) within 0…1; light beyond white is added.
  screen: perPlane(
    (a, b) => {
      const [x, y] = [a.clamp(0, 1), b.clamp(0, 1)];
      return x.add(y).sub(x.mul(y)).add(a.sub(x)).add(b.sub(y));
    },
    (a, b) => a.add(b).sub(a.mul(b)),
  ),
  over: (a, b) => (b[3] ? a.map((x, i) => b[i]!.add(x.mul(b[3]!.neg().add(1)))) : b),
  behind: (a, b) => (a[3] ? a.map((x, i) => x.add(b[i]!.mul(a[3]!.neg().add(1)))) : a),
};

/** `older`, faded by a factor, combined with `newer`; either may be missing. */
function joined(
  how: Combine,
  older: ImageNode | undefined,
  newer: ImageNode | undefined,
  fade: number,
  wide = false,
): ImageNode | undefined {
  if (!older) return newer;
  const inputs = newer ? [older, newer] : [older];
  const planes = Math.max(...inputs.map((p) => p.planes));
  const whole = (p: Pixel, faded?: Node): Pixel => {
    const all = planes === 4 && p.length === 3 ? [...p, p[0]!.mul(0).add(1)] : p;
    return faded ? all.map((x) => flushed(x.mul(faded))) : all;
  };
  return imageOp({
    shape: `trail-${how}-${inputs.map((p) => p.planes).join('-')}`,
    inputs: inputs.map((p) => pointwise(p)),
    planes,
    domain: 'light',
    params: [fade],
    wide,
    build: (b) => {
      const a = whole(b.pixel(0), b.param(0));
      return newer ? JOINS[how](a, whole(b.pixel(1))) : a;
    },
  });
}

const power = (a: number, n: number): number => {
  let v = 1;
  for (let i = 0; i < n; i++) v *= a;
  return v;
};

/** The k-th copy back of the step's input, in light. */
type Copy = (k: number) => ImageNode | undefined;

/**
 * Most copies that one kernel reads, because more would have to be in memory together. A power of
 * two.
 */
const MOST_READ = 4;

/**
 * W₁ is the input; W₂ₘ(t) = join(aᵐ · Wₘ(t − m·spacing), Wₘ(t)). Each is an ordinary node of its
 * frame, which later frames find in the cache. For counts that are no power of two, *lighten* takes
 * two overlapping blocks and *add* the binary parts.
 */
function doubling(
  how: 'lighten' | 'add',
  count: number,
  fade: number,
  spacing: number,
  frame: number,
  copy: Copy,
): ImageNode | undefined {
  const bits: { readonly size: number; readonly at: number }[] = [];
  let largest = 1;
  while (largest * 2 <= count) largest *= 2;
  if (how === 'lighten') {
    bits.push({ size: largest, at: 0 });
    if (largest < count) bits.push({ size: largest, at: count - largest });
  } else
    for (let left = count, size = largest, at = 0; left > 0; size /= 2)
      if (left >= size) {
        bits.push({ size, at });
        at += size;
        left -= size;
      }
  /** Number of copies for which a block of a size remains useful. */
  const usefulFor = (size: number): number =>
    Math.max(
      0,
      ...bits.filter((b) => b.size === size).map((b) => b.at),
      ...(size * 2 <= largest ? [size] : []),
    );
  const made = new Map<string, ImageNode | undefined>();
  const block = (size: number, at: number): ImageNode | undefined => {
    const name = `${size} ${at}`;
    if (made.has(name)) return made.get(name);
    const half = size / 2;
    const own =
      size === 1
        ? copy(at)
        : joined(
            how,
            block(half, at + half),
            block(half, at),
            power(fade, half),
            size % MOST_READ === 0,
          );
    // Held for later frames, counted from the block's own frame. Without earlier frames the first
    // ones compute their larger blocks from the same copies, until those are older than the trail.
    const useful = size === 1 && at > 0 ? count - 1 : usefulFor(size);
    const held = own && heldUntil(own, frame + (useful - at) * spacing);
    made.set(name, held);
    return held;
  };
  return bits.reduceRight<ImageNode | undefined>((older, { size, at }, i) => {
    const own = block(size, at);
    if (i === bits.length - 1) return at === 0 ? own : joined(how, own, undefined, power(fade, at));
    // Older parts are faded already.
    return joined(how, older, at === 0 ? own : joined(how, own, undefined, power(fade, at)), 1);
  }, undefined);
}

const EACH = [
  number('growth', 'Growth a copy', '%', -50, 100, 0, { soft: [-10, 10] }),
  number('turn', 'Turn a copy', '°', -180, 180, 0, { soft: [-20, 20] }),
  number('across', 'Shift across', 'lines', -2000, 2000, 0, { soft: [-100, 100] }),
  number('down', 'Shift down', 'lines', -2000, 2000, 0, { soft: [-100, 100] }),
] as const;
const COPIES_LIE = choice(
  'each',
  'Copies lie',
  { further: 'each behind the one before', same: 'all alike' },
  'further',
);
interface Looks {
  readonly v: ValuesOf<[...typeof EACH, typeof COPIES_LIE]>;
  readonly at: FrameContext;
}
/** The k-th copy, grown, turned and shifted: k times if each copy lies behind the one before. */
function placedCopy(picture: ImageNode, k: number, { v, at }: Looks): ImageNode {
  const times = v.each === 'same' ? (k === 0 ? 0 : 1) : k;
  const growth = power(1 + v.growth / 100, times),
    turn = (v.turn * times) / 360;
  const [dx, dy] = [v.across * times, v.down * times];
  if (growth === 1 && turn === 0 && dx === 0 && dy === 0) return picture;
  return warped(picture, { edge: 'clear' }, at, {
    name: 'trail-copy',
    params: [dx, dy, cosTurnsd(turn) / growth, sinTurnsd(turn) / growth],
    where: (x, y, b) => {
      const [u, w] = [x.sub(b.param(0)), y.sub(b.param(1))];
      return [u.mul(b.param(2)).add(w.mul(b.param(3))), w.mul(b.param(2)).sub(u.mul(b.param(3)))];
    },
  });
}
/** A copy's light, tinted by a colour. */
function tinted(picture: ImageNode, tint: Colour, amount: number): ImageNode {
  if (amount === 0) return picture;
  return imageOp({
    shape: `trail-tint-${picture.planes}`,
    inputs: [pointwise(picture)],
    planes: picture.planes,
    domain: 'light',
    params: [...tint, amount],
    tables: [SRGB_DECODE],
    build: (b) => {
      const c = b.pixel(0);
      const light = c[0]!.mul(0.2126).add(c[1]!.mul(0.7152)).add(c[2]!.mul(0.0722));
      return c.map((x, i) =>
        i < 3
          ? x.add(
              light
                .mul(b.lookup(0, b.param(i)))
                .sub(x)
                .mul(b.param(3)),
            )
          : x,
      );
    },
  });
}

/**
 * Copies fade one after another from the second on. Every eighth join is materialised, so that no
 * kernel reads more than a few.
 */
const JOINED_AT_ONCE = 7;

/** The unit in which copies count by distance travelled. */
const BY_WAY = 'way';
/**
 * Age of each copy in frames, by its number: the smallest at which what moves was that many lines
 * back. If several fall on one frame the first stands for all.
 */
function agesByWay(
  count: number,
  lines: number,
  framesSince: NonNullable<FrameContext['framesSince']>,
): ReadonlyMap<number, number> {
  const ages = new Map<number, number>([[0, 0]]);
  let last = 0;
  for (let k = 1; k < count; k++) {
    const age = framesSince(k * lines, last);
    if (age === undefined) break;
    if (age > last) ages.set(k, age);
    last = age;
  }
  return ages;
}
/** Frames from a copy to the next older one; for the oldest, as many as to the next newer one. */
function toOlder(ages: ReadonlyMap<number, number>, k: number): number {
  const all = [...ages.values()],
    at = all.indexOf(ages.get(k)!);
  return at + 1 < all.length ? all[at + 1]! - all[at]! : at > 0 ? all[at]! - all[at - 1]! : 1;
}

/** Its input combined with `count` copies of its own past. Frame t is a function of t alone. */
export const trail = builtStep({
  id: 'trail',
  family: 'time',
  label: 'Trail',
  help: 'Copies of the layer’s own past, fading: light that lingers.',
  domain: 'light',
  looksBack: true,
  uses: { motion: { id: 'bands' }, speeds: { id: 'unit', at: BY_WAY } },
  parameters: [
    number('count', 'Copies', '', 1, 60, 8, { neutral: 1, help: 'With the present one.' }),
    number('spacing', 'Apart', '', 0.01, 250, 1, {
      soft: [1, 12],
      help: 'In lines moved, what dances fast and what dances slowly leave copies as far apart.',
    }),
    choice('unit', 'Counted in', { ...TIME_UNIT_WORDS, [BY_WAY]: 'lines moved' }, 'clip-frames'),
    number('fade', 'Left of each', '%', 0, 100, 80, {
      help: 'Of the light of the copy before it; evenly to nothing where it fades evenly.',
    }),
    choice(
      'fading',
      'Fading',
      { geometric: 'each by the same share', linear: 'evenly to nothing' },
      'geometric',
    ),
    choice('combine', 'Combined', COMBINE, 'lighten'),
    number('tinted', 'Tint', '%', 0, 100, 0),
    colour('young', 'Colour at first', [1, 0.8, 0.55]),
    colour('old', 'Colour at last', [0.35, 0.5, 1]),
    ...EACH,
    flag('bands', 'Drawn along their movement', false, {
      help: 'Each copy reaches to the one before it, so that the trail is a band and no comb.',
    }),
    COPIES_LIE,
  ],
  build: (input, v, at) => {
    const count = Math.round(v.count);
    if (count <= 1) return input;
    const byWay = v.unit === BY_WAY;
    // Until motion is measured there is a copy on every frame.
    const spacing = byWay ? 1 : inFrames(v.spacing, v.unit, at);
    const ages = byWay && at.framesSince ? agesByWay(count, v.spacing, at.framesSince) : undefined;
    /** Age of the k-th copy in frames; undefined if there is no such copy. */
    const ageOf = (k: number): number | undefined => (ages ? ages.get(k) : snapped(k * spacing));
    const fade = v.fade / 100,
      how = v.combine;
    const copy: Copy = (k) => {
      const age = ageOf(k);
      const found = k === 0 ? input : age === undefined ? undefined : at.earlier?.(age);
      const light = found && inDomain(found, 'light');
      const onward = light && v.bands === true ? at.motion?.(age!) : undefined;
      // Back to the previous copy; the front of the present stays in place.
      return onward
        ? smeared(light!, onward, {
            frames: ages ? toOlder(ages, k) : spacing,
            from: -1,
            how: 'lightest',
          })
        : light;
    };
    const plain = v.tinted === 0 && EACH.every(({ id }) => v[id] === 0);
    const whole = !ages && Math.abs(spacing - snapped(spacing)) < 1e-9 && spacing >= 1;
    if (plain && whole && v.fading === 'geometric' && (how === 'lighten' || how === 'add'))
      return doubling(how, count, fade, snapped(spacing), at.index ?? at.frame, copy) ?? input;
    const last = ages ? Math.max(...ages.values()) : snapped((count - 1) * spacing);
    let all: ImageNode | undefined;
    for (let k = count - 1; k >= 0; k--) {
      const past = copy(k);
      if (!past) continue;
      // A picture of the past is useful until it is the oldest copy.
      const held = heldUntil(past, (at.index ?? at.frame) + last - ageOf(k)!);
      const tint = mixColours(v.young, v.old, k / Math.max(1, count - 1));
      const own = tinted(placedCopy(held, k, { v, at }), tint, k === 0 ? 0 : v.tinted / 100);
      const weight = v.fading === 'linear' ? 1 - k / count : power(fade, k);
      const faded = weight === 1 ? own : joined(how, own, undefined, weight)!;
      all = joined(how, all, faded, 1, k % JOINED_AT_ONCE === 0);
    }
    return all ?? input;
  },
});
