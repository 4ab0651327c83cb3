import { type CurveParameter, type CurvePoints, curvesTable } from '../../parameters';
import type { PixelStep } from '../declare';

const STRAIGHT: CurvePoints = [
  [0, 0],
  [1, 1],
];
const curve = (id: string, label: string): CurveParameter => ({
  kind: 'curve',
  id,
  label,
  default: STRAIGHT,
});

/** Curves for all channels together and for each. */
export const toneCurves: PixelStep = {
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
  tables: (v) =>
    ['red', 'green', 'blue'].map((id) =>
      curvesTable(v['all'] as CurvePoints, v[id] as CurvePoints),
    ),
  pixel: (c, t) => c.map((x, i) => t.curve(i, x)),
};
