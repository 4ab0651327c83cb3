import { type CurveParameter, type CurvePoints, curvesTable } from '../../parameters';
import { pixelStep } from '../declare';

const STRAIGHT: CurvePoints = [
  [0, 0],
  [1, 1],
];
const curve = <const Id extends string>(id: Id, label: string): CurveParameter & { id: Id } => ({
  kind: 'curve',
  id,
  label,
  default: STRAIGHT,
});

/** Curves for all channels together and for each. */
export const toneCurves = pixelStep({
  id: 'tone-curves',
  family: 'colour',
  label: 'Tone curves',
  help: 'Bends the tones of all channels, then of red, green and blue each.',
  domain: 'encoded',
  example: {
    all: [
      [0, 0],
      [0.3, 0.16],
      [0.7, 0.86],
      [1, 1],
    ],
  },
  parameters: [
    curve('all', 'All'),
    curve('red', 'Red'),
    curve('green', 'Green'),
    curve('blue', 'Blue'),
  ],
  channelwise: () => 25,
  numbers: () => [],
  tables: (v) => (['red', 'green', 'blue'] as const).map((id) => curvesTable(v.all, v[id])),
  pixel: (c, t) => c.map((x, i) => t.curve(i, x)),
});
