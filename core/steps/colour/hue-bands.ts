import { Hasher } from '../../graph';
import { type CurveTable, luma, mix, type Node } from '../../kernel';
import { number } from '../../parameters';
import { pixelStep } from '../declare';
import { coloured, hueOf, saturated } from './hues';

/** The eight hues: ids, names and positions on the hue circle, in sixths. */
const HUES = [
  ['red', 'Red', 0],
  ['orange', 'Orange', 0.5],
  ['yellow', 'Yellow', 1],
  ['green', 'Green', 2],
  ['cyan', 'Cyan', 3],
  ['blue', 'Blue', 4],
  ['purple', 'Purple', 4.6],
  ['magenta', 'Magenta', 5.2],
] as const;
/**
 * Units of the parameters as parts of a whole: of a turn, of a colour's saturation, of its chroma.
 */
const SCALES = { hue: 1 / 360, saturation: 1 / 100, lightness: 1 / 100 } as const;
type Kind = keyof typeof SCALES;
type Bands = Readonly<Record<`${(typeof HUES)[number][0]}-${Kind}`, number>>;
const KINDS = [
  ['hue', 'hue', '°', 60],
  ['saturation', 'saturation', '%', 100],
  ['lightness', 'lightness', '%', 100],
] as const;

/** The kinds with any effect; others are not computed. */
const acting = (v: Bands): Kind[] =>
  KINDS.map(([kind]) => kind).filter((kind) => HUES.some(([id]) => v[`${id}-${kind}`] !== 0));

/** Smooth interpolation between the values of two neighbouring hues; weights always sum to one. */
function around(values: readonly number[], at: number): number {
  let i = 0;
  while (i + 1 < HUES.length && HUES[i + 1]![2] <= at) i++;
  const from = HUES[i]![2],
    to = HUES[i + 1]?.[2] ?? 6;
  const t = Math.min(1, Math.max(0, (at - from) / (to - from)));
  return values[i]! + (values[(i + 1) % HUES.length]! - values[i]!) * t * t * (3 - 2 * t);
}

/**
 * The closest that two neighbours may come, as a share of their distance. Hues between them follow
 * a smooth step, whose steepest slope is 1.5 and must not reverse.
 */
const NEAREST = 0.95 / 1.5;
/**
 * Rotations (parts of a turn) limited so that no hue passes its neighbour; others stay unchanged.
 */
function unfolded(turns: readonly number[]): number[] {
  const now = [...turns];
  for (let pass = 0; pass < 64; pass++)
    HUES.forEach(([, , at], i) => {
      const j = (i + 1) % HUES.length;
      const most = (((HUES[j]![2] - at + 6) % 6) / 6) * NEAREST;
      const over = now[i]! - now[j]! - most;
      if (over <= 0) return;
      now[i]! -= over / 2;
      now[j]! += over / 2;
    });
  return now;
}

function bandTable(v: Bands, kind: Kind, scale: number): CurveTable {
  const asked = HUES.map(([id]) => v[`${id}-${kind}`] * scale);
  const values = kind === 'hue' ? unfolded(asked) : asked;
  const h = new Hasher();
  values.forEach((x) => h.float(x));
  return {
    key: `hue-bands-${h.hex()}`,
    layout: { kind: 'uniform', lo: 0, hi: 6, n: 4801 },
    fn: (x) => around(values, Math.min(6, Math.max(0, x))),
  };
}

const TAU = 6.283185307179586;
/** Sine and cosine of up to a sixth of a turn by Taylor series, within 1e-7. */
function smallTurn(turn: Node): { sin: Node; cos: Node } {
  const x = turn.mul(TAU),
    x2 = x.mul(x);
  const sin = x2
    .mul(1 / 362_880)
    .add(-1 / 5040)
    .mul(x2)
    .add(1 / 120)
    .mul(x2)
    .add(-1 / 6)
    .mul(x2)
    .add(1)
    .mul(x);
  const cos = x2
    .mul(-1 / 3_628_800)
    .add(1 / 40320)
    .mul(x2)
    .add(-1 / 720)
    .mul(x2)
    .add(1 / 24)
    .mul(x2)
    .add(-1 / 2)
    .mul(x2)
    .add(1);
  return { sin, cos };
}

/** Rotation, saturation and lightness for eight hues. */
export const hueBands = pixelStep({
  id: 'hue-bands',
  family: 'colour',
  label: 'Hue bands',
  help: 'Turns, strengthens or lightens each of eight hues on its own; neighbours overlap softly.',
  domain: 'encoded',
  example: { 'orange-hue': 45, 'blue-hue': -45, 'cyan-hue': -45 },
  parameters: HUES.flatMap(([id, label]) =>
    KINDS.map(([kind, word, unit, most]) =>
      number(`${id}-${kind}`, `${label} ${word}`, unit, -most, most, 0),
    ),
  ),
  grid: {
    columns: ['Hue', 'Saturation', 'Lightness'],
    rows: HUES.map(([id, label]) => ({ label, ids: KINDS.map(([kind]) => `${id}-${kind}`) })),
  },
  numbers: () => [],
  variant: (v) => acting(v).join('+'),
  idle: (v) => acting(v).length === 0,
  tables: (v) => acting(v).map((kind) => bandTable(v, kind, SCALES[kind])),
  pixel: (c, t, v) => {
    const { at, chroma } = hueOf(c);
    const share = coloured(chroma);
    const band = (kind: Kind): Node | undefined => {
      const i = acting(v).indexOf(kind);
      return i < 0 ? undefined : t.curve(i, at).mul(share);
    };
    const [turn, strength, light] = [band('hue'), band('saturation'), band('lightness')];
    let moved = c;
    if (turn) {
      // Rotation about the grey axis by Rodrigues' formula; lightness is restored afterwards.
      const { sin, cos } = smallTurn(turn);
      const mean = c[0]!
        .add(c[1]!)
        .add(c[2]!)
        .mul(1 / 3);
      moved = c.map((x, i) =>
        mix(mean, x, cos).add(c[(i + 2) % 3]!.sub(c[(i + 1) % 3]!).mul(sin.mul(1 / Math.sqrt(3)))),
      );
    }
    const off = turn && luma(c).sub(luma(moved));
    if (strength) moved = saturated(moved, strength.add(1));
    if (off) moved = moved.map((x) => x.add(off));
    const lit = light?.mul(chroma).mul(0.5);
    return lit ? moved.map((x) => x.add(lit)) : moved;
  },
});
