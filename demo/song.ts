/**
 * The song of the demo, synthesised: ten bars of four beats at 100 a minute, 24 seconds. A verse of
 * six bars with drums, bass, a soft organ and plucked notes; two quiet bars without drums; the drums
 * once more; and a last bar that is held.
 */
import { noiseSource, RATE } from './sound';

/** Beats a minute. */
export const TEMPO = 100;
/** Beats in a bar. */
export const BEATS = 4;
/** Parts of the song, in bars. */
export const PARTS = [
  { name: 'verse', from: 0, to: 6 },
  { name: 'break', from: 6, to: 8 },
  { name: 'verse', from: 8, to: 9 },
  { name: 'held', from: 9, to: 10 },
] as const;
const BARS = 10;
/** Seconds of a beat. */
export const BEAT = 60 / TEMPO;
/** Seconds of the song. */
export const LENGTH = BARS * BEATS * BEAT;

/** Chords of the bars, as steps of the twelve-tone scale from the A of 110 Hz. */
const CHORDS: readonly (readonly number[])[] = [
  [0, 12, 15, 19],
  [-4, 12, 15, 20],
  [3, 10, 15, 19],
  [-2, 10, 14, 17],
  [0, 12, 15, 19],
  [-4, 12, 15, 20],
  [5, 12, 17, 20],
  [7, 11, 14, 19],
  [-4, 12, 15, 20],
  [0, 12, 16, 19],
];
/** Eighths of the plucked figure: which note of the chord, −1 for none. */
const FIGURE = [1, -1, 2, 3, -1, 2, 3, 2];

const hertz = (step: number): number => 110 * 2 ** (step / 12);
const barOf = (beat: number): number => Math.floor(beat / BEATS);
const hasDrums = (bar: number): boolean => bar < 6 || bar === 8;

type Stereo = readonly [Float64Array, Float64Array];
/** Adds a sound at a second, to the left (0) or right (1). */
function add(
  to: Stereo,
  at: number,
  seconds: number,
  side: number,
  value: (t: number) => number,
): void {
  const first = Math.round(at * RATE),
    left = Math.sqrt(1 - side),
    right = Math.sqrt(side);
  for (let i = 0; i < seconds * RATE && first + i < to[0].length; i++) {
    const v = value(i / RATE);
    to[0][first + i] = to[0][first + i]! + v * left;
    to[1][first + i] = to[1][first + i]! + v * right;
  }
}
const tone = (f: number, t: number): number => Math.sin(2 * Math.PI * f * t);

function drums(to: Stereo): void {
  const noise = noiseSource(5);
  for (let bar = 0; bar < BARS; bar++) {
    const start = bar * BEATS * BEAT;
    const kick = (beat: number, level = 1) =>
      add(
        to,
        start + beat * BEAT,
        0.4,
        0.5,
        (t) =>
          level *
          0.62 *
          Math.sin(2 * Math.PI * (48 * t + 2.6 * (1 - Math.exp(-t * 30)))) *
          Math.exp(-t * 8),
      );
    if (bar === 9) kick(0);
    if (!hasDrums(bar)) continue;
    [0, 2].forEach((b) => kick(b));
    kick(2.5, 0.6);
    for (const beat of [1, 3]) {
      let low = 0;
      add(to, start + beat * BEAT, 0.22, 0.48, (t) => {
        low += (noise() - low) * 0.35;
        return 0.3 * low * Math.exp(-t * 18) + 0.22 * tone(190 - 40 * t, t) * Math.exp(-t * 26);
      });
    }
    for (let eighth = 0; eighth < 8; eighth++) {
      let before = 0;
      add(to, start + (eighth * BEAT) / 2, 0.05, 0.62, (t) => {
        const n = noise(),
          v = (n - before) * 0.05 * (eighth % 2 === 0 ? 1 : 0.6) * Math.exp(-t * 90);
        before = n;
        return v;
      });
    }
  }
}

function notes(to: Stereo): void {
  CHORDS.forEach((chord, bar) => {
    const start = bar * BEATS * BEAT,
      long = BEATS * BEAT,
      held = bar === BARS - 1,
      quiet = bar === 6 || bar === 7;
    const swell = (t: number): number =>
      Math.min(1, t / 0.08) * Math.min(1, Math.max(0, long - t) / (held ? 1.4 : 0.1));
    chord.slice(1).forEach((step, i) =>
      add(to, start, long, 0.3 + 0.2 * i, (t) => {
        const f = hertz(step) * 2;
        return 0.045 * swell(t) * (tone(f, t) + 0.4 * tone(2 * f, t) + 0.2 * tone(3.003 * f, t));
      }),
    );
    const bass = hertz(chord[0]!) / 2;
    if (!quiet)
      (held ? [0] : [0, 1.5, 2, 3.5]).forEach((beat, i) =>
        add(
          to,
          start + beat * BEAT,
          held ? long : 0.9 * BEAT,
          0.5,
          (t) =>
            0.24 *
            Math.min(1, t / 0.006) *
            Math.exp(-t * (held ? 0.9 : 2.6)) *
            Math.min(1, Math.max(0, (held ? long : 0.9 * BEAT) - t) / 0.03) *
            (tone(bass * (i === 3 ? 1.5 : 1), t) + 0.35 * tone(2 * bass * (i === 3 ? 1.5 : 1), t)),
        ),
      );
    if (!held)
      FIGURE.forEach((which, eighth) => {
        if (which < 0) return;
        const f = hertz(chord[which]!) * 4;
        add(
          to,
          start + (eighth * BEAT) / 2,
          0.7,
          eighth % 2 === 0 ? 0.32 : 0.68,
          (t) =>
            (quiet ? 0.07 : 0.1) *
            Math.min(1, t / 0.003) *
            Math.min(1, (0.7 - t) / 0.02) *
            Math.exp(-t * 7) *
            (tone(f, t) + 0.3 * tone(2.01 * f, t)),
        );
      });
  });
}

/** Left and right, −1…1. */
export function song(): Stereo {
  const to: Stereo = [
    new Float64Array(Math.round(LENGTH * RATE)),
    new Float64Array(Math.round(LENGTH * RATE)),
  ];
  drums(to);
  notes(to);
  // Round where it is loud, without a step.
  for (const channel of to) channel.forEach((v, i) => (channel[i] = Math.tanh(1.1 * v) * 0.9));
  return to;
}

/** Seconds of every beat, and of the first of every bar. */
export const beats = (): { beats: number[]; bars: number[] } => {
  const all = Array.from({ length: BARS * BEATS }, (_, i) => i);
  const second = (beat: number): number => Math.round(beat * BEAT * 1e6) / 1e6;
  return {
    beats: all.map(second),
    bars: all.filter((b) => barOf(b) * BEATS === b).map(second),
  };
};
