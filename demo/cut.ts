/** The cut of the demo's song: all twelve clips in 24 seconds, at 25 frames a second. */
import { type CutDocument, type CutSound, type Place, SOUND_RATE } from '../core';

/** Frames of a bar of the song: 100 beats a minute, four to the bar. */
const BAR = 60;
const PER_SECOND = 25;

interface Standing extends Omit<Place, 'key' | 'clip'> {
  readonly clip: string;
}
/** The cut's own row. Overlaps lie around the bars. */
const PLACES: readonly Standing[] = [
  { clip: 'lighthouse-turn', at: 0, frames: BAR, in: 6, comes: 18 },
  { clip: 'coast-van', at: BAR, frames: BAR + 8, in: 0 },
  { clip: 'pier-walk', at: 2 * BAR - 8, frames: 53, in: 10, enters: { look: 'mix' } },
  { clip: 'singer-close', at: 165, frames: BAR + 4, in: 2 },
  { clip: 'gulls', at: 221, frames: 49, in: 20, enters: { look: 'flash' } },
  { clip: 'kelp', at: 270, frames: BAR + 10, in: 8 },
  {
    clip: 'rain-window',
    at: 320,
    frames: 70,
    in: 4,
    enters: { look: 'wipe', dials: { soft: 160, angle: 24 } },
  },
  { clip: 'radio-dial', at: 390, frames: 30, in: 20 },
  { clip: 'floor-tom', at: 420, frames: 38, in: 14 },
  {
    clip: 'deck-dancer',
    at: 442,
    frames: 68,
    in: 10,
    enters: { look: 'torn', dials: { angle: -18 } },
  },
  { clip: 'white-room', at: 510, frames: 36, in: 12 },
  { clip: 'skyline', at: 534, frames: 66, in: 4, enters: { look: 'dip' }, goes: 30 },
];
/** Above it: light that leaks over a cut, and a sign over a face. */
const ABOVE: readonly Standing[] = [
  { clip: 'light-leak', at: 48, frames: 30, in: 0, blend: 'screen', comes: 6, goes: 10 },
  {
    clip: 'blinking-sign',
    at: 180,
    frames: 36,
    in: 0,
    blend: 'screen',
    opacity: 55,
    comes: 8,
    goes: 8,
  },
];
/** Sounds under it, with the frame at which they begin. */
const SOUNDS: readonly (Pick<CutSound, 'level'> & {
  readonly sound: string;
  readonly at: number;
  readonly pan?: number;
})[] = [
  { sound: 'harbour-static', at: 0, level: 0 },
  { sound: 'whoosh', at: 208, level: -8 },
  { sound: 'wings', at: 228, level: -12, pan: 30 },
  { sound: 'winding', at: 388, level: -16 },
  { sound: 'shutter', at: 534, level: -10 },
];

const standing = (
  all: readonly Standing[],
  stem: string,
  clip: (name: string) => string,
): readonly Place[] =>
  all.map(({ clip: name, ...p }, i) => ({ ...p, key: `${stem}-${i + 1}`, clip: clip(name) }));

/** The document, with clips and sounds by their names. */
export function demoCut(
  clip: (name: string) => string,
  sound: (name: string) => { readonly id: string; readonly samples: number },
): CutDocument {
  const sounds = SOUNDS.map(({ sound: name, at, ...how }, i): CutSound => {
    const { id, samples } = sound(name);
    return {
      ...how,
      ...{ key: `sound-${i + 1}`, sound: id, from: 0, samples },
      at: (at * SOUND_RATE) / PER_SECOND,
    };
  });
  return {
    schema: 1,
    rows: [
      { key: 'row', name: '', places: standing(PLACES, 'place', clip) },
      { key: 'above', name: '', places: standing(ABOVE, 'above', clip) },
    ],
    sounds,
    markers: [
      { key: 'break', at: 6 * BAR, words: 'quiet' },
      { key: 'held', at: 9 * BAR, words: 'held' },
    ],
    song: 'sound-1',
  };
}
