/**
 * Scene light from a clip's display light: inverts what the clip's system did on the way to the
 * screen.
 */
import type { EncodingId } from '../image';
import { powd } from '../kernel';

/**
 * ITU-R BT.709-6 1.2 (also BT.601, BT.2020): the camera's curve, inverted: from signal to scene
 * light.
 */
const fromCamera = (v: number): number =>
  v < 0.081 ? v / 4.5 : powd((v + 0.099) / 1.099, 1 / 0.45);
/** IEC 61966-2-1. */
const srgb = (l: number): number => (l <= 0.0031308 ? 12.92 * l : 1.055 * powd(l, 1 / 2.4) - 0.055);

/** ITU-R BT.2408: an 18 % grey card stands at 26 cd/m² where reference white stands at 203. */
const PQ_GREY = 26 / 203;
/**
 * ITU-R BT.2100 table 4: the PQ system's OOTF is BT.709's camera curve followed by BT.1886's
 * display of 100 cd/m².
 */
const pqScene = (l: number): number => fromCamera(powd((l * 203) / 100, 1 / 2.4));
const PQ_SCALE = 0.18 / pqScene(PQ_GREY);

/**
 * Inverse of display light per encoding. Log, linear and HLG clips (decoded without HLG's system
 * gamma) already hold scene light.
 */
const INVERSE: Partial<Record<EncodingId, (light: number) => number>> = {
  // Display light to BT.1886's signal, then signal to scene light.
  bt709: (l) => fromCamera(powd(l, 1 / 2.4)),
  'bt601-625': (l) => fromCamera(powd(l, 1 / 2.4)),
  'bt601-525': (l) => fromCamera(powd(l, 1 / 2.4)),
  bt2020: (l) => fromCamera(powd(l, 1 / 2.4)),
  // sRGB defines no camera curve: its codes are treated as a BT.709 camera's.
  srgb: (l) => fromCamera(srgb(l)),
  pq: (l) => pqScene(l) * PQ_SCALE,
};

/** Highlights below this share of white are not stretched. */
const KNEE = 0.4;
/**
 * Scene light with its highlights raised: by `reach` stops at clipped white, by none below the
 * knee, smoothly in between.
 */
function stretched(s: number, reach: number): number {
  if (reach === 0 || s <= KNEE) return s;
  const t = Math.min(1, (s - KNEE) / (1 - KNEE));
  return s * powd(2, reach * t * t * (3 - 2 * t));
}

/**
 * Scene light (0.18 is mid grey) from a clip's light (1 is its white). `reach`: how many stops
 * above clipped white the highlights of a display-coded clip reached in the scene. Log clips hold
 * their highlights and ignore it.
 */
export function sceneLight(encoding: EncodingId, reach: number): (light: number) => number {
  const inverse = INVERSE[encoding];
  if (!inverse) return (l) => l;
  return (l) => stretched(inverse(Math.max(0, l)), reach);
}
/** Whether the highlights' reach has an effect for clips of this encoding. */
export const isDisplayCoded = (encoding: EncodingId): boolean => INVERSE[encoding] !== undefined;
