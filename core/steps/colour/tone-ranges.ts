import { Hasher } from '../../graph';
import { type CurveTable, luma, select } from '../../kernel';
import { number } from '../../parameters';
import { pixelStep } from '../declare';

const IDS = ['highlights', 'shadows', 'whites', 'blacks'] as const;
/** How far each range moves at 100 %. */
const REACH = [0.16, 0.16, 0.2, 0.1] as const;
const LAYOUT = { kind: 'uniform', lo: -0.25, hi: 1.5, n: 1793 } as const;
/** Smallest slope, so that tones that are moved together neither reverse nor become flat. */
const LEAST_SLOPE = 0.05;

const rise = (lo: number, hi: number, y: number): number => {
  const t = Math.max(0, Math.min(1, (y - lo) / (hi - lo)));
  return t * t * (3 - 2 * t);
};

/** Weight of each range at a lightness. */
const shares = (y: number): readonly number[] => [
  rise(0.3, 0.7, y) * (1 - rise(0.7, 1.15, y)),
  rise(0, 0.25, y) * (1 - rise(0.3, 0.7, y)),
  rise(0.55, 1, y),
  1 - rise(0, 0.4, y),
];

/** The new lightness for each lightness over −¼…1½, continued by the end slopes. */
function movedTones(v: Readonly<Record<(typeof IDS)[number], number>>): CurveTable {
  const amounts = IDS.map((id, i) => (v[id] / 100) * REACH[i]!);
  const { lo, hi, n } = LAYOUT;
  const step = (hi - lo) / (n - 1);
  const to: number[] = [];
  for (let i = 0; i < n; i++) {
    const y = lo + i * step;
    const wanted = shares(y).reduce((sum, share, k) => sum + share * amounts[k]!, y);
    to.push(i === 0 ? wanted : Math.max(wanted, to[i - 1]! + LEAST_SLOPE * step));
  }
  const h = new Hasher();
  amounts.forEach((a) => h.float(a));
  return {
    key: `tone-ranges-${h.hex()}`,
    layout: LAYOUT,
    fn: (y) => {
      const at = Math.max(0, Math.min(n - 1, (y - lo) / step)),
        i = Math.min(n - 2, Math.floor(at));
      const beyond = y < lo ? y - lo : Math.max(0, y - hi);
      return to[i]! + (to[i + 1]! - to[i]!) * (at - i) + beyond * ((to[i + 1]! - to[i]!) / step);
    },
  };
}

/** Four overlapping ranges of lightness, each moved separately. */
export const toneRanges = pixelStep({
  id: 'tone-ranges',
  family: 'colour',
  label: 'Tone ranges',
  help: 'Moves highlights, shadows, whites and blacks each on their own.',
  domain: 'encoded',
  example: { highlights: -60, shadows: 55 },
  parameters: [
    number('highlights', 'Highlights', '%', -100, 100, 0),
    number('shadows', 'Shadows', '%', -100, 100, 0),
    number('whites', 'Whites', '%', -100, 100, 0),
    number('blacks', 'Blacks', '%', -100, 100, 0),
  ],
  idle: (v) => IDS.every((id) => v[id] === 0),
  numbers: () => [],
  tables: (v) => [movedTones(v)],
  pixel: (c, t) => {
    const y = luma(c);
    const to = t.curve(0, y),
      move = to.sub(y);
    // Raising adds light and keeps colour; lowering scales and keeps colour, so that nothing falls
    // below black.
    const scale = to.max(0).div(y.max(1e-4));
    return c.map((x) => select(move.lt(0).and(y.lt(1e-4).not()), x.mul(scale), x.add(move)));
  },
});
