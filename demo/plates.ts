/**
 * The demo's plates: what each is drawn from. Their motion comes round within the two seconds they
 * last.
 */
import type { SceneSpec } from './scenes';

const plate = {
  rate: [25, 1],
  frames: 50,
  exposure: 0,
  gains: [1, 1, 1],
  encoding: 'bt709',
  noise: 0,
  samples: 2,
  matte: false,
  size: [960, 540],
  crf: 21,
  plate: 'film',
} as const satisfies Partial<SceneSpec>;

export const PLATES: readonly SceneSpec[] = [
  { ...plate, name: 'dust-bright', samples: 1, crf: 24 },
  { ...plate, name: 'dust-dark', samples: 1, crf: 24 },
  { ...plate, name: 'light-leak' },
  { ...plate, name: 'film-burn' },
  { ...plate, name: 'caustics' },
  { ...plate, name: 'tape-noise', samples: 1, crf: 30 },
  { ...plate, name: 'lens-flare' },
  { ...plate, name: 'blinking-sign', plate: 'covering-film' },
  { ...plate, name: 'rounded-gate', frames: 1, samples: 6, plate: 'covering-still' },
  { ...plate, name: 'torn-paper', frames: 1, samples: 6, plate: 'covering-still' },
  { ...plate, name: 'television', frames: 1, samples: 6, plate: 'covering-still' },
];
