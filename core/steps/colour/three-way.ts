import { exp2d } from '../../kernel';
import { number } from '../../parameters';
import { pixelStep } from '../declare';
import { bent } from './bend';

const CHANNELS = [
  ['red', 'red'],
  ['green', 'green'],
  ['blue', 'blue'],
] as const;
const WAYS = [
  ['lift', 'Lift'],
  ['gamma', 'Gamma'],
  ['gain', 'Gain'],
] as const;

type Way = (typeof WAYS)[number][0];
const numbersOf = <const Id extends Way>(id: Id, label: string) => [
  number(id, label, '%', -100, 100, 0, { soft: [-50, 50] }),
  ...CHANNELS.map(([channel, word]) =>
    number(`${id}-${channel}`, `${label} ${word}`, '%', -100, 100, 0, { soft: [-50, 50] }),
  ),
];
type Channel = (typeof CHANNELS)[number][0];
type Ways = Readonly<Record<Way | `${Way}-${Channel}`, number>>;

const bends = (v: Ways): boolean => v.gamma !== 0 || CHANNELS.some(([c]) => v[`gamma-${c}`] !== 0);

/**
 * gain · (x + lift · (1 − x)), then to the power 1 ÷ gamma. Lift keeps white, gain keeps black,
 * gamma keeps both. Lift moves by up to half the scale; gain and gamma range from a quarter to four
 * times.
 */
export const threeWay = pixelStep({
  id: 'three-way',
  family: 'colour',
  label: 'Three-way',
  help: 'Lift moves the blacks, gain the whites, gamma what lies between: together and by colour.',
  domain: 'encoded',
  example: { 'lift-blue': 14, 'gain-red': 12 },
  parameters: WAYS.flatMap(([id, label]) => numbersOf(id, label)),
  wheels: WAYS.map(([id, label]) => ({
    label,
    all: id,
    channels: CHANNELS.map(([channel]) => `${id}-${channel}`) as [string, string, string],
  })),
  grid: {
    columns: WAYS.map(([, label]) => label),
    rows: [
      { label: 'All', ids: WAYS.map(([id]) => id) },
      ...CHANNELS.map(([channel, word]) => ({
        label: `${word[0]!.toUpperCase()}${word.slice(1)}`,
        ids: WAYS.map(([id]) => `${id}-${channel}`),
      })),
    ],
  },
  numbers: (v) => {
    const sum = (id: Way, channel: Channel) => (v[id] + v[`${id}-${channel}`]) / 100;
    return [
      ...CHANNELS.map(([c]) => Math.max(-0.9, Math.min(0.9, sum('lift', c) * 0.5))),
      ...CHANNELS.map(([c]) => exp2d(2 * Math.max(-1, Math.min(1, -sum('gamma', c))))),
      ...CHANNELS.map(([c]) => exp2d(2 * Math.max(-1, Math.min(1, sum('gain', c))))),
    ];
  },
  channelwise: (v) => (bends(v) ? 50 : 4),
  // Without gamma no power is computed.
  variant: (v) => (bends(v) ? 'bent' : 'straight'),
  pixel: (c, t, v) =>
    c.map((x, i) => {
      const lifted = x.mul(t.n(i).neg().add(1)).add(t.n(i));
      const gained = lifted.mul(t.n(6 + i));
      return bends(v) ? bent(gained, t.n(3 + i)) : gained;
    }),
});
