/**
 * What the demo's clips are: the scene each is drawn from and the camera it was "shot" on
 * (SCENARIO's mismatches).
 */
export interface SceneSpec {
  readonly name: string;
  /** Pixels. */
  readonly size: readonly [number, number];
  /** Frames a second, as an integer fraction. */
  readonly rate: readonly [number, number];
  readonly frames: number;
  /** Stops away from a correct exposure. */
  readonly exposure: number;
  /** Linear gains of red, green and blue: the camera's white balance error. */
  readonly gains: readonly [number, number, number];
  readonly encoding: 'bt709' | 'acescct';
  /** Standard deviation of the sensor's noise at mid grey, linear. */
  readonly noise: number;
  /** Samples a pixel over the open shutter. */
  readonly samples: number;
  /** Has a subject whose coverage is kept as truth. */
  readonly matte: boolean;
  readonly sound?: 'beat' | 'wash';
  readonly crf: number;
  /** A plate, and what it is kept as: film, film with coverage, a picture with coverage. */
  readonly plate?: 'film' | 'covering-film' | 'covering-still';
}

const film = {
  rate: [25, 1],
  exposure: 0,
  gains: [1, 1, 1],
  encoding: 'bt709',
  noise: 0.006,
  samples: 3,
  matte: false,
  size: [960, 540],
  crf: 19,
} as const;

export const SCENES: readonly SceneSpec[] = [
  { ...film, name: 'rain-window', frames: 80, samples: 3 },
  { ...film, name: 'deck-dancer', frames: 80, exposure: -1.1, matte: true, sound: 'beat' },
  { ...film, name: 'lighthouse-turn', frames: 80, gains: [1.06, 1, 0.9] },
  { ...film, name: 'pier-walk', frames: 80, encoding: 'acescct', matte: true, noise: 0.004 },
  { ...film, name: 'coast-van', frames: 96, rate: [30000, 1001], matte: true, sound: 'wash' },
  { ...film, name: 'gulls', frames: 80, exposure: 0.25, matte: true },
  { ...film, name: 'white-room', frames: 80, size: [540, 960], matte: true },
  { ...film, name: 'kelp', frames: 80, gains: [0.72, 0.98, 1.5], matte: true },
  { ...film, name: 'radio-dial', frames: 75, samples: 2, matte: true, exposure: -0.3 },
  {
    ...film,
    name: 'floor-tom',
    frames: 75,
    samples: 2,
    exposure: -0.2,
    gains: [0.97, 1, 1.08],
    noise: 0.009,
    matte: true,
    sound: 'beat',
    crf: 20,
  },
  {
    ...film,
    name: 'singer-close',
    frames: 75,
    samples: 2,
    matte: true,
    exposure: 0.15,
    gains: [1.05, 1, 0.95],
    sound: 'wash',
  },
  { ...film, name: 'skyline', frames: 75, size: [1920, 1080], samples: 1, crf: 20 },
];
